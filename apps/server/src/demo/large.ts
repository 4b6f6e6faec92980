import { Injectable } from '@nestjs/common';
import { MINUTE, addDays, timesBetween } from '@corvun/core';
import { sha256 } from '@corvun/formats';
import type { EntityTarget, ObjectLiteral } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { FileStore } from '../base/file-store';
import { newId } from '../base/ids';
import { Writes } from '../base/writes';
import { Calendar } from '../calendars/calendar.entity';
import { blankEvent, blankIncoming, blankTask } from '../decisions/blanks';
import { Event } from '../events/event.entity';
import { Incoming } from '../incoming/incoming.entity';
import { insertRows } from '../kernel/insert-rows';
import { List } from '../lists/list.entity';
import type { TextToRead } from '../reading/jobs';
import { ReadingPool } from '../reading/reading-pool.service';
import { Task } from '../tasks/task.entity';
import { ASKS } from './asks';
import { HABITS, TOPICS } from './history';
import type { Random } from './random';
import { PEOPLE, ZONE, type Around } from './world';

const SIZES = { incoming: 100_000, tasks: 50_000, events: 50_000 };
const YEARS = 5;
const BATCH = 500;

/** The time of what is done, as one stretch that ended then. */
const TIME_OF_DONE = `INSERT OR IGNORE INTO "time_entry"
  SELECT 'spent-' || "id", "ownerId", 1, "completed", "completed", "id", "completed" - "spent" * 60000, "completed", 'hand', 0, ''
  FROM "task" WHERE "ownerId" = ? AND "spent" > 0 AND "title" GLOB '*[0-9]'`;

/** A row, and what of a message is still to be read for it. */
interface Made {
  row: ObjectLiteral;
  text?: TextToRead;
}

/** The large set for benchmarks: five years of the same world, written straight into the tables. */
@Injectable()
export class LargeDemo {
  /** Originals of the rows that are being made. */
  private readonly originals = new Map<string, Buffer>();

  constructor(
    private readonly writes: Writes,
    private readonly files: FileStore,
    private readonly reading: ReadingPool,
  ) {}

  async make(user: User, around: Around, random: Random, now: number): Promise<void> {
    const span = YEARS * 365;
    const row = (at: number) => ({ id: newId(), ownerId: user.id, version: 1, created: at, changed: at });
    const lists = await this.read(List, user.id);
    // What comes from a feed is what the feed says.
    const calendars = (await this.read(Calendar, user.id)).filter(({ origin }) => origin === 'own');
    await this.fill('messages', Incoming, SIZES.incoming, (at) =>
      this.incomingRow(user, at, random, now - Math.floor((1 - at / SIZES.incoming) * span * 1440) * MINUTE, row),
    );
    await this.fill('tasks', Task, SIZES.tasks, (at) => {
      const created = now - Math.floor((1 - at / SIZES.tasks) * span * 1440) * MINUTE;
      const open = at % 25 === 0;
      const task = {
        ...row(created),
        ...blankTask(),
        title: `${random.pick(['Check', 'Repair', 'Order for', 'Write up', 'Measure'])} ${random.pick(TOPICS)} ${at}`,
        listId: (random.pick(lists)['id'] as string) ?? null,
        estimate: random.between(1, 12) * 10,
        position: at,
        status: open ? 'NEEDS-ACTION' : 'COMPLETED',
        completed: open ? null : created + random.between(1, 200) * 60 * MINUTE,
        spent: open ? 0 : random.between(1, 12) * 10,
      };
      return { row: task };
    });
    await this.writes.write((manager) => manager.query(TIME_OF_DONE, [user.id]));
    await this.fill('events', Event, SIZES.events, (at) => {
      const startAt = around.at(
        addDays(around.today, random.between(-span, 180)),
        `${String(random.between(6, 20)).padStart(2, '0')}:00`,
      );
      const endAt = startAt + random.between(1, 6) * 30 * MINUTE;
      const event = {
        ...row(startAt),
        ...blankEvent(timesBetween({ start: startAt, end: endAt }, ZONE), ZONE),
        calendarId: random.pick(calendars)['id'] as string,
        uid: `large-${at}@alderfen.example`,
        title: `Meeting at ${random.pick(TOPICS)}`,
      };
      return { row: event };
    });
  }

  private incomingRow(user: User, at: number, random: Random, received: number, row: (at: number) => object): Made {
    const habit = random.pick(HABITS);
    const person = PEOPLE[habit.from];
    const asks = ASKS[habit.asks ?? ''] ?? [];
    const fill = (text: string) =>
      text
        .replaceAll('%t', `${random.pick(TOPICS)} ${at % 977}`)
        .replaceAll('%a', asks[at % asks.length]?.[1] ?? '')
        .replaceAll('%d', 'Friday')
        .replaceAll('%n', String(at));
    const subject = fill(habit.subject);
    const text = fill(habit.text);
    const original = Buffer.from(
      `From: ${person.name} <${person.address}>\r\nTo: ${user.email}\r\nSubject: ${subject}\r\nDate: ${new Date(received).toUTCString()}\r\nMessage-ID: <large-${at}@demo.alderfen.example>\r\n\r\n${text}\r\n`,
    );
    const hash = sha256(original);
    this.originals.set(hash, original);
    const incoming = {
      ...row(received),
      ...blankIncoming(),
      source: 'mail',
      externalId: `large-${at}@demo.alderfen.example`,
      kind: 'mail',
      senderName: person.name,
      senderAddress: person.address,
      subject,
      received,
      written: received,
      text,
      threadKey: `large-${at}`,
      originalHash: hash,
      originalSize: original.length,
      bulk: habit.newsletter ?? false,
    };
    return {
      row: incoming,
      text: [text, subject, person, received, ZONE, { bulk: habit.newsletter ?? false, invitation: false }],
    };
  }

  private read(entity: EntityTarget<ObjectLiteral>, ownerId: string): Promise<ObjectLiteral[]> {
    return this.writes.write((manager) => manager.findBy(entity, { ownerId }));
  }

  /** Messages are read in threads, some ahead of what is written. */
  private async fill(
    what: string,
    entity: EntityTarget<ObjectLiteral>,
    count: number,
    make: (at: number) => Made,
  ): Promise<void> {
    const batch = (from: number) => {
      const made = Array.from({ length: Math.max(0, Math.min(BATCH, count - from)) }, (_, index) => make(from + index));
      const originals = new Map(this.originals);
      this.originals.clear();
      const texts = made.flatMap(({ text }) => (text ? [text] : []));
      return { made, originals, read: texts.length ? this.reading.factsOf(texts) : Promise.resolve([]) };
    };
    const ahead = [batch(0), batch(BATCH)];
    for (let from = 0; from < count; from += BATCH) {
      const next = ahead.shift();
      if (!next) return;
      ahead.push(batch(from + 2 * BATCH));
      const read = await next.read;
      const rows = next.made.map(({ row }, index) => ({ ...row, ...read[index] }));
      await this.files.keepAll(next.originals);
      await this.writes.write((manager) => insertRows(manager, entity, rows));
      sayHowFar(what, from + rows.length, count);
    }
  }
}

/** Tells whoever started it how far it is, every tenth. */
function sayHowFar(what: string, done: number, count: number): void {
  const tenth = (number: number) => Math.floor((10 * number) / count);
  if (tenth(done) > tenth(done - BATCH))
    process.stderr.write(`Making the large demo: ${10 * tenth(done)} % of ${count} ${what} …\n`);
}
