import { Injectable } from '@nestjs/common';
import type { BeginningInput, BlockChange, BlockInput, DecisionAnswer, Done, MadeThing } from '@corvun/contract';
import { MINUTE, count, dayOf, parseIso, sayDay, sayMinutes, sayTime, tidySites } from '@corvun/core';
import { LessThanOrEqual, MoreThan } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { badField } from '../base/errors';
import { Kernel, byUser } from '../kernel/kernel.service';
import { lineTask } from '../capture/line-task';
import type { Work } from '../kernel/work';
import type { Event } from '../events/event.entity';
import type { Task } from '../tasks/task.entity';
import { Block } from './block.entity';
import { timeFor } from './task-time';
import { followBlock } from './move-blocks';

const NAMES: Record<Block['kind'], string> = {
  work: 'Work',
  quiet: 'Quiet time',
  break: 'Break',
  prep: 'Preparation',
  'follow-up': 'Follow-up',
  travel: 'Travel',
};

/** What a block is called: its task, its own name, or what it is for. */
export const blockTitle = (
  { kind, title }: Pick<Block, 'kind' | 'title'>,
  task: Pick<Task, 'title'> | null | undefined,
): string => task?.title ?? (title || NAMES[kind]);

const sayHeld = (sites: readonly string[] | null): string =>
  sites ? `holds ${sites.length ? count(sites.length, 'site') : 'no site'} back` : 'holds back the sites that always are';

const sayBeside = (event: Event | null, beside: string | null | undefined): string =>
  event ? `moves with “${event.title}” from now on` : beside === null ? 'stands for itself' : '';

@Injectable()
export class BlocksService {
  constructor(
    private readonly kernel: Kernel,
    private readonly clock: Clock,
  ) {}

  /** Sets time aside, once or several times: for tasks, for quiet, for a break. */
  async add(user: User, inputs: readonly BlockInput[]): Promise<DecisionAnswer> {
    const starts = inputs.map(({ start }) => this.startOf(user, start));
    const { decision, sentence, result } = await this.kernel.transact(byUser(user), async (work) => {
      const made: MadeThing[] = [];
      for (const [at, input] of inputs.entries()) made.push(await this.addOne(work, user, input, starts[at] ?? 0));
      const [first] = made;
      const minutes = inputs.reduce((sum, input) => sum + input.minutes, 0);
      work.say({
        action: 'move',
        sentence:
          made.length > 1
            ? `${count(made.length, 'block')} have time, ${sayMinutes(minutes)} in all, from ${this.say(user, Math.min(...starts))} on`
            : `“${first?.title}” has time on ${this.say(user, starts[0] ?? 0)}`,
      });
      return made;
    });
    return { decision, sentence, made: result };
  }

  private async addOne(work: Work, user: User, input: BlockInput, start: number): Promise<MadeThing> {
    const task = await this.taskOf(work, user, input);
    const kind = task ? 'work' : (input.kind ?? 'quiet');
    if (!task && kind === 'work') throw badField('taskId', 'Say for which task the time is.');
    const block = await work.insert('block', {
      kind,
      taskId: task?.id ?? null,
      title: task ? '' : (input.title?.trim() ?? ''),
      startAt: start,
      endAt: start + input.minutes * MINUTE,
      busy: input.busy ?? true,
      pinned: false,
      sites: null,
      besideId: null,
    });
    if (task && (!task.plannedDay || task.estimate === null))
      await work.update('task', task, {
        plannedDay: task.plannedDay ?? dayOf(start, user.zone),
        plannedWeek: null,
        estimate: task.estimate ?? input.minutes,
      });
    return { kind: 'block', id: block.id, title: blockTitle(block, task) };
  }

  /** Begins a task now: it is under way, and the next minutes are its time, unless it has time just now. */
  async begin(user: User, id: string, { minutes }: BeginningInput): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const task = await work.find('task', id);
      if (task.status === 'COMPLETED' || task.status === 'CANCELLED')
        throw badField('status', 'It is done already. Open it again, then begin.');
      const startAt = Math.floor(work.now / MINUTE) * MINUTE;
      const running = await work.manager.findOneBy(Block, {
        ...{ ownerId: user.id, taskId: id },
        ...{ startAt: LessThanOrEqual(work.now), endAt: MoreThan(work.now) },
      });
      const endAt = startAt + minutes * MINUTE;
      const block = running ?? (await work.insert('block', timeFor(id, startAt, endAt)));
      await work.update('task', task, {
        ...{ status: 'IN-PROCESS', plannedDay: dayOf(startAt, user.zone), plannedWeek: null, shelved: false, lookAgain: null },
        estimate: task.estimate ?? minutes,
      });
      work.say({ action: 'move', sentence: `“${task.title}” is begun, until ${sayTime(block.endAt, user.zone)}` });
    });
    return { decision, sentence };
  }

  /** The task that time is for, a new one where a line says it; null for quiet and breaks. */
  private async taskOf(work: Work, user: User, { taskId, line }: BlockInput): Promise<Task | null> {
    if (taskId !== undefined) return work.find('task', taskId);
    return line === undefined ? null : lineTask(work, user, line);
  }

  /** Moves or resizes a block, or says otherwise what it is. */
  async change(user: User, id: string, input: BlockChange): Promise<Done> {
    const { version, start, minutes, title, busy, kind, pinned, sites, beside } = input;
    const at = start === undefined ? undefined : this.startOf(user, start);
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const block = await work.find('block', id);
      const task = block.taskId ? await work.find('task', block.taskId) : null;
      if (task && kind !== undefined && kind !== 'work') throw badField('kind', 'Time for a task is work.');
      if (!task && kind === 'work') throw badField('kind', 'Time for no task is quiet or a break.');
      if (sites && (kind ?? block.kind) !== 'quiet') throw badField('sites', 'Sites are held back in quiet time only.');
      if (beside && task) throw badField('beside', 'Only a break or quiet time moves with an event.');
      const event = beside ? await work.find('event', beside) : null;
      const length = minutes === undefined ? block.endAt - block.startAt : minutes * MINUTE;
      const startAt = at ?? block.startAt;
      const name = title === undefined || task ? {} : { title: title.trim() };
      const changed = await work.update(
        'block',
        block,
        {
          ...{ startAt, endAt: startAt + length },
          ...name,
          ...(busy === undefined ? {} : { busy }),
          ...(kind ? { kind } : {}),
          ...(pinned === undefined ? {} : { pinned }),
          ...(sites === undefined ? {} : { sites: sites && tidySites(sites) }),
          ...(beside === undefined ? {} : { besideId: beside }),
        },
        version,
      );
      await followBlock(work, user, task, block.startAt, startAt);
      const called = blockTitle(changed, task);
      const held = sites === undefined ? sayBeside(event, beside) : sayHeld(sites && tidySites(sites));
      const moved = startAt !== block.startAt || changed.endAt !== block.endAt;
      const turned = pinned !== undefined && pinned !== block.pinned;
      const seen = busy === undefined || busy === block.busy ? 'was changed' : `is shown as ${busy ? 'busy' : 'free'} to others`;
      const shown = turned ? (pinned ? 'is pinned: planning leaves it where it is' : 'is not pinned any more') : seen;
      work.say({
        action: moved ? 'move' : 'change',
        sentence: moved ? `“${called}” is on ${this.say(user, startAt)}` : `“${called}” ${held || shown}`,
      });
    });
    return { decision, sentence };
  }

  /** Gives the time back; the task stays, on its day or on the one that is said. */
  async remove(user: User, id: string, day: string | undefined): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const block = await work.find('block', id);
      const task = block.taskId ? await work.find('task', block.taskId) : null;
      await work.remove('block', block);
      if (task && day) await work.update('task', task, { plannedDay: day, plannedWeek: null });
      const where = day ? `; it is on ${sayDay(day, dayOf(this.clock.now(), user.zone))}` : '';
      work.say({ action: 'remove', sentence: `The time for “${blockTitle(block, task)}” is free again${where}` });
    });
    return { decision, sentence };
  }

  private startOf(user: User, text: string): number {
    const start = parseIso(text, user.zone);
    if (Number.isNaN(start)) throw badField('start', `${text} is not a time.`);
    return start;
  }

  private say(user: User, start: number): string {
    return `${sayDay(dayOf(start, user.zone), dayOf(this.clock.now(), user.zone))} at ${sayTime(start, user.zone)}`;
  }
}
