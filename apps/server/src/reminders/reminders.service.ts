import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { ReminderInfo } from '@corvun/contract';
import { MINUTE, instantOf, isoInZone } from '@corvun/core';
import { In, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Block } from '../blocks/block.entity';
import { blockTitle } from '../blocks/blocks.service';
import { dateOf } from '../events/edit-events';
import { Event } from '../events/event.entity';
import { Kernel, byUser } from '../kernel/kernel.service';
import { Task } from '../tasks/task.entity';
import { Reminder } from './reminder.entity';

/** What is said of a reminder besides what is kept of it. */
type Said = Omit<ReminderInfo, 'id' | 'kind' | 'thing' | 'occurrence' | 'why' | 'at' | 'shown'>;
type Named = Pick<Reminder, 'kind' | 'thingId' | 'occurrence'>;

/** Reminders that are due, and what a user does with them. */
@Injectable()
export class RemindersService {
  constructor(
    @InjectRepository(Reminder) private readonly reminders: Repository<Reminder>,
    @InjectRepository(Event) private readonly events: Repository<Event>,
    @InjectRepository(Block) private readonly blocks: Repository<Block>,
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    private readonly kernel: Kernel,
  ) {}

  async open(user: User): Promise<ReminderInfo[]> {
    const rows = await this.reminders.find({ where: { ownerId: user.id, state: 'open' }, order: { at: 'ASC', id: 'ASC' } });
    const said = await this.say(user, rows);
    return rows.flatMap((row, at) => {
      const more = said[at];
      if (!more) return [];
      const { id, kind, thingId, occurrence, why, shownAt } = row;
      return [
        {
          ...{ id, kind, thing: thingId, occurrence: occurrence || null, why, at: isoInZone(row.at, user.zone) },
          ...more,
          shown: shownAt !== null,
        },
      ];
    });
  }

  /** Only the first window that asks is told so. @throws Refusal 404 */
  async shown(user: User, id: string): Promise<boolean> {
    const { result } = await this.kernel.transact(byUser(user), async (work) => {
      const row = await work.find('reminder', id);
      if (row.shownAt !== null || row.state !== 'open') return false;
      await work.update('reminder', row, { shownAt: work.now });
      return true;
    });
    return result;
  }

  /** @throws Refusal 404 */
  async snooze(user: User, id: string, minutes: number): Promise<void> {
    await this.kernel.transact(byUser(user), async (work) => {
      const row = await work.find('reminder', id);
      await work.update('reminder', row, { state: 'snoozed', dueAt: work.now + minutes * MINUTE, shownAt: null });
    });
  }

  async done(user: User, ids: readonly string[]): Promise<void> {
    await this.kernel.transact(byUser(user), async (work) => {
      const rows = await work.manager.findBy(Reminder, { ownerId: user.id, id: In([...ids]) });
      for (const row of rows) if (row.state !== 'done') await work.update('reminder', row, { state: 'done' });
    });
  }

  /** What there is to say of things, each at the place it was asked for; null of what is gone. */
  async say(user: User, named: readonly Named[]): Promise<(Said | null)[]> {
    const idsOf = (kind: Reminder['kind']) => [...new Set(named.filter((one) => one.kind === kind).map((one) => one.thingId))];
    const own = (ids: string[]) => ({ ownerId: user.id, id: In(ids) });
    const [events, blocks] = await Promise.all([
      this.events.findBy(own(idsOf('event'))),
      this.blocks.findBy(own(idsOf('block'))),
    ]);
    const tasks = await this.tasks.findBy(own([...idsOf('task'), ...blocks.flatMap(({ taskId }) => taskId ?? [])]));
    const parts = await this.events.findBy({ ownerId: user.id, uid: In([...new Set(events.map(({ uid }) => uid))]) });
    return named.map(({ kind, thingId, occurrence }) => {
      if (kind === 'event') {
        const event = events.find(({ id }) => id === thingId);
        return event ? this.ofEvent(user, event, parts, occurrence) : null;
      }
      if (kind === 'block') {
        const block = blocks.find(({ id }) => id === thingId);
        return block ? ofBlock(user, block, tasks) : null;
      }
      const task = tasks.find(({ id }) => id === thingId);
      const at = task ? isoInZone(instantOf(task.reminder ?? '', user.zone), user.zone) : '';
      return task ? { ...nowhere, taskId: task.id, title: task.title, start: at, end: at } : null;
    });
  }

  private ofEvent(user: User, event: Event, all: readonly Event[], occurrence: string): Said | null {
    const parts = all.filter(({ calendarId, uid }) => calendarId === event.calendarId && uid === event.uid);
    const date = dateOf(parts, occurrence || event.recurrenceId || event.start, user.zone);
    if (!date) return null;
    const { title, location, meetingLink } = date.part;
    const [start, end] = date.days
      ? [date.days.first, date.days.after]
      : [isoInZone(date.start, user.zone), isoInZone(date.end, user.zone)];
    return { taskId: null, title, location, meetingLink, start, end };
  }
}

const nowhere = { location: '', meetingLink: '' };

function ofBlock({ zone }: User, block: Block, tasks: readonly Task[]): Said {
  const task = tasks.find(({ id }) => id === block.taskId);
  return {
    ...nowhere,
    taskId: block.taskId,
    title: blockTitle(block, task),
    start: isoInZone(block.startAt, zone),
    end: isoInZone(block.endAt, zone),
  };
}
