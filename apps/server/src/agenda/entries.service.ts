import { Injectable } from '@nestjs/common';
import type { DayOrder, Done, EntriesChange, EntryNamed } from '@corvun/contract';
import { addDays, count, dayOf, laterBy, placeOf, repeats, sayDay, type SeriesCommand } from '@corvun/core';
import { In } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { badField, notFound } from '../base/errors';
import { carryOut, dateOf, intoCalendar, meant, ownCalendar, partsOf, refuseForeign, refuseGuest } from '../events/edit-events';
import type { Event } from '../events/event.entity';
import { Kernel, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { Task } from '../tasks/task.entity';

const DAY = 1440;

/** One change for several entries of the days. What one of them refuses is refused for all. */
@Injectable()
export class EntriesService {
  constructor(private readonly kernel: Kernel) {}

  async change(user: User, input: EntriesChange): Promise<Done> {
    const { by, calendarId, category, remove } = input;
    if (by === undefined && calendarId === undefined && category === undefined && !remove)
      throw badField('entries', 'Say what changes: by how much they move, their calendar or category, or that they go.');
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const where = calendarId === undefined ? null : await ownCalendar(work, calendarId);
      let touched = 0;
      for (const entry of input.entries) if (await this.one(work, user, entry, input)) touched += 1;
      const said = remove
        ? `${touched === 1 ? 'was' : 'were'} taken away`
        : [
            by ? `moved by ${sayBy(by)}` : '',
            where ? `${touched === 1 ? 'is' : 'are'} in ${where.name} now` : '',
            category === undefined
              ? ''
              : `${touched === 1 ? 'has' : 'have'} ${category.trim() ? `the category ${category.trim()}` : 'no category'}`,
          ]
            .filter(Boolean)
            .join(', ');
      const left = input.entries.length - touched;
      const rest = left ? `; ${count(left, 'other')} cannot be` : '';
      work.say({
        action: remove ? 'remove' : by ? 'move' : 'change',
        sentence: `${count(touched, 'entry', 'entries')} ${said}${rest}`,
      });
    });
    return { decision, sentence };
  }

  /** Puts the tasks of a day in order, and on it. */
  async order(user: User, { day, tasks: ids }: DayOrder): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const rows = await work.manager.findBy(Task, { ownerId: user.id, id: In(ids) });
      const came: string[] = [];
      for (const [dayOrder, id] of [...new Set(ids)].entries()) {
        const row = rows.find((one) => one.id === id);
        if (!row) throw notFound('task with this id');
        if (row.plannedDay !== day) came.push(row.title);
        if (row.plannedDay !== day || row.dayOrder !== dayOrder)
          await work.update('task', row, { plannedDay: day, plannedWeek: null, dayOrder, shelved: false });
      }
      const on = sayDay(day, dayOf(work.now, user.zone));
      const said =
        came.length === 1 ? `“${came[0]}” is on ${on}` : came.length ? `${count(came.length, 'task')} are on ${on}` : '';
      work.say({ action: 'move', sentence: said || `${on} is in another order` });
    });
    return { decision, sentence };
  }

  /** Whether it is one that can be changed so. */
  private one(work: Work, user: User, entry: EntryNamed, input: EntriesChange): Promise<boolean> {
    if (entry.kind === 'event') return this.event(work, user, entry, input);
    return entry.kind === 'block' ? this.block(work, user, entry, input) : this.task(work, entry, input);
  }

  private async block(work: Work, user: User, { id }: EntryNamed, { by, remove }: EntriesChange): Promise<boolean> {
    const block = await work.find('block', id);
    if (remove) await work.remove('block', block);
    else if (by) {
      const startAt = laterBy(block.startAt, by, user.zone);
      await work.update('block', block, { startAt, endAt: startAt + block.endAt - block.startAt });
    }
    return Boolean(remove || by);
  }

  private async task(work: Work, { id }: EntryNamed, { by = 0, remove }: EntriesChange): Promise<boolean> {
    const task = await work.find('task', id);
    const days = Math.trunc(by / DAY);
    if (!task.plannedDay || (!remove && !days)) return false;
    await work.update('task', task, { plannedDay: remove ? null : addDays(task.plannedDay, days) });
    return true;
  }

  private async event(work: Work, user: User, named: EntryNamed, input: EntriesChange): Promise<boolean> {
    const event = await work.find('event', named.id);
    await refuseForeign(work, event);
    const place = meant(event, named.occurrence === undefined ? {} : { occurrence: named.occurrence });
    if (input.remove) {
      await carryOut(work, user, event, { do: 'remove', ...place });
      return true;
    }
    let present = event;
    if (input.by || input.category !== undefined) {
      const command = await this.moved(work, user, event, place.occurrence, input);
      const { became } = await carryOut(work, user, event, { ...command, ...place });
      present = became.after.find((row) => row.id === event.id) ?? event;
    }
    if (input.calendarId !== undefined) {
      if (repeats(present) || present.recurrenceId)
        throw badField('calendarId', `All dates of “${event.title}” are in one calendar; open it to move all of them.`);
      await intoCalendar(work, present, input.calendarId, 'this');
    }
    return true;
  }

  private async moved(
    work: Work,
    user: User,
    event: Event,
    occurrence: string | null,
    { by, category }: EntriesChange,
  ): Promise<Pick<SeriesCommand<Event> & { do: 'change' }, 'do' | 'fields' | 'to'>> {
    const fields = category === undefined ? {} : { category: category.trim() };
    if (!by) return { do: 'change', fields };
    refuseGuest(event, user);
    const date = repeats(event) ? dateOf(await partsOf(work, event), occurrence ?? '', user.zone) : placeOf(event, user.zone);
    if (!date) throw notFound('such occurrence');
    const start = date.days ? addDays(date.days.first, Math.trunc(by / DAY)) : laterBy(date.start, by, user.zone);
    return { do: 'change', fields, to: { start } };
  }
}

/** `1 day`, `15 min earlier`. */
function sayBy(by: number): string {
  const size = Math.abs(by);
  const said = size % DAY === 0 ? count(size / DAY, 'day') : size % 60 === 0 ? count(size / 60, 'hour') : `${size} min`;
  return by < 0 ? `${said}, to earlier` : said;
}
