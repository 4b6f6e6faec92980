import { Injectable } from '@nestjs/common';
import type { AlsoInput, DecideInput, DecisionAnswer, MadeThing } from '@corvun/contract';
import { MINUTE, count, dayOf, isDay, isWeek, parseIso, sayDay, sayMinutes, sayTime, type Suggestion } from '@corvun/core';
import { InjectRepository } from '@nestjs/typeorm';
import { In, Repository } from 'typeorm';
import { Refusal, badField, notFound } from '../base/errors';
import type { User } from '../accounts/user.entity';
import { Incoming } from '../incoming/incoming.entity';
import { IncomingService } from '../incoming/incoming.service';
import { List } from '../lists/list.entity';
import { PersonRow } from '../people/person.entity';
import { attachTask, cardDefaults } from '../sources/attach';
import { answerInvitation } from './answer.route';
import { blankTask } from './blanks';
import { makeEvent, nameAndAddress } from './event.route';
import { mailOut } from './mail-out';
import { Journal, type Work } from './journal.service';
import { keepTags } from '../tags/keep-tags';

const DEFAULT_BLOCK = 30;
const DEFAULT_EVENT = 60;
/** Destinations that make a task; only a task is on a list. */
const MAKES_TASK = new Set<DecideInput['to']>(['list', 'day', 'week', 'time', 'hand-over', 'shelf', 'done']);

/** What one incoming becomes: the input with the suggestion filled in. */
interface Plan {
  user: User;
  incoming: Incoming;
  input: DecideInput;
  suggestion: Suggestion | null;
  list: List | null;
  title: string;
  now: number;
}

interface Outcome {
  made: MadeThing[];
  where: string;
}

type Route = (work: Work, plan: Plan) => Promise<Outcome>;

/** Carries out decisions on incoming things. */
@Injectable()
export class DecideService {
  constructor(
    private readonly journal: Journal,
    private readonly incoming: IncomingService,
    @InjectRepository(List) private readonly lists: Repository<List>,
    @InjectRepository(Incoming) private readonly rows: Repository<Incoming>,
  ) {}

  private readonly routes: Record<DecideInput['to'], Route> = {
    list: async (work, plan) => {
      if (!plan.list) throw badField('list', 'Say on which list it goes.');
      return { made: [await this.makeTask(work, plan, {})], where: `is on ${plan.list.name}` };
    },
    day: async (work, plan) => {
      const day = dayField('day', plan.input.day, 'Say on which day, as YYYY-MM-DD.');
      return { made: [await this.makeTask(work, plan, { plannedDay: day })], where: `is on ${this.say(day, plan)}` };
    },
    week: async (work, plan) => {
      const { week } = plan.input;
      if (!week || !isWeek(week)) throw badField('week', 'Say in which week, as YYYY-Www.');
      return { made: [await this.makeTask(work, plan, { plannedWeek: week })], where: `is in week ${Number(week.slice(6))}` };
    },
    time: async (work, plan) => {
      const minutes = plan.input.minutes ?? plan.suggestion?.minutes ?? DEFAULT_BLOCK;
      const start = this.startOf(plan);
      const task = await this.makeTask(work, plan, { plannedDay: dayOf(start, plan.user.zone), estimate: minutes });
      const block = await work.insert('block', {
        kind: 'work',
        taskId: task.id,
        startAt: start,
        endAt: start + minutes * MINUTE,
        busy: true,
      });
      return {
        made: [task, { kind: 'block', id: block.id, title: task.title }],
        where: `has time on ${this.sayStart(start, plan)}, ${sayMinutes(minutes)}`,
      };
    },
    event: async (work, plan) => {
      const start = this.startOf(plan);
      const minutes = plan.input.minutes ?? plan.suggestion?.minutes ?? DEFAULT_EVENT;
      const wanted = { title: plan.title, start, minutes };
      const { made, invited } = await makeEvent(work, plan.user, plan.incoming, wanted, plan.input);
      return {
        made: [made],
        where: `is an event on ${this.sayStart(start, plan)}${invited ? `; ${invited} is invited` : ''}`,
      };
    },
    'hand-over': async (work, plan) => {
      const who = plan.input.with?.trim();
      if (!who) throw badField('with', 'Say to whom it is handed over.');
      return { made: [await this.makeTask(work, plan, { waitingOn: who, waitingSince: plan.now })], where: `waits on ${who}` };
    },
    person: async (work, plan) => {
      const given = plan.input.with
        ? nameAndAddress(plan.input.with)
        : { name: plan.incoming.senderName, address: plan.incoming.senderAddress };
      if (!given.name && !given.address) throw badField('with', 'Say who it is: the message has no sender.');
      const known = given.address
        ? await work.manager.findOneBy(PersonRow, { ownerId: plan.user.id, address: given.address })
        : null;
      const person =
        known ??
        (await work.insert('person', {
          name: given.name || given.address,
          address: given.address,
          organisation: '',
          phone: '',
          note: '',
        }));
      return {
        made: [{ kind: 'person', id: person.id, title: person.name }],
        where: known ? `went to ${person.name}, known already` : `made ${person.name} known`,
      };
    },
    shelf: async (work, plan) => {
      const lookAgain = plan.input.lookAgain ? dayField('lookAgain', plan.input.lookAgain, 'Write the day as YYYY-MM-DD.') : null;
      return {
        made: [await this.makeTask(work, plan, { shelved: true, lookAgain })],
        where: `is on the shelf${lookAgain ? ` until ${this.say(lookAgain, plan)}` : ''}`,
      };
    },
    done: async (work, plan) => {
      const spent = plan.input.minutes ?? 0;
      const mailed = plan.input.mail ? await mailOut(work, plan.user, plan.incoming, plan.input.mail) : '';
      return {
        made: [await this.makeTask(work, plan, { status: 'COMPLETED', completed: plan.now, spent })],
        where: `${mailed || 'is done'}${spent ? `, ${sayMinutes(spent)}` : ''}`,
      };
    },
    reference: (_work, { incoming, title }) =>
      Promise.resolve({ made: [{ kind: 'reference', id: incoming.id, title }], where: 'is kept for reference' }),
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
    const { decision, sentence, result } = await this.journal.run(
      user.id,
      { action: 'decide', destination: input.to, incomingIds: ids },
      async (work) => {
        const outcomes: Outcome[] = [];
        for (const [at, row] of rows.entries()) {
          const suggestion = lines[at]?.suggestion ?? null;
          const incoming = await work.find('incoming', row.id, 'incoming thing with this id');
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
          const outcome = await this.routes[input.to](work, plan);
          for (const more of input.also ?? []) outcome.made.push(await this.makeMore(work, plan, more, lists));
          const present = await work.find('incoming', row.id, 'incoming thing with this id');
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
        return { sentence: said, result: outcomes.flatMap((outcome) => outcome.made) };
      },
      at,
    );
    return { decision, sentence, made: result };
  }

  /** Another task from the same message, where it was said or where the first goes. */
  private makeMore(work: Work, plan: Plan, { title, list, day }: AlsoInput, lists: List[]): Promise<MadeThing> {
    if (!MAKES_TASK.has(plan.input.to))
      throw badField('also', 'More tasks come only with a task: choose a list, a day, a time or the shelf.');
    const { plannedDay, plannedWeek } = { plannedDay: plan.input.day ?? null, plannedWeek: plan.input.week ?? null };
    const own = list ? { ...plan, list: listOf({ ...plan.input, list }, null, lists) } : plan;
    const bare = { ...own, title, suggestion: null, input: { incoming: plan.input.incoming, to: plan.input.to, deadline: null } };
    const when = day
      ? { plannedDay: dayField('day', day, ''), plannedWeek: null }
      : list || plan.input.to === 'done'
        ? { plannedDay: null, plannedWeek: null }
        : { plannedDay, plannedWeek };
    return this.makeTask(work, bare, when);
  }

  private async makeTask(work: Work, plan: Plan, fields: Partial<ReturnType<typeof blankTask>>): Promise<MadeThing> {
    const { suggestion, incoming } = plan;
    const input = { ...(await cardDefaults(work, incoming)), ...said(plan.input) };
    const deadline = input.deadline === undefined ? (suggestion?.deadline ?? null) : input.deadline;
    if (deadline && !isDay(deadline.slice(0, 10))) throw badField('deadline', `${deadline} is not a date.`);
    const tags = input.tags ?? suggestion?.tags ?? [];
    await keepTags(work, tags);
    const task = await work.insert('task', {
      ...blankTask(),
      title: plan.title,
      notes: input.notes ?? '',
      listId: plan.list?.id ?? null,
      tags,
      priority: input.priority ?? suggestion?.priority ?? 'normal',
      estimate: input.minutes ?? suggestion?.minutes ?? null,
      deadline,
      deadlineFixed: deadline ? (input.fixed ?? suggestion?.deadlineFixed ?? false) : false,
      concentration: plan.list?.concentration ?? 'medium',
      incomingId: incoming.id,
      position: work.now,
      ...fields,
    });
    await attachTask(work, incoming, task);
    return { kind: 'task', id: task.id, title: task.title };
  }

  private startOf({ input, suggestion, user }: Plan): number {
    const start = parseIso(input.start ?? suggestion?.start ?? '', user.zone);
    if (Number.isNaN(start)) throw badField('start', 'Say when it begins, as YYYY-MM-DDTHH:MM.');
    return start;
  }

  private say(day: string, { user, now }: Plan): string {
    return sayDay(day, dayOf(now, user.zone));
  }

  private sayStart(start: number, plan: Plan): string {
    return `${this.say(dayOf(start, plan.user.zone), plan)} at ${sayTime(start, plan.user.zone)}`;
  }
}

const said = (input: DecideInput) =>
  Object.fromEntries(Object.entries(input).filter(([, value]) => value !== undefined)) as unknown as DecideInput;

function titleFor(input: DecideInput, suggestion: Suggestion | null, incoming: Incoming): string {
  const chosen = input.incoming.length === 1 ? input.title?.trim() : undefined;
  return (chosen || suggestion?.title || incoming.readTitle || incoming.subject || 'Message without a subject').slice(0, 500);
}

function moreSaid({ also }: DecideInput): string {
  return also?.length ? `, with ${count(also.length, 'more task')} from it` : '';
}

/** The list that was named, else the suggested one; an empty name means none. */
function listOf(input: DecideInput, suggestion: Suggestion | null, lists: List[]): List | null {
  const name = input.list === undefined || input.list === null ? suggestion?.list : input.list;
  if (!name) return null;
  const list = lists.find((one) => one.id === name || one.name.toLowerCase() === name.toLowerCase());
  if (!list) throw badField('list', `There is no list “${name}”.`);
  return list;
}

function dayField(field: string, day: string | undefined, sentence: string): string {
  if (!day || !isDay(day)) throw badField(field, day ? `${day} is not a day in the calendar.` : sentence);
  return day;
}
