import { Injectable } from '@nestjs/common';
import type { DecideInput, DecisionAnswer } from '@corvun/contract';
import { count, isWeek, sayMinutes } from '@corvun/core';
import { InjectRepository } from '@nestjs/typeorm';
import { In, Repository } from 'typeorm';
import { Refusal, badField, notFound } from '../base/errors';
import type { User } from '../accounts/user.entity';
import { Incoming } from '../incoming/incoming.entity';
import { IncomingService } from '../incoming/incoming.service';
import { List } from '../lists/list.entity';
import { answerInvitation } from './answer.route';
import { makeEvent } from './event.route';
import { mailOut } from './mail-out';
import { Kernel, byUser } from '../kernel/kernel.service';
import { makePerson } from './person.route';
import { dayField, listOf, sayPlanDay, sayStart, titleFor, type Outcome, type Plan, type Route } from './plan';
import { keepReference } from './reference.route';
import { makeMore, makeTask, makeTimed, startOf } from './task.route';

const DEFAULT_EVENT = 60;
/** Destinations that make a task; only a task is on a list. */
const MAKES_TASK = new Set<DecideInput['to']>(['list', 'day', 'week', 'time', 'hand-over', 'shelf', 'done']);

/** Carries out decisions on incoming things. */
@Injectable()
export class DecideService {
  constructor(
    private readonly kernel: Kernel,
    private readonly incoming: IncomingService,
    @InjectRepository(List) private readonly lists: Repository<List>,
    @InjectRepository(Incoming) private readonly rows: Repository<Incoming>,
  ) {}

  private readonly routes: Record<DecideInput['to'], Route> = {
    list: async (work, plan) => {
      if (!plan.list) throw badField('list', 'Say on which list it goes.');
      return { made: [await makeTask(work, plan, {})], where: `is on ${plan.list.name}` };
    },
    day: async (work, plan) => {
      const day = dayField('day', plan.input.day ?? plan.suggestion?.day ?? undefined, 'Say on which day, as YYYY-MM-DD.');
      return {
        made: [await makeTask(work, plan, { plannedDay: day })],
        where: `is on ${sayPlanDay(day, plan)}${plan.list ? `, ${plan.list.name}` : ''}`,
      };
    },
    week: async (work, plan) => {
      const { week } = plan.input;
      if (!week || !isWeek(week)) throw badField('week', 'Say in which week, as YYYY-Www.');
      return { made: [await makeTask(work, plan, { plannedWeek: week })], where: `is in week ${Number(week.slice(6))}` };
    },
    time: makeTimed,
    event: async (work, plan) => {
      const start = startOf(plan);
      const minutes = plan.input.minutes ?? plan.suggestion?.minutes ?? DEFAULT_EVENT;
      const wanted = { title: plan.title, start, minutes };
      const { made, invited } = await makeEvent(work, plan.user, plan.incoming, wanted, plan.input);
      return {
        made: [made],
        where: `is an event on ${sayStart(start, plan)}${invited ? `; ${invited}` : ''}`,
      };
    },
    'hand-over': async (work, plan) => {
      const who = plan.input.with?.trim();
      if (!who) throw badField('with', 'Say to whom it is handed over.');
      const by = plan.input.deadline ? `, until ${sayPlanDay(plan.input.deadline.slice(0, 10), plan)}` : '';
      return { made: [await makeTask(work, plan, { waitingOn: who, waitingSince: plan.now })], where: `waits on ${who}${by}` };
    },
    person: makePerson,
    shelf: async (work, plan) => {
      const lookAgain = plan.input.lookAgain ? dayField('lookAgain', plan.input.lookAgain, 'Write the day as YYYY-MM-DD.') : null;
      return {
        made: [await makeTask(work, plan, { shelved: true, lookAgain })],
        where: `is on the shelf${lookAgain ? ` until ${sayPlanDay(lookAgain, plan)}` : ''}`,
      };
    },
    done: async (work, plan) => {
      const spent = plan.input.minutes ?? 0;
      const mailed = plan.input.mail ? await mailOut(work, plan.user, plan.incoming, plan.input.mail) : '';
      return {
        made: [await makeTask(work, plan, { status: 'COMPLETED', completed: plan.now, spent })],
        where: `${mailed || 'is done'}${spent ? `, ${sayMinutes(spent)}` : ''}`,
      };
    },
    reference: keepReference,
    drop: () => Promise.resolve({ made: [], where: 'was dropped' }),
    answer: (work, { user, incoming, input }) => answerInvitation(work, user, incoming, input),
  };

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
    const lists = await this.lists.findBy({ ownerId: user.id });
    const { decision, sentence, result } = await this.kernel.transact(
      { ...byUser(user), ...(at === undefined ? {} : { at }) },
      async (work) => {
        const outcomes: Outcome[] = [];
        for (const [at, row] of rows.entries()) {
          const suggestion = lines[at]?.suggestion ?? null;
          const incoming = await work.find('incoming', row.id);
          if (incoming.state === 'decided') {
            throw new Refusal(
              409,
              'decided-already',
              'This was decided already. Take that back first if it should become something else.',
              { present: { state: incoming.state, outcome: incoming.outcome } },
            );
          }
          const plan: Plan = {
            user,
            incoming,
            input,
            suggestion,
            list: MAKES_TASK.has(input.to) ? listOf(input, suggestion, lists) : null,
            title: titleFor(input, suggestion, incoming),
            now: work.now,
          };
          if (input.also?.length && !MAKES_TASK.has(input.to))
            throw badField('also', 'More tasks come only with a task: choose a list, a day, a time or the shelf.');
          const outcome = await this.routes[input.to](work, plan);
          for (const more of input.also ?? []) outcome.made.push(await makeMore(work, plan, more, lists));
          const present = await work.find('incoming', row.id);
          await work.update('incoming', present, {
            state: 'decided',
            outcome: input.to,
            outcomeListId: plan.list?.id ?? null,
            decided: work.now,
          });
          outcomes.push(outcome);
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
}

function moreSaid({ also }: DecideInput): string {
  return also?.length ? `, with ${count(also.length, 'more task')} from it` : '';
}
