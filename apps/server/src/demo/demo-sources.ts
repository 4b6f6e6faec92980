import { Injectable } from '@nestjs/common';
import type { SourceKind, SourceSettings } from '@corvun/contract';
import { writeCalendar, type WrittenEvent } from '@corvun/formats';
import { promises as fs } from 'node:fs';
import { join } from 'node:path';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { newId } from '../base/ids';
import { Writes } from '../base/writes';
import { eventsOf } from '../calendars/calendar-out';
import { written } from '../events/written';
import { Calendar } from '../calendars/calendar.entity';
import { Secrets } from '../base/secrets.service';
import { Source } from '../sources/source.entity';
import { SyncService } from '../sources/sync.service';
import { demoEvents } from './agenda-plan';
import type { Random } from './random';
import { PEOPLE, type Around } from './world';

const BOARDS = [
  { id: 'boardwalk', name: 'Boardwalk board', ready: ['ready'], done: 'built', reopen: 'ready' },
  { id: 'volunteers', name: 'Volunteer board', ready: ['open'], done: 'finished', reopen: 'open' },
];

/** Where the stand-ins have the places that are connected from the start, and what lies there of theirs. */
const CHAT = '/chat';
const TRACKER = '/tracker';
const CHOIR = '/calendars/choir-board.ics';
const ACCOUNT = {
  path: '/account/dav/',
  collection: '/account/maren/fen/',
  colleague: '/account/maren/jonas/',
  name: 'maren',
  secret: 'fen-water',
};
const THEIRS = /^http:\/\/127\.0\.0\.1:\d+(\/(?:chat|tracker|account\/dav\/|calendars\/[\w-]+\.ics))$/;

/** Connects the demo to the stand-ins for the outside world, so that what they hold comes in by itself. */
@Injectable()
export class DemoSources {
  constructor(
    private readonly writes: Writes,
    private readonly clock: Clock,
    private readonly sync: SyncService,
    private readonly secrets: Secrets,
  ) {}

  /** Gives the choir's events to the stand-in that serves them as a feed. */
  async handOver(data: string, around: Around, random: Random): Promise<void> {
    const events = demoEvents(around, random).filter((one) => one.calendar === 'Choir board');
    const entries = events.map((one, at) => ({
      uid: `choir-${at}`,
      title: one.title,
      day: one.start.slice(0, 10),
      start: one.start.slice(11, 16),
      end: one.end.slice(11, 16),
      place: one.location,
      rrule: '',
      sequence: 0,
    }));
    const folder = join(data, 'outside');
    await fs.mkdir(folder, { recursive: true });
    await fs.writeFile(join(folder, 'choir-of-the-demo.json'), JSON.stringify(entries));
  }

  /** Gives the main calendar to the stand-in that keeps it, as one object for each UID. */
  private async handCalendar(data: string, events: readonly WrittenEvent[]): Promise<void> {
    const byUid = new Map<string, WrittenEvent[]>();
    for (const event of events) byUid.set(event.uid, [...(byUid.get(event.uid) ?? []), event]);
    const fen = Object.fromEntries([...byUid.values()].map((parts, at) => [`fen-${at + 1}.ics`, writeCalendar('', parts)]));
    const folder = join(data, 'outside');
    await fs.mkdir(folder, { recursive: true });
    await fs.writeFile(join(folder, 'account-of-the-demo.json'), JSON.stringify({ fen }));
  }

  async connect(user: User, outside: string, data: string): Promise<void> {
    await this.writes.write(async (manager) => {
      const calendar = await manager.findOneByOrFail(Calendar, { ownerId: user.id, name: 'Choir board' });
      const add = (
        position: number,
        kind: SourceKind,
        name: string,
        path: string,
        settings: SourceSettings,
        more: Partial<Source> = {},
      ) => {
        const adapter = this.sync.adapter(kind);
        const now = this.clock.now();
        const row = {
          id: newId(),
          ownerId: user.id,
          version: 1,
          created: now,
          changed: now,
          kind,
          name,
          address: `${outside}${path}`,
          account: '',
          secret: null,
          settings: { ...adapter.defaults, ...settings },
          cursor: {},
          state: 'active' as const,
          held: false,
          calendarId: null,
          every: adapter.every,
          lastTry: null,
          lastSuccess: null,
          nextTry: now,
          failures: 0,
          problem: '',
          position,
          ...more,
        };
        return manager.insert(Source, row as object).then(() => row.id);
      };
      await add(0, 'chat', 'Team chat', CHAT, { words: [] });
      await add(1, 'tracker', 'Team tracker', TRACKER, { boards: BOARDS, due: 'fixed', writeTime: true });
      const feed = await add(2, 'feed', 'Choir board', CHOIR, { busy: true }, { calendarId: calendar.id });
      await manager.update(Calendar, { id: calendar.id }, { sourceId: feed });
      const fen = await manager.findOneByOrFail(Calendar, { ownerId: user.id, name: 'Fen' });
      await this.handCalendar(data, written(await eventsOf(manager, user, fen.id)));
      const id = newId();
      const collections = [
        { id: `events:${ACCOUNT.collection}`, name: 'Fen', calendarId: fen.id },
        { id: `free:${ACCOUNT.colleague}`, name: PEOPLE.lead.name, address: PEOPLE.lead.address },
      ];
      const login = { id, account: ACCOUNT.name, secret: this.secrets.lock(ACCOUNT.secret, id) };
      await add(3, 'account', 'Office calendars', ACCOUNT.path, { collections }, login);
      await manager.update(Calendar, { id: fen.id }, { origin: 'connected', sourceId: id });
    });
  }

  /** The stand-ins listen at another address than when the demo was made: its sources go there. */
  async follow(user: User, outside: string): Promise<void> {
    await this.writes.write(async (manager) => {
      for (const source of await manager.findBy(Source, { ownerId: user.id })) {
        const [, path] = THEIRS.exec(source.address) ?? [];
        const address = `${outside}${path}`;
        if (path && source.address !== address)
          await manager.update(
            Source,
            { id: source.id },
            // Where an account has its calendars is found anew.
            {
              address,
              nextTry: this.clock.now(),
              failures: 0,
              problem: '',
              ...(source.kind === 'account' ? { cursor: {} } : {}),
            },
          );
      }
    });
  }
}
