import { Injectable } from '@nestjs/common';
import type { Done, PlanBlockInput, PlanTaking } from '@corvun/contract';
import { MINUTE, count, dayOf, overlaps, parseIso, sayDay, sayMinutes, sayTime } from '@corvun/core';
import type { User } from '../accounts/user.entity';
import { AgendaService } from '../agenda/agenda.service';
import { badField } from '../base/errors';
import { followBlock } from '../blocks/move-blocks';
import { timeFor } from '../blocks/task-time';
import { Kernel, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';

/** Does what of a proposal is wanted. */
@Injectable()
export class TakingService {
  constructor(
    private readonly kernel: Kernel,
    private readonly agenda: AgendaService,
  ) {}

  /** @throws Refusal 404, 422 */
  async take(user: User, { blocks, gone = [] }: PlanTaking): Promise<Done> {
    if (!blocks.length && !gone.length) throw badField('blocks', 'Say what of the plan is to be done.');
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      await this.stillFree(work, user, blocks);
      const minutes = { set: 0, back: 0 };
      for (const input of blocks) {
        const moved = input.block !== undefined;
        await (moved ? move(work, user, input) : set(work, user, input));
        if (!moved) minutes.set += input.minutes;
      }
      for (const id of gone) {
        const block = await work.find('block', id);
        minutes.back += Math.round((block.endAt - block.startAt) / MINUTE);
        await work.remove('block', block);
      }
      const moved = blocks.filter(({ block }) => block !== undefined).length;
      const tasks = new Set(blocks.filter(({ block }) => block === undefined).map(({ taskId }) => taskId)).size;
      const said = [
        tasks ? `${count(tasks, 'task')} ${tasks === 1 ? 'has' : 'have'} time, ${sayMinutes(minutes.set)} in all` : '',
        moved ? `${count(moved, 'block')} moved` : '',
        gone.length ? `${sayMinutes(minutes.back)} of your time ${gone.length === 1 ? 'is' : 'are'} free again` : '',
      ];
      work.say({ action: 'move', sentence: `Planned: ${said.filter(Boolean).join('; ')}` });
    });
    return { decision, sentence };
  }

  /** @throws Refusal 422 where others were promised some of the time meanwhile */
  private async stillFree(work: Work, user: User, blocks: readonly PlanBlockInput[]): Promise<void> {
    const wanted = blocks.map((input) => ({ start: startOf(input, user), end: startOf(input, user) + input.minutes * MINUTE }));
    if (!wanted.length) return;
    const window = {
      start: Math.min(...wanted.map(({ start }) => start)),
      end: Math.max(...wanted.map(({ end }) => end)),
    };
    const { agenda } = await this.agenda.taken(user, window, { manager: work.manager });
    const met = agenda.events.find((event) => event.cause && wanted.some((one) => overlaps(one, event)));
    if (!met) return;
    const when = `${sayDay(dayOf(met.start, user.zone), dayOf(work.now, user.zone))} at ${sayTime(met.start, user.zone)}`;
    throw badField('blocks', `“${met.part.title}” is there by now, ${when}. Work the plan out again.`);
  }
}

const startOf = ({ start }: PlanBlockInput, { zone }: User): number => {
  const at = parseIso(start, zone);
  if (Number.isNaN(at)) throw badField('start', `${start} is not a time.`);
  return at;
};

async function set(work: Work, user: User, input: PlanBlockInput): Promise<void> {
  const task = await work.find('task', input.taskId);
  const startAt = startOf(input, user);
  const endAt = startAt + input.minutes * MINUTE;
  await work.insert('block', timeFor(task.id, startAt, endAt));
  if (!task.plannedDay || task.plannedDay < dayOf(work.now, user.zone))
    await work.update('task', task, { plannedDay: dayOf(startAt, user.zone), plannedWeek: null });
}

async function move(work: Work, user: User, input: PlanBlockInput): Promise<void> {
  const block = await work.find('block', input.block ?? '');
  if (block.taskId !== input.taskId) throw badField('block', 'This time is for something else.');
  if (block.pinned) throw badField('block', 'This time is pinned: planning does not move it.');
  const startAt = startOf(input, user);
  await work.update('block', block, { startAt, endAt: startAt + input.minutes * MINUTE });
  await followBlock(work, user, await work.find('task', input.taskId), block.startAt, startAt);
}
