import { Injectable, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { Added, Done, MirrorInfo, MirrorInput } from '@corvun/contract';
import { count, type Step } from '@corvun/core';
import { In, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { badField } from '../base/errors';
import { Calendar } from '../calendars/calendar.entity';
import { ownCalendar } from '../events/edit-events';
import { Event } from '../events/event.entity';
import { Kernel, byUser, type Follower } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { copiesOf, copyUid, isAsCopied } from './copy-of';
import { Mirror } from './mirror.entity';

/** Keeps what stands in one calendar in another, too: one copy each, in the transaction of what it is a copy of. */
@Injectable()
export class MirrorsService implements Follower, OnModuleInit {
  readonly name = 'mirrors';
  readonly actors = ['user', 'source', 'rule', 'guest', 'system'] as const;

  constructor(
    @InjectRepository(Mirror) private readonly mirrors: Repository<Mirror>,
    private readonly kernel: Kernel,
  ) {}

  onModuleInit(): void {
    this.kernel.follow(this);
  }

  async all(user: User): Promise<MirrorInfo[]> {
    const rows = await this.mirrors.find({ where: { ownerId: user.id }, order: { created: 'ASC', id: 'ASC' } });
    const counts = await this.mirrors.query<{ mirror: string; copies: number }[]>(
      `SELECT "mirror", COUNT(DISTINCT "uid") AS "copies" FROM "event" WHERE "ownerId" = ? AND "mirror" IS NOT NULL GROUP BY "mirror"`,
      [user.id],
    );
    return rows.map(({ id, fromId, toId, title, category, private: hidden, version }) => ({
      ...{ id, from: fromId, to: toId, title, category, private: hidden, version },
      copies: counts.find(({ mirror }) => mirror === id)?.copies ?? 0,
    }));
  }

  async add(user: User, { from, to, title = 'Busy', category = '', private: hidden = true }: MirrorInput): Promise<Added> {
    const { decision, sentence, result } = await this.kernel.transact(byUser(user), async (work) => {
      const source = await work.manager.findOneBy(Calendar, { ownerId: user.id, id: from });
      if (!source) throw badField('from', 'There is no such calendar.');
      const target = await ownCalendar(work, to);
      if (from === to) throw badField('to', 'A calendar is not mirrored into itself.');
      if (await work.manager.existsBy(Mirror, { ownerId: user.id, fromId: from, toId: to }))
        throw badField('to', `“${source.name}” stands in “${target.name}” already.`);
      const fields = { fromId: from, toId: to, title: title.trim(), category: category.trim(), private: hidden };
      const mirror = await work.insert('mirror', { ...fields, since: work.now });
      const made = await this.keep(work, mirror);
      const what = `${count(made, 'entry', 'entries')} of “${source.name}” ${made === 1 ? 'stands' : 'stand'} in “${target.name}”, too`;
      work.say({ action: 'change', sentence: `${what}, and whatever comes` });
      return mirror.id;
    });
    return { decision, sentence, id: result };
  }

  /** Ends a mirror. @param keep its copies stay, as events of their own; else those that are not over go */
  async remove(user: User, id: string, keep: boolean): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const mirror = await work.find('mirror', id);
      const copies = await work.manager.findBy(Event, { ownerId: user.id, mirror: id });
      const going = keep ? [] : copies.filter(({ endAt }) => endAt === null || endAt > work.now);
      await work.remove('mirror', mirror);
      await work.removeAll('event', going);
      const staying = copies.filter((row) => !going.includes(row));
      for (const row of staying) await work.update('event', row, { mirror: null });
      const parts = [
        going.length ? `${count(entries(going), 'copy', 'copies')} to come ${entries(going) === 1 ? 'is' : 'are'} gone` : '',
        staying.length ? `${count(entries(staying), 'copy', 'copies')} ${entries(staying) === 1 ? 'stays' : 'stay'}` : '',
      ].filter(Boolean);
      work.say({ action: 'change', sentence: `The mirror is ended${parts.length ? `: ${parts.join(', ')}` : ''}` });
    });
    return { decision, sentence };
  }

  /** Whatever changes in a calendar that is mirrored changes in its mirrors. */
  async follow(work: Work, changes: readonly Step[]): Promise<void> {
    const events = changes.filter(({ kind }) => kind === 'event');
    if (!events.length) return;
    const mirrors = await work.manager.findBy(Mirror, { ownerId: work.ownerId });
    if (!mirrors.length) return;
    const rows = await work.manager.findBy(Event, { ownerId: work.ownerId, id: In(events.map(({ id }) => id)) });
    const touched = new Map<string, Set<string>>();
    const note = (calendarId: unknown, uid: unknown) => {
      if (typeof calendarId !== 'string' || typeof uid !== 'string') return;
      touched.set(calendarId, (touched.get(calendarId) ?? new Set()).add(uid));
    };
    for (const { id, before, after } of events) {
      const row = rows.find((one) => one.id === id);
      if (row) note(row.calendarId, row.uid);
      // What was there before: it is gone, is in another calendar now, or has another UID.
      note(before?.['calendarId'] ?? row?.calendarId, before?.['uid'] ?? row?.uid ?? after?.['uid']);
    }
    for (const mirror of mirrors) {
      const uids = [...(touched.get(mirror.fromId) ?? [])];
      if (uids.length) await this.keep(work, mirror, uids);
    }
  }

  /** Brings the copies of some UIDs, or of all, to what they are copies of. @returns how many there are */
  private async keep(work: Work, mirror: Mirror, uids?: readonly string[]): Promise<number> {
    const of = { ownerId: work.ownerId, calendarId: mirror.fromId };
    const rows = await work.manager.findBy(Event, { ...of, ...(uids ? { uid: In([...uids]) } : {}) });
    const copied = uids ? { uid: In(uids.map((uid) => copyUid(mirror, uid))) } : {};
    const present = await work.manager.findBy(Event, { ownerId: work.ownerId, mirror: mirror.id, ...copied });
    const byUid = new Map<string, Event[]>();
    for (const row of rows) byUid.set(row.uid, [...(byUid.get(row.uid) ?? []), row]);
    // What stands in both by itself, such as an invitation to both, needs no copy.
    const there = byUid.size
      ? await work.manager.find(Event, {
          where: { ownerId: work.ownerId, calendarId: mirror.toId, uid: In([...byUid.keys()]) },
          select: { uid: true },
        })
      : [];
    for (const { uid } of there) byUid.delete(uid);
    const wanted = [...byUid.values()].flatMap((own) => copiesOf(mirror, own));
    const known = new Map(present.map((row) => [`${row.uid}\n${row.recurrenceId}`, row]));
    const fresh: Event[] = [];
    for (const copy of wanted) {
      const key = `${copy.uid}\n${copy.recurrenceId}`;
      const row = known.get(key);
      known.delete(key);
      if (!row) fresh.push(work.fresh('event', copy));
      else if (!isAsCopied(row, { ...copy, sequence: row.sequence, buffers: row.buffers, alarms: row.alarms }))
        await work.update('event', row, { ...copy, sequence: row.sequence + 1, buffers: row.buffers, alarms: row.alarms });
    }
    await work.removeAll('event', [...known.values()]);
    await work.insertAll('event', fresh);
    return entries(wanted);
  }
}

const entries = (rows: readonly Pick<Event, 'uid'>[]): number => new Set(rows.map(({ uid }) => uid)).size;
