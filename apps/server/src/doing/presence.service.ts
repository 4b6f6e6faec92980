import { Injectable, type OnApplicationBootstrap, type OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { Done, PresenceChange, PresenceInfo } from '@corvun/contract';
import {
  addDays,
  dayOf,
  daysFrom,
  endOfDay,
  instantOf,
  isoInZone,
  presenceAt,
  presenceTurns,
  sayTime,
  type PresenceInput,
} from '@corvun/core';
import { Repository } from 'typeorm';
import { inMannerOf } from '../accounts/manner';
import { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { badField } from '../base/errors';
import { ForEachAccount } from '../due/for-each-account';
import { Runner } from '../due/runner';
import { Kernel, bySystem, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { DayPlan } from '../passes/day-plan.entity';
import { workingOn } from '../settings/settings-of';
import { notePresence } from '../sources/presence-there';
import { Source } from '../sources/source.entity';
import { StreamService } from '../stream/stream.service';
import { PresenceRow, type ShownPresence } from './presence.entity';
import { StandingReads } from './standing.reads';

/** What can change how one is. */
const RELEVANT = new Set(['event', 'block', 'calendar', 'settings', 'headsDown', 'presence', 'dayPlan', 'source', 'task']);
/** Days in which the next working time is looked for. */
const AHEAD = 8;
const LONGEST = 6 * 3_600_000;
const GONE: ShownPresence = { text: '', dnd: false, until: null };

/**
 * Shows others how one is, in the chats where that is wanted: what is to be shown is noted in the outbox whenever it changes,
 * so that a kill leaves nothing standing. While messages are to wait, those of such a chat are not fetched.
 */
@Injectable()
export class PresenceService implements OnModuleInit, OnApplicationBootstrap {
  private watch: ForEachAccount | undefined;

  constructor(
    @InjectRepository(User) private readonly users: Repository<User>,
    @InjectRepository(Source) private readonly sources: Repository<Source>,
    @InjectRepository(PresenceRow) private readonly rows: Repository<PresenceRow>,
    @InjectRepository(DayPlan) private readonly plans: Repository<DayPlan>,
    private readonly standing: StandingReads,
    private readonly kernel: Kernel,
    private readonly stream: StreamService,
    private readonly clock: Clock,
    private readonly runner: Runner,
  ) {}

  onModuleInit(): void {
    const what = { name: 'presence', relevant: RELEVANT, work: (owner: string) => this.show(owner) };
    this.watch = new ForEachAccount(what, this.clock, this.runner, this.stream);
  }

  async onApplicationBootstrap(): Promise<void> {
    this.watch?.begin((await this.users.find({ select: { id: true } })).map(({ id }) => id));
  }

  /** How one is now, and where that is shown. */
  async info(user: User): Promise<PresenceInfo> {
    const now = this.clock.now();
    const [row, input, sources] = await Promise.all([this.rowOf(user.id), this.inputOf(user, now), this.showing(user.id)]);
    const { kind, text, until, dnd } = presenceAt(input, now);
    const own = row?.ownText && (row.ownUntil ?? 0) > now ? row.ownText : null;
    return {
      ...{ kind, text, dnd, own, until: until === null ? null : isoInZone(until, user.zone) },
      shownIn: sources.map(({ name }) => name),
    };
  }

  /** Own words for a while, or none any more. @throws Refusal 422 */
  async say(user: User, { text, until }: PresenceChange): Promise<Done> {
    const words = text?.trim() ?? '';
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const day = dayOf(work.now, user.zone);
      const ends = until ? instantOf(`${day}T${until}`, user.zone) : endOfDay(day, user.zone);
      if (words && ends <= work.now) throw badField('until', `${sayTime(ends, user.zone)} is over.`);
      const row = await work.manager.findOneBy(PresenceRow, { ownerId: user.id });
      const own = { ownText: words, ownUntil: words ? ends : null };
      if (row) await work.update('presence', row, own);
      else await work.insert('presence', { ...own, shown: {} });
      const lasts = until ? ` until ${sayTime(ends, user.zone)}` : ' for today';
      work.say({ action: 'change', sentence: words ? `Others see “${words}”${lasts}` : 'Others see what your day says' });
    });
    return { decision, sentence };
  }

  /** Notes what is to be shown where it changed. @returns when it can change next; null for an account that is gone */
  private async show(owner: string): Promise<number | null> {
    const now = this.clock.now();
    const user = await this.users.findOneBy({ id: owner });
    if (!user) return null;
    const [row, sources] = await Promise.all([this.rowOf(owner), this.showing(owner)]);
    const before = row?.shown ?? {};
    // Who shows it nowhere needs no reckoning; a change of the source brings it here again.
    if (!sources.length && !Object.values(before).some(({ text }) => text)) return now + LONGEST;
    const input = await this.inputOf(user, now);
    const present = inMannerOf(user, () => presenceAt(input, now));
    const shows: ShownPresence = {
      ...{ text: present.text, dnd: present.dnd },
      until: present.until === null ? null : new Date(present.until).toISOString(),
    };
    const wanted = new Map(sources.map(({ id }) => [id, shows]));
    const changed = [...new Set([...wanted.keys(), ...Object.keys(before)])].filter(
      (id) => JSON.stringify(wanted.get(id) ?? GONE) !== JSON.stringify(before[id] ?? GONE),
    );
    if (changed.length)
      await this.kernel.transact(bySystem(owner), (work) =>
        this.note(work, Object.fromEntries(changed.map((id) => [id, wanted.get(id) ?? GONE]))),
      );
    return Math.min(now + LONGEST, presenceTurns(input, now) ?? Infinity);
  }

  private async note(work: Work, changed: Record<string, ShownPresence>): Promise<void> {
    const row = await work.manager.findOneBy(PresenceRow, { ownerId: work.ownerId });
    const shown = { ...row?.shown, ...changed };
    if (row) await work.update('presence', row, { shown });
    else await work.insert('presence', { ownText: '', ownUntil: null, shown });
    for (const [id, one] of Object.entries(changed)) {
      const source = await work.manager.findOneBy(Source, { id, ownerId: work.ownerId });
      if (!source) continue;
      await notePresence(work, source, one);
      // What waited meanwhile comes as soon as it may.
      await work.manager.update(Source, { id }, { held: one.dnd, ...(one.dnd ? {} : { nextTry: work.now }) });
    }
  }

  private rowOf = (ownerId: string) => this.rows.findOneBy({ ownerId });

  private async showing(ownerId: string): Promise<Source[]> {
    const all = await this.sources.findBy({ ownerId, kind: 'chat', state: 'active' });
    return all.filter(({ settings }) => settings.presence);
  }

  private async inputOf(user: User, now: number): Promise<PresenceInput> {
    const today = dayOf(now, user.zone);
    const [{ ownTime, meetings, headsDown }, row, plan] = await Promise.all([
      this.standing.of(user, now),
      this.rowOf(user.id),
      this.plans.findOneBy({ ownerId: user.id, day: today }),
    ]);
    const of = (kind: string) => ownTime.filter(({ block }) => block.kind === kind);
    const first = plan?.closed ? addDays(today, 1) : today;
    return {
      ...{ zone: user.zone, quiet: of('quiet'), breaks: of('break') },
      working: workingOn(user, daysFrom(first, AHEAD)),
      ...{ meetings, headsDown },
      own: row?.ownText ? { text: row.ownText, until: row.ownUntil ?? 0 } : null,
    };
  }
}
