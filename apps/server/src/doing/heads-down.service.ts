import { Injectable, type OnModuleInit } from '@nestjs/common';
import type { Done } from '@corvun/contract';
import { firstTurn, goOn, sayMinutes, sayTime, turnsUntil, type Turn } from '@corvun/core';
import type { User } from '../accounts/user.entity';
import { Refusal } from '../base/errors';
import { Jobs } from '../due/jobs';
import { Kernel, bySystem, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { settingsOf } from '../settings/settings-of';
import { HeadsDown } from './heads-down.entity';
import { endRunning, headsDownOf, runningEntry, sayRan, startOn } from './timer.service';

const JOB = 'heads-down';

const turnOf = ({ phase, fromAt, untilAt, round }: HeadsDown): Turn => ({ phase, from: fromAt, until: untilAt, round });
const columnsOf = ({ phase, from, until, round }: Turn) => ({ phase, fromAt: from, untilAt: until, round });

/**
 * One task and nothing else. What is under way stands in the database with its instants: a timer turns at the moment that was
 * meant, however late the server looks, and work counts until then and no longer.
 */
@Injectable()
export class HeadsDownService implements OnModuleInit {
  constructor(
    private readonly kernel: Kernel,
    private readonly jobs: Jobs,
  ) {}

  onModuleInit(): void {
    this.jobs.register(JOB, ({ ownerId }) => this.catchUp(ownerId ?? ''));
  }

  /** @throws Refusal 404, 422 where the task is done */
  async begin(user: User, taskId: string): Promise<Done> {
    const rules = settingsOf(user).headsDown;
    return this.writing(user, async (work) => {
      const task = await work.find('task', taskId);
      const before = await headsDownOf(work);
      if (before?.taskId === taskId) return `“${task.title}” is worked on heads-down already`;
      if (before) await work.remove('headsDown', before);
      // A timer that runs on it goes on.
      if ((await runningEntry(work))?.taskId !== taskId) {
        await endRunning(work);
        await startOn(work, task, 'heads-down');
      }
      const turn = firstTurn(rules, work.now);
      const [last] = await work.manager.query<{ row: number | null }[]>('SELECT MAX(rowid) AS "row" FROM "incoming"');
      await work.insert('headsDown', { taskId, rules, begun: work.now, lastRow: last?.row ?? 0, ...columnsOf(turn) });
      await this.ring(work, turn);
      return `Heads-down on “${task.title}” until ${sayTime(turn.until ?? work.now, user.zone)}`;
    });
  }

  /** Goes on, before the time is over or after a pause. @throws Refusal 409 */
  async turn(user: User): Promise<Done> {
    return this.writing(user, async (work) => {
      const row = await present(work);
      const turn = goOn(turnOf(row), row.rules, work.now);
      const task = await work.find('task', row.taskId);
      await endRunning(work);
      if (turn.phase === 'work') await startOn(work, task, 'heads-down');
      await work.update('headsDown', row, columnsOf(turn));
      await this.ring(work, turn);
      const minutes = sayMinutes(turn.phase === 'work' ? row.rules.work : row.rules[turn.phase === 'long' ? 'long' : 'short']);
      return turn.phase === 'work' ? `“${task.title}”: ${minutes} of work` : `A pause of ${minutes}`;
    });
  }

  /** Nothing is asked, and what was worked stays. @throws Refusal 409 */
  async leave(user: User): Promise<Done> {
    return this.writing(user, async (work) => {
      const row = await present(work);
      const ended = await endRunning(work);
      await work.remove('headsDown', row);
      const { title } = await work.find('task', row.taskId);
      return ended ? `${sayRan(ended)} on “${title}”` : `Heads-down on “${title}” is over`;
    });
  }

  /** Makes the turns there were. @returns when the next one is */
  private async catchUp(ownerId: string): Promise<number | null> {
    const { result } = await this.kernel.transact(bySystem(ownerId), async (work) => {
      const row = await headsDownOf(work);
      if (!row) return null;
      const turns = turnsUntil(turnOf(row), row.rules, work.now);
      const last = turns.at(-1);
      if (!last || turns.length === 1) return row.untilAt;
      // Work ended where the next turn began, whenever that is noticed.
      if (turns[0]?.phase === 'work') await endRunning(work, turns[1]?.from);
      await work.update('headsDown', row, columnsOf(last));
      return last.until;
    });
    return result;
  }

  private ring(work: Work, { until }: Turn): Promise<void> {
    return until === null ? Promise.resolve() : this.jobs.put(work.manager, `${JOB}:${work.ownerId}`, JOB, until, work.ownerId);
  }

  /** What goes on is no doing that is taken back: time that was counted is corrected, and what is begun is left. */
  private async writing(user: User, work: (work: Work) => Promise<string>): Promise<Done> {
    const { result } = await this.kernel.transact(byUser(user), work);
    return { decision: '', sentence: result };
  }
}

async function present(work: Work): Promise<HeadsDown> {
  const row = await headsDownOf(work);
  if (!row) throw new Refusal('no-heads-down', 'Nothing is worked on heads-down any more.');
  return row;
}
