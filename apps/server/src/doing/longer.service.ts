import { Injectable } from '@nestjs/common';
import type { Done } from '@corvun/contract';
import { MINUTE, count, dayOf, endOfDay, pushRest, sayMinutes, sayTime, startOfDay, subtract, type Interval } from '@corvun/core';
import type { User } from '../accounts/user.entity';
import { AgendaService } from '../agenda/agenda.service';
import { badField } from '../base/errors';
import type { Block } from '../blocks/block.entity';
import { blockTitle } from '../blocks/blocks.service';
import { Kernel, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { workingOn } from '../settings/settings-of';

/** Lets what runs take longer. */
@Injectable()
export class LongerService {
  constructor(
    private readonly kernel: Kernel,
    private readonly agenda: AgendaService,
  ) {}

  /** Own time of the same day that is in the way goes after it; what has no room any more gives its time back. @throws Refusal 404, 422 */
  async longer(user: User, id: string, minutes: number): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const block = await work.find('block', id);
      if (block.startAt > work.now) throw badField('minutes', 'It has not begun yet.');
      const { fixed, later, until, taken } = await this.rest(work, user, block);
      // Where its time is over it goes on from now.
      const end = Math.max(block.endAt, Math.floor(work.now / MINUTE) * MINUTE);
      const pushed = pushRest({ start: block.startAt, end }, minutes, fixed, later, until);
      const own = minutes - pushed.short;
      if (own <= 0) throw badField('minutes', `Nothing is free any more until ${sayTime(until, user.zone)}.`);
      await work.update('block', block, { endAt: pushed.end });
      for (const { start, end: endAt } of pushed.more)
        await work.insert('block', {
          ...{ kind: block.kind, taskId: block.taskId, title: block.title, busy: block.busy, pinned: false, sites: block.sites },
          ...{ startAt: start, endAt, besideId: null },
        });
      const rowOf = (wanted: string) => later.find((one) => one.id === wanted)?.block;
      for (const move of pushed.moves) {
        const row = rowOf(move.id);
        if (row) await work.update('block', row, { startAt: move.start, endAt: move.end });
      }
      const out = pushed.out.flatMap((one) => rowOf(one) ?? []);
      for (const row of out) await work.remove('block', row);
      const title = (one: Block) => blockTitle(one, taken.get(one.taskId ?? ''));
      const last = pushed.more.at(-1)?.end ?? pushed.end;
      const said = [
        `“${title(block)}” has ${sayMinutes(own)} more, until ${sayTime(last, user.zone)}`,
        pushed.short ? `for ${sayMinutes(pushed.short)} there is no room today` : '',
        pushed.moves.length ? `${count(pushed.moves.length, 'block')} moved` : '',
        out.length ? `${out.map((one) => `“${title(one)}”`).join(', ')} has no room today any more, and gives its time back` : '',
      ];
      work.say({ action: 'move', sentence: said.filter(Boolean).join('; ') });
    });
    return { decision, sentence };
  }

  /** What of the rest of a day gives way, and what does not: promised to others, pauses, what is pinned, and time off. */
  private async rest(work: Work, user: User, block: Block) {
    const day = dayOf(work.now, user.zone);
    const whole: Interval = { start: startOfDay(day, user.zone), end: endOfDay(day, user.zone) };
    const { agenda, around, tasks } = await this.agenda.taken(user, whole, { manager: work.manager });
    const working = workingOn(user, [day]);
    const evening = Math.max(work.now, block.endAt) >= (working.at(-1)?.end ?? whole.start);
    const until = evening ? whole.end : (working.at(-1)?.end ?? whole.end);
    const promised = [...agenda.events, ...around].filter(({ cause }) => cause);
    const others = agenda.blocks.filter((one) => one.block.id !== block.id && one.end > work.now && one.cause);
    const gives = ({ kind, startAt }: Block) => kind === 'work' && startAt > work.now && startAt < until;
    const off = evening ? [] : subtract([{ start: work.now, end: until }], working);
    return {
      ...{ until, taken: tasks },
      fixed: [...promised, ...off, ...others.filter((one) => !gives(one.block) && one.block.kind !== 'quiet')],
      later: others
        .filter((one) => gives(one.block))
        .map(({ block: one }) => ({ id: one.id, start: one.startAt, end: one.endAt, pinned: one.pinned, block: one })),
    };
  }
}
