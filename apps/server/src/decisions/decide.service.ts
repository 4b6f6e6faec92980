import { Injectable } from '@nestjs/common';
import type { DecideInput, DecisionAnswer, Done } from '@corvun/contract';
import { count } from '@corvun/core';
import { InjectRepository } from '@nestjs/typeorm';
import { In, Repository } from 'typeorm';
import { Refusal, notFound } from '../base/errors';
import type { User } from '../accounts/user.entity';
import { Incoming } from '../incoming/incoming.entity';
import { IncomingService } from '../incoming/incoming.service';
import { List } from '../lists/list.entity';
import { Kernel, byUser } from '../kernel/kernel.service';
import { listOf, makesTask, titleFor, type Outcome, type Plan, type Route } from './plan';
import { ROUTES } from './routes';
import { makeMore } from './task.route';

/** Carries out decisions on incoming things. */
@Injectable()
export class DecideService {
  constructor(
    private readonly kernel: Kernel,
    private readonly incoming: IncomingService,
    @InjectRepository(List) private readonly lists: Repository<List>,
    @InjectRepository(Incoming) private readonly rows: Repository<Incoming>,
  ) {}

  /**
   * Decides one or many incoming things, as one doing that one undo takes back.
   * @param at when it was decided, for history brought in from elsewhere; now when absent
   * @throws Refusal unknown thing, decided already, or a field that the destination needs
   */
  async decide(user: User, input: DecideInput, at?: number): Promise<DecisionAnswer> {
    const ids = [...new Set(input.incoming)];
    const rows = await this.rows.find({ where: { ownerId: user.id, id: In(ids) }, order: { received: 'ASC' } });
    if (rows.length < ids.length) throw notFound('incoming thing with this id');
    const lines = await this.incoming.linesOf(user, rows);
    const lists = await this.lists.findBy({ ownerId: user.id, archived: false });
    const { decision, sentence, result } = await this.kernel.transact(
      { ...byUser(user), ...(at === undefined ? {} : { at }) },
      async (work) => {
        const outcomes: Outcome[] = [];
        for (const [at, row] of rows.entries()) {
          const suggestion = lines[at]?.suggestion ?? null;
          const incoming = await work.find('incoming', row.id);
          if (incoming.state === 'decided') {
            throw new Refusal(
              'decided-already',
              'This was decided already. Take that back first if it should become something else.',
              { present: { state: incoming.state, outcome: incoming.outcome } },
            );
          }
          if (incoming.conflict && input.to !== 'drop')
            throw new Refusal(
              'two-versions',
              'This was changed here and there. Say which of both to keep, or drop the question.',
            );
          const plan: Plan = {
            user,
            incoming,
            input,
            suggestion,
            list: makesTask(input) ? listOf(input, suggestion, lists) : null,
            title: titleFor(input, suggestion, incoming),
            now: work.now,
          };
          const outcome = await (ROUTES[input.to] as Route<typeof input.to>)(work, plan);
          if (makesTask(input))
            for (const more of input.also ?? []) outcome.made.push(await makeMore(work, { ...plan, input }, more, lists));
          outcomes.push(outcome);
          // To know who wrote says nothing about what they ask.
          if (input.to === 'person') continue;
          const present = await work.find('incoming', row.id);
          await work.update('incoming', present, {
            state: 'decided',
            outcome: input.to,
            outcomeListId: plan.list?.id ?? null,
            decided: work.now,
          });
        }
        const one = outcomes[0];
        const first = rows[0];
        const said =
          rows.length === 1 && one && first
            ? `“${titleFor(input, lines[0]?.suggestion ?? null, first)}” ${one.where}${moreSaid(input)}`
            : `${rows.length} things: each ${one?.where ?? ''}`;
        work.say({ action: 'decide', destination: input.to, incomingIds: ids, sentence: said });
        return outcomes.flatMap((outcome) => outcome.made);
      },
    );
    return { decision, sentence, made: result };
  }

  /** Puts what was decided back among what waits; what came of it stays. @throws Refusal where it waits already */
  async reopen(user: User, id: string): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const incoming = await work.find('incoming', id);
      if (incoming.state !== 'decided') throw new Refusal('not-decided', 'This waits to be decided already.');
      await work.update('incoming', incoming, { state: 'waiting', outcome: null, outcomeListId: null, decided: null });
      work.say({ action: 'change', incomingIds: [id], sentence: `“${incoming.subject || incoming.readTitle}” waits again` });
    });
    return { decision, sentence };
  }
}

function moreSaid(input: DecideInput): string {
  const more = makesTask(input) ? (input.also?.length ?? 0) : 0;
  return more ? `, with ${count(more, 'more task')} from it` : '';
}
