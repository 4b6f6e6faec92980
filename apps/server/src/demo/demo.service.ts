import { Inject, Injectable, Logger } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { MINUTE, dayOf, overlaps, weekOf, type Interval } from '@corvun/core';
import { promises as fs } from 'node:fs';
import { join } from 'node:path';
import { Repository, type EntityManager } from 'typeorm';
import { AccountsService } from '../accounts/accounts.service';
import { DEMO_EMAIL } from '../accounts/accounts.controller';
import { User } from '../accounts/user.entity';
import { SettingsRow } from '../settings/settings.entity';
import { Clock } from '../base/clock';
import { CONFIG, type Config } from '../base/config';
import { newId, withIdSource } from '../base/ids';
import { Writes } from '../base/writes';
import { Block } from '../blocks/block.entity';
import { Calendar } from '../calendars/calendar.entity';
import { blankTask, blankIncoming } from '../decisions/blanks';
import { DecideService } from '../decisions/decide.service';
import { Event } from '../events/event.entity';
import { Incoming } from '../incoming/incoming.entity';
import { Intake } from '../incoming/intake.service';
import { readIncoming } from '../incoming/reading';
import { List } from '../lists/list.entity';
import { Person } from '../people/person.entity';
import { Tag } from '../tags/tag.entity';
import { Task } from '../tasks/task.entity';
import { TimeEntry } from '../doing/time-entry.entity';
import { demoEvents } from './agenda-plan';
import { DemoSources } from './demo-sources';
import { makeLookingBack } from './looking-back';
import { LargeDemo } from './large';
import { letterBytes, messageIdOf, type Letter } from './letter';
import { makePages } from './pages';
import { pastLetters, type Finished } from './past';
import { Random } from './random';
import { TYPED_THOUGHTS, waitingLetters } from './waiting';
import { Around, CALENDARS, LISTS, PARTNER_ZONE, PEOPLE, TAGS, ZONE } from './world';

const SEED = 20_260_803;
/** Time is set aside ahead since so long, in milliseconds. */
const PLANNED_SINCE = 10 * 24 * 60 * MINUTE;
export const DEMO_PASSWORD = 'alder-fen-demo';

/** Own tasks of the demo, with working days from today. */
const OWN_TASKS: {
  title: string;
  list: (typeof LISTS)[number]['name'];
  day?: number;
  week?: boolean;
  minutes: number;
  deadline?: number;
  fixed?: boolean;
  block?: string;
  priority?: 'high' | 'low';
  repeat?: string;
}[] = [
  { title: 'Grant figures, section 2', list: 'Grant report', day: 0, minutes: 90, deadline: 18, fixed: true, block: '10:15' },
  { title: 'Sign the timesheets', list: 'Grant report', day: 0, minutes: 10, repeat: 'FREQ=WEEKLY' },
  { title: 'Compare boardwalk quotes', list: 'Boardwalk repair', day: 2, minutes: 75, block: '12:30' },
  {
    title: 'Results chapter, first draft',
    list: 'Grant report',
    day: 2,
    minutes: 90,
    deadline: 18,
    fixed: true,
    block: '15:15',
    priority: 'high',
  },
  { title: 'Fetch hose fittings', list: 'In town', day: 1, minutes: 45, block: '14:15' },
  { title: 'Photos for the leaflet', list: 'Volunteer days', day: 2, minutes: 30 },
  { title: 'Ferry invoice', list: 'In town', day: 4, minutes: 20, deadline: 4 },
  { title: 'Read the peat paper', list: 'Reading', week: true, minutes: 60, priority: 'low' },
  { title: 'Repair the garden gate', list: 'Home', week: true, minutes: 60 },
  { title: 'Plan the orchid count', list: 'Field season', day: 3, minutes: 60, block: '13:00' },
];

/** What a letter refers to (RFC 5322, 3.6.4). */
function goingOn({ goesOnWith }: Letter, past: readonly Letter[]): Pick<Letter, 'inReplyTo'> {
  const at = goesOnWith ? past.findLastIndex(({ subject }) => subject.startsWith(goesOnWith)) : -1;
  return at < 0 ? {} : { inReplyTo: messageIdOf(`past-${at}`) };
}

/** Makes the demo: Maren Holt's six weeks at the Alder Fen Trust, once for each data folder. */
@Injectable()
export class DemoService {
  private readonly logger = new Logger('demo');

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly accounts: AccountsService,
    private readonly clock: Clock,
    private readonly writes: Writes,
    private readonly intake: Intake,
    private readonly decisions: DecideService,
    private readonly large: LargeDemo,
    private readonly sources: DemoSources,
    @InjectRepository(Incoming) private readonly incoming: Repository<Incoming>,
  ) {}

  async prepare(): Promise<void> {
    const known = await this.accounts.byEmail(DEMO_EMAIL);
    if (known && this.config.outside) await this.sources.follow(known, this.config.outside);
    const user = known ?? (await this.make());
    const path = join(this.config.data, 'demo-token');
    const kept = await fs.readFile(path, 'utf8').catch(() => '');
    if (kept && (await this.accounts.accessOf(kept.trim(), 'token'))?.may === 'account') return;
    const { secret } = await this.accounts.grant(user.id, 'token', 'demo', { may: 'account' });
    await fs.writeFile(path, secret, { mode: 0o600 });
  }

  private make(): Promise<User> {
    const now = Math.floor(this.clock.now() / MINUTE) * MINUTE;
    const around = new Around(dayOf(now, ZONE));
    const random = new Random(SEED);
    return withIdSource(
      (count) => random.bytes(count),
      async () => {
        const user = await this.accounts.create({ name: 'Maren Holt', email: DEMO_EMAIL, password: DEMO_PASSWORD, zone: ZONE });
        await this.chooseSettings(user);
        if (this.config.outside) await this.sources.handOver(this.config.data, around, new Random(SEED));
        await this.makeWorld(user, around, random, now);
        if (this.config.demoSize === 'large') await this.large.make(user, around, random, now);
        const past = await this.makePast(user, around, random, now);
        await this.makeWaiting(user, around, now, past);
        if (this.config.outside) await this.sources.connect(user, this.config.outside, this.config.data);
        await this.writes.write(async (manager) => {
          await makeLookingBack(manager, user.id, around);
          await makePages(manager, user.id, around);
        });
        this.logger.log('made');
        return user;
      },
    );
  }

  /** What Maren has chosen: lunch, the partner's hours beside hers, what is held back, what work outside is, and no first questions. */
  private async chooseSettings(user: User): Promise<void> {
    const settings = {
      ...{ begun: true, zones: [PARTNER_ZONE] },
      quiet: { sites: ['fen-news.example', 'marsh-board.example'] },
      outside: { words: ['survey', 'Gate', 'Section C', 'Reed zone'], place: 'Lower Fen' },
    };
    const hours = Object.fromEntries([1, 2, 3, 4, 5].map((weekday) => [weekday, ['09:00-12:15', '13:00-17:30']]));
    await this.writes.write(async (manager) => {
      await manager.update(User, { id: user.id }, { settings, hours });
      await manager.update(
        SettingsRow,
        { ownerId: user.id },
        { chosen: { ...settings, name: user.name, zone: user.zone, hours } },
      );
    });
    Object.assign(user, { settings, hours });
  }

  private async makeWorld(user: User, around: Around, random: Random, now: number): Promise<void> {
    const row = () => ({ id: newId(), ownerId: user.id, version: 1, created: now, changed: now });
    await this.writes.write(async (manager) => {
      const lists = LISTS.map((list, position) => ({ ...row(), ...list, position, defaultTag: null, billable: false }));
      // What is inserted in one statement gets the ids back in another order.
      await manager.insert(
        List,
        lists.map((list) => ({ ...list })),
      );
      await manager.insert(
        Tag,
        TAGS.map((tag) => ({ ...row(), ...tag })),
      );
      await manager.insert(
        Person,
        Object.values(PEOPLE)
          .slice(0, 13)
          .map(({ name, address }) => ({ ...row(), name, address, addresses: [], organisation: '', phone: '', note: '' })),
      );
      const calendars = CALENDARS.map((calendar, position) => ({ ...row(), ...calendar, position, shown: true, sourceId: null }));
      await manager.insert(
        Calendar,
        calendars.map((calendar) => ({ ...calendar })),
      );
      for (const { calendar, ...event } of demoEvents(around, random)) {
        // With the stand-ins running these come from their feed.
        if (this.config.outside && calendar === 'Choir board') continue;
        await manager.insert(Event, {
          ...row(),
          ...event,
          calendarId: calendars.find((one) => one.name === calendar)?.id ?? '',
        });
      }
      for (const own of OWN_TASKS) {
        const day = own.day === undefined ? null : around.workday(own.day);
        const task = {
          ...row(),
          ...blankTask(),
          title: own.title,
          listId: lists.find((one) => one.name === own.list)?.id ?? null,
          estimate: own.minutes,
          plannedDay: day,
          plannedWeek: own.week ? weekOf(around.workday(0)) : null,
          deadline: own.deadline === undefined ? null : around.workday(own.deadline),
          deadlineFixed: own.fixed ?? false,
          repeat: own.repeat ?? null,
          priority: own.priority ?? ('normal' as const),
          position: now,
        };
        await manager.insert(Task, task);
        if (!own.block || !day) continue;
        const startAt = around.at(day, own.block);
        await manager.insert(Block, {
          ...row(),
          kind: 'work',
          taskId: task.id,
          startAt,
          endAt: startAt + own.minutes * MINUTE,
          busy: true,
        });
      }
    });
  }

  /** @returns the letters, the one with the key `past-N` at N */
  private async makePast(user: User, around: Around, random: Random, now: number): Promise<Letter[]> {
    const all = pastLetters(around, random, now);
    // One message of the chat is joined to a card, and counts too.
    const spare = this.config.outside ? all.findIndex((one) => one.decide.to === 'drop') : -1;
    const letters = all.filter((_, at) => at !== spare);
    const bytes = await Promise.all(letters.map((one, at) => letterBytes(one.letter, `past-${at}`, around)));
    const taken = await this.intake.takeMails(user, bytes, 'mail', false);
    const planned: Interval[] = [];
    for (const [at, { decide, decidedAt, finished }] of letters.entries()) {
      const one = taken[at];
      if (!one || one instanceof Error) throw new Error(`The demo letter ${at} was refused.`);
      const { made } = await this.decisions.decide(user, { incoming: [one.id], ...decide }, decidedAt);
      const task = made.find((thing) => thing.kind === 'task');
      // The latest decisions stay as they were made, so that undo works on them.
      if (!task || !finished || at > letters.length - 8) continue;
      await this.writes.write((manager) => finish(manager, user.id, task.id, finished));
      const time = { start: finished.at - finished.planned * MINUTE, end: finished.at };
      if (finished.at < now - PLANNED_SINCE || planned.some((one) => overlaps(one, time))) continue;
      planned.push(time);
      await this.writes.write((manager) => setAside(manager, user.id, task.id, time));
    }
    return letters.map(({ letter }) => letter);
  }

  private async makeWaiting(user: User, around: Around, now: number, past: readonly Letter[]): Promise<void> {
    const letters = waitingLetters(around, now)
      .filter((letter) => !this.config.outside || !letter.stoodIn)
      .map((letter) => ({ ...letter, ...goingOn(letter, past) }));
    const bytes = await Promise.all(letters.map((letter, at) => letterBytes(letter, `waiting-${at}`, around)));
    await this.intake.takeMails(user, bytes, 'mail', false);
    await this.writes.write(async (manager) => {
      for (const { text, hours } of TYPED_THOUGHTS) {
        const at = now - hours * 60 * MINUTE;
        const title = text.replace(/\s#\w+/g, '');
        await manager.insert(Incoming, {
          ...blankIncoming(),
          id: newId(),
          ownerId: user.id,
          version: 1,
          created: at,
          changed: at,
          source: 'typed',
          externalId: newId(),
          kind: 'typed',
          senderName: user.name,
          subject: title,
          received: at,
          written: at,
          text,
          threadKey: newId(),
          originalSize: Buffer.byteLength(text),
          ...readIncoming(text, title, null, at, user.zone, { bulk: false, invitation: false }),
          readTitle: title,
          hints: { tags: [...text.matchAll(/#(\w+)/g)].map((tag) => tag[1] ?? '') },
        });
      }
    });
    if ((await this.incoming.countBy({ ownerId: user.id, state: 'waiting' })) === 0) throw new Error('The demo inbox is empty.');
  }
}

/** A task of the past that is done, with its time as one stretch that ended then. */
async function finish(manager: EntityManager, ownerId: string, taskId: string, { at, spent }: Finished) {
  await manager.update(Task, { id: taskId }, { status: 'COMPLETED', completed: at, spent });
  await manager.insert(TimeEntry, {
    // Named as its task: what is made after it keeps the ids it has.
    ...{ id: taskId, ownerId, version: 1, created: at, changed: at, taskId },
    ...{ startAt: at - spent * MINUTE, endAt: at, by: 'block', paused: false, note: '' },
  });
}

/** The time that was set aside for a task of the past. */
async function setAside(manager: EntityManager, ownerId: string, taskId: string, { start, end }: Interval) {
  await manager.insert(Block, {
    ...{ id: taskId, ownerId, version: 1, created: start, changed: start, taskId },
    ...{ kind: 'work', startAt: start, endAt: end, busy: true },
  });
}
