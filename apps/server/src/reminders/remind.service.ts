import { Injectable, type OnApplicationBootstrap, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { dayOf, isoInZone, remindersIn, sayDay, sayMoment, sayTime, type ReminderFound } from '@corvun/core';
import { In, LessThan, MoreThan, Repository } from 'typeorm';
import { inMannerOf } from '../accounts/manner';
import { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { Writes } from '../base/writes';
import { ForEachAccount } from '../due/for-each-account';
import { Runner } from '../due/runner';
import { Kernel, bySystem } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { settingsOf } from '../settings/settings-of';
import { noteToSelf } from '../sources/note-sending';
import { StreamService } from '../stream/stream.service';
import { Reminder } from './reminder.entity';
import { RemindersService } from './reminders.service';
import { RemindingReads } from './reminding-reads';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** How far ahead it is looked for the next one. */
const AHEAD = 6 * HOUR;
/** What was due while the server was away longer than that is not brought up again. */
const LONGEST_AWAY = 14 * DAY;
/** What nobody looked at for so long is over. */
const STALE = 7 * DAY;
/** How long it is known what was told. */
const KEPT = 30 * DAY;

/** What can change what has to be thought of. */
const RELEVANT = new Set(['event', 'block', 'task', 'calendar', 'settings', 'reminder']);

const keyOf = (one: { kind: string; at: number; occurrence: string } & ({ id: string } | { thingId: string })) =>
  `${one.kind} ${'thingId' in one ? one.thingId : one.id} ${one.occurrence} ${one.at}`;

/**
 * Tells what has to be thought of when its time comes, each once: what was told is kept, and how far it has come for each
 * account stands in the same transaction, so that a kill loses and repeats nothing.
 */
@Injectable()
export class RemindService implements OnModuleInit, OnApplicationBootstrap {
  private watch: ForEachAccount | undefined;

  constructor(
    @InjectRepository(User) private readonly users: Repository<User>,
    @InjectRepository(Reminder) private readonly reminders: Repository<Reminder>,
    private readonly reads: RemindingReads,
    private readonly said: RemindersService,
    private readonly kernel: Kernel,
    private readonly writes: Writes,
    private readonly stream: StreamService,
    private readonly clock: Clock,
    private readonly runner: Runner,
  ) {}

  onModuleInit(): void {
    const what = { name: 'reminders', relevant: RELEVANT, work: (owner: string) => this.remind(owner) };
    this.watch = new ForEachAccount(what, this.clock, this.runner, this.stream);
  }

  async onApplicationBootstrap(): Promise<void> {
    this.watch?.begin((await this.users.find({ select: { id: true } })).map(({ id }) => id));
  }

  /** Whether everything that changed until now is counted. */
  get isSettled(): boolean {
    return this.watch?.isSettled ?? false;
  }

  /** Tells what is due, and gives when to look again; null for an account that is gone. */
  private async remind(owner: string): Promise<number | null> {
    const now = this.clock.now();
    const user = await this.users.findOneBy({ id: owner });
    if (!user) return null;
    const since = Math.max(user.remindedUntil || now, now - LONGEST_AWAY);
    const open = await this.reminders.findBy({ ownerId: owner, state: In(['open', 'snoozed']) });
    const from = Math.min(since, ...open.map(({ at }) => at - 1));
    const things = await this.reads.within(user, from, now + AHEAD);
    const { remind } = settingsOf(user);
    const all = remindersIn(things, remind, from, now + AHEAD, user.zone, true);
    const due = remindersIn(things, remind, since, now, user.zone);
    const holds = new Set(all.map(keyOf));
    const changes = {
      due,
      gone: open.filter((one) => !holds.has(keyOf(one))),
      stale: open.filter((one) => holds.has(keyOf(one)) && one.state === 'open' && one.at < now - STALE),
      woken: open.filter((one) => holds.has(keyOf(one)) && one.state === 'snoozed' && one.dueAt <= now),
    };
    if (Object.values(changes).some((rows) => rows.length)) await this.write(user, changes, now);
    else if (!user.remindedUntil || user.remindedUntil < now - HOUR) await this.tidy(user, now);
    const later = [
      ...all.filter(({ at }) => at > now).map(({ at }) => at),
      ...open.filter(({ state, dueAt }) => state === 'snoozed' && dueAt > now).map(({ dueAt }) => dueAt),
    ];
    return Math.min(now + AHEAD / 2, ...later);
  }

  private async write(
    user: User,
    { due, gone, stale, woken }: { due: ReminderFound[]; gone: Reminder[]; stale: Reminder[]; woken: Reminder[] },
    now: number,
  ): Promise<void> {
    await this.kernel.transact(bySystem(user.id), async (work) => {
      const told = new Set((await work.manager.findBy(Reminder, { ownerId: user.id, at: MoreThan(now - KEPT) })).map(keyOf));
      const fresh = due.filter((one) => !told.has(keyOf(one)));
      await work.insertAll(
        'reminder',
        fresh.map(({ kind, id, occurrence, why, at }) =>
          work.fresh('reminder', {
            ...{ kind, thingId: id, occurrence, why, at },
            ...{ dueAt: at, state: 'open', shownAt: null },
          }),
        ),
      );
      // Some may have been put off or done with since they were read.
      const present = await work.manager.findBy(Reminder, { id: In([...gone, ...stale, ...woken].map(({ id }) => id)) });
      const still = (rows: Reminder[]) =>
        present.filter((row) => rows.some((one) => one.id === row.id && one.version === row.version));
      await work.removeAll('reminder', still(gone));
      for (const row of still(stale)) await work.update('reminder', row, { state: 'done' });
      for (const row of still(woken)) await work.update('reminder', row, { state: 'open', shownAt: null });
      await work.manager.update(User, { id: user.id }, { remindedUntil: now });
      await this.send(work, user, fresh, now);
    });
  }

  /** Those that are wanted by mail, as long as they are worth reading. */
  private async send(work: Work, user: User, fresh: readonly ReminderFound[], now: number): Promise<void> {
    const always = settingsOf(user).remind.mail;
    const wanted = fresh.filter(({ at, mail }) => (mail || always) && at > now - HOUR);
    const said = await this.said.say(
      user,
      wanted.map(({ id, ...one }) => ({ ...one, thingId: id })),
    );
    for (const one of said) {
      if (!one) continue;
      const { title, start, location, meetingLink } = one;
      const when = inMannerOf(user, () => whenOf(start, user.zone, now));
      await noteToSelf(work, user, {
        what: `Reminder of “${title}”`,
        subject: `${title}: ${when}`,
        text: [title, when, location, meetingLink].filter(Boolean).join('\n'),
      });
    }
  }

  /** Notes how far it has come, and forgets what was told long ago. */
  private async tidy(user: User, now: number): Promise<void> {
    await this.writes.write(async (manager) => {
      await manager.update(User, { id: user.id }, { remindedUntil: now });
      await manager.delete(Reminder, { ownerId: user.id, state: 'done', changed: LessThan(now - KEPT) });
    });
  }
}

function whenOf(start: string, zone: string, now: number): string {
  const today = dayOf(now, zone);
  if (start.length === 10) return sayDay(start, today);
  const at = Date.parse(start);
  return dayOf(at, zone) === today ? `today at ${sayTime(at, zone)}` : sayMoment(isoInZone(at, zone).slice(0, 16), today);
}
