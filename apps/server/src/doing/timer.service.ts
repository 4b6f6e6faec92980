import { Injectable } from '@nestjs/common';
import type { Done, TimeChange, TimeInput } from '@corvun/contract';
import { MINUTE, minutesBetween, parseIso, sayMinutes, sayTime } from '@corvun/core';
import { IsNull } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Refusal, badField } from '../base/errors';
import { Kernel, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import type { Task } from '../tasks/task.entity';
import { HeadsDown } from './heads-down.entity';
import { keepSum } from './spent.follower';
import { TimeEntry } from './time-entry.entity';
import { CLOCK_SET_BACK } from './time-info';

const OVER = ['COMPLETED', 'CANCELLED'];

/** The timer that runs; null: none does. */
export const runningEntry = (work: Work): Promise<TimeEntry | null> =>
  work.manager.findOneBy(TimeEntry, { ownerId: work.ownerId, endAt: IsNull() });

export const headsDownOf = (work: Work): Promise<HeadsDown | null> =>
  work.manager.findOneBy(HeadsDown, { ownerId: work.ownerId });

/** Ends the timer that runs. @returns the time it makes; null where none ran */
export async function endRunning(work: Work, at = work.now, paused = false): Promise<TimeEntry | null> {
  const entry = await runningEntry(work);
  if (!entry) return null;
  const note = at < entry.startAt ? CLOCK_SET_BACK : entry.note;
  const ended = await work.update('timeEntry', entry, { endAt: Math.max(at, entry.startAt), paused, note });
  await keepSum(work, entry.taskId);
  return ended;
}

/** Puts a task under way and lets the timer run on it. @throws Refusal 422 where it is done already */
export async function startOn(work: Work, task: Task, by: TimeEntry['by']): Promise<TimeEntry> {
  if (OVER.includes(task.status)) throw badField('status', 'It is done already. Open it again, then start.');
  if (task.status === 'NEEDS-ACTION') await work.update('task', task, { status: 'IN-PROCESS', shelved: false, lookAgain: null });
  return work.insert('timeEntry', { taskId: task.id, startAt: work.now, endAt: null, by, paused: false, note: '' });
}

export function sayRan({ startAt, endAt, note }: TimeEntry): string {
  if (note === CLOCK_SET_BACK) return 'The clock was set back meanwhile: nothing is counted, write how long it took';
  const minutes = minutesBetween(startAt, endAt ?? startAt);
  return minutes ? sayMinutes(minutes) : 'less than a minute';
}

/** The timer, and time that is written by hand. */
@Injectable()
export class TimerService {
  constructor(private readonly kernel: Kernel) {}

  /** Lets the timer run on a task; one that runs on another ends. @throws Refusal 404, 422 */
  async start(user: User, id: string): Promise<Done> {
    const { decision, result, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const task = await work.find('task', id);
      const running = await runningEntry(work);
      if (running?.taskId === id) return `The timer runs on “${task.title}” since ${sayTime(running.startAt, user.zone)}`;
      const before = running ? await work.find('task', running.taskId) : null;
      const ended = await endRunning(work);
      const alone = await headsDownOf(work);
      if (alone) await work.remove('headsDown', alone);
      await startOn(work, task, 'timer');
      const other = ended && before ? `; ${sayRan(ended)} on “${before.title}”` : '';
      work.say({ action: 'move', sentence: `The timer runs on “${task.title}”${other}` });
      return '';
    });
    return { decision, sentence: result || sentence };
  }

  /** @param pause something came up: it is gone on with afterwards. @throws Refusal 409 where none runs */
  async stop(user: User, pause: boolean): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const ended = await endRunning(work, work.now, pause);
      if (!ended) throw new Refusal('no-timer', 'No timer runs.');
      const alone = await headsDownOf(work);
      if (alone && pause) await work.update('headsDown', alone, { phase: 'over', fromAt: work.now, untilAt: null });
      else if (alone) await work.remove('headsDown', alone);
      const task = await work.find('task', ended.taskId);
      work.say({ action: 'change', sentence: `${pause ? 'Paused: ' : ''}${sayRan(ended)} on “${task.title}”` });
    });
    return { decision, sentence };
  }

  /** @throws Refusal 404, 422 */
  async add(user: User, id: string, { minutes, start, block: blockId }: TimeInput): Promise<Done> {
    const said = start === undefined ? null : startOf(user, start);
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const task = await work.find('task', id);
      const block = blockId === undefined ? null : await work.find('block', blockId);
      if (block && block.taskId !== id) throw badField('block', 'This block is for something else.');
      const ago = work.now - minutes * MINUTE;
      const startAt = said ?? (block ? Math.min(block.startAt, ago) : ago);
      const endAt = startAt + minutes * MINUTE;
      notToCome(user, endAt, work.now);
      const by = block ? 'block' : 'hand';
      await work.insert('timeEntry', { taskId: id, startAt, endAt, by, paused: false, note: '' });
      await keepSum(work, id);
      work.say({ action: 'change', sentence: `${sayMinutes(minutes)} on “${task.title}”` });
    });
    return { decision, sentence };
  }

  /** @throws Refusal 404, 409, 422 */
  async change(user: User, id: string, { version, start, minutes }: TimeChange): Promise<Done> {
    const said = start === undefined ? null : startOf(user, start);
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const entry = await work.find('timeEntry', id);
      if (entry.endAt === null && minutes !== undefined) throw badField('minutes', 'It runs. Stop it first, then correct it.');
      // What took longer than there has been time since its beginning began earlier.
      const latest = minutes === undefined ? Infinity : work.now - minutes * MINUTE;
      const startAt = said ?? Math.min(entry.startAt, latest);
      const length = minutes === undefined ? (entry.endAt ?? 0) - entry.startAt : minutes * MINUTE;
      const endAt = entry.endAt === null ? null : startAt + length;
      notToCome(user, endAt ?? startAt, work.now);
      const after = await work.update('timeEntry', entry, { startAt, endAt, note: '' }, version);
      await keepSum(work, entry.taskId);
      const task = await work.find('task', entry.taskId);
      const what = after.endAt === null ? `The timer runs since ${sayTime(startAt, user.zone)}` : sayRan(after);
      work.say({ action: 'change', sentence: `${what} on “${task.title}”` });
    });
    return { decision, sentence };
  }

  /** @throws Refusal 404, 422 */
  async remove(user: User, id: string): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const entry = await work.find('timeEntry', id);
      if (entry.endAt === null) throw badField('id', 'It runs. Stop it first, then take it away.');
      await work.remove('timeEntry', entry);
      await keepSum(work, entry.taskId);
      const task = await work.find('task', entry.taskId);
      work.say({ action: 'remove', sentence: `${sayRan(entry)} on “${task.title}” is taken away` });
    });
    return { decision, sentence };
  }
}

function startOf({ zone }: User, text: string): number {
  const start = parseIso(text, zone);
  if (Number.isNaN(start)) throw badField('start', `${text} is not a time.`);
  return start;
}

function notToCome({ zone }: User, endAt: number, now: number): void {
  if (endAt > now + MINUTE)
    throw badField('minutes', `It would last until ${sayTime(endAt, zone)}, which is still to come. Say when it began.`);
}
