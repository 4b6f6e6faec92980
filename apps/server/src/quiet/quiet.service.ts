import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { Done, GraceInfo, GraceInput, QuietState, QuietTime } from '@corvun/contract';
import {
  GRACE,
  MINUTE,
  SiteError,
  covering,
  dayOf,
  isOnSite,
  isoInZone,
  parseIso,
  quietAfter,
  quietAt,
  readSite,
  sayTime,
  startOfDay,
  type Instant,
  type Quiet,
} from '@corvun/core';
import { LessThanOrEqual, MoreThan, MoreThanOrEqual, Repository } from 'typeorm';
import { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { Writes } from '../base/writes';
import { Refusal, badField } from '../base/errors';
import { StandingReads, type OwnTime, type StandingDay } from '../doing/standing.reads';
import { Kernel, bySystem, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { settingsOf } from '../settings/settings-of';
import { Task } from '../tasks/task.entity';
import { Grace, SiteHold } from './quiet.entities';

/** That somebody is there is noted so often at most. */
const NOTE_EVERY = MINUTE;
/** A look that is told later than this is told no more. */
const LATEST = 24 * 60 * MINUTE;

/** A quiet time with what is held back in it. */
interface Held extends Quiet<OwnTime> {
  sites: string[];
  title: string;
  /** What it is of; see `SiteHold.ofWhat`. */
  ofWhat: string;
  taskId: string | null;
}

/** What is held back in quiet time, that it was, and how often it was looked at all the same. */
@Injectable()
export class QuietService {
  constructor(
    @InjectRepository(Grace) private readonly graces: Repository<Grace>,
    @InjectRepository(SiteHold) private readonly holds: Repository<SiteHold>,
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    private readonly standing: StandingReads,
    private readonly kernel: Kernel,
    private readonly writes: Writes,
    private readonly clock: Clock,
  ) {}

  async state(user: User): Promise<QuietState> {
    const now = this.clock.now();
    return this.told(user, now, await this.now(user, now));
  }

  /** What holds sites back asks: that it is there is noted, and what it holds back in this quiet time. */
  async here(user: User): Promise<QuietState> {
    const now = this.clock.now();
    const held = await this.now(user, now);
    if (Math.abs(now - user.extensionSeen) >= NOTE_EVERY)
      await this.writes.write((manager) =>
        manager.update(User, { id: user.id }, { extensionSeen: now, extensionSince: user.extensionSince || now }),
      );
    const open = await this.holds.findBy({ ownerId: user.id, endAt: MoreThan(now) });
    const known = open.find(({ ofWhat }) => ofWhat === held.quiet?.ofWhat);
    if (open.some((one) => one !== known) || (held.quiet && !isNoted(held.quiet, known)))
      await this.kernel.transact(bySystem(user.id), (work) => note(work, held.quiet));
    return this.told(user, now, held);
  }

  /**
   * Lets a site be looked at for five minutes, no longer than it is held back. One that may be looked at already is not let
   * anew, so that what is told twice counts once.
   * @throws Refusal 409 where it is not quiet, 422 where the site is not held back
   */
  async grace(user: User, { site, at }: GraceInput): Promise<Done & { grace: GraceInfo }> {
    const named = hostOf(site);
    const { decision, sentence, result } = await this.kernel.transact(byUser(user), async (work) => {
      const from = at === undefined ? work.now : this.earlier(user, at, work.now);
      // What was looked at while the server was away was held back by what was known then.
      const { host, ends } = from < work.now ? { host: named, ends: from + GRACE } : await this.held(user, named, work.now);
      const known = await work.manager.findOneBy(Grace, {
        ...{ ownerId: user.id, site: host, startAt: LessThanOrEqual(from), endAt: MoreThan(from) },
      });
      const grace = known ?? (await work.insert('grace', { site: host, startAt: from, endAt: ends }));
      return { grace, sentence: `${grace.site} can be looked at until ${sayTime(grace.endAt, user.zone)}` };
    });
    return { decision, sentence: sentence || result.sentence, grace: graceInfo(result.grace, user.zone) };
  }

  private earlier(user: User, at: string, now: Instant): Instant {
    const from = parseIso(at, user.zone);
    if (Number.isNaN(from)) throw badField('at', `${at} is not a time.`);
    if (now - from > LATEST) throw badField('at', 'That was more than a day ago.');
    return Math.min(from, now);
  }

  private async held(user: User, named: string, now: Instant): Promise<{ host: string; ends: Instant }> {
    const { quiet } = await this.now(user, now);
    if (!quiet) throw new Refusal('not-quiet', 'It is not quiet time, so nothing is held back.');
    const host = quiet.sites.find((site) => isOnSite(named, site));
    if (host === undefined) throw badField('site', `${named} is not held back.`);
    return { host, ends: Math.min(now + GRACE, quiet.end) };
  }

  private async now(user: User, now: Instant): Promise<{ quiet: Held | null; next: Held | null }> {
    const day = await this.standing.of(user, now);
    const input = {
      ...{ meetings: day.meetings, headsDown: day.headsDown },
      quiet: day.ownTime.filter(({ block }) => block.kind === 'quiet'),
    };
    const [quiet, next] = [quietAt(input, now), quietAfter(input, now)];
    const worked = quiet && day.alone && day.headsDown?.phase === 'work' ? await this.titleOf(day.alone.taskId) : null;
    return { quiet: quiet && heldIn(user, day, quiet, worked), next: next && heldIn(user, { ...day, alone: null }, next, null) };
  }

  private async titleOf(id: string): Promise<string> {
    return (await this.tasks.findOne({ where: { id }, select: { id: true, title: true } }))?.title ?? '';
  }

  private async told(user: User, now: Instant, { quiet, next }: { quiet: Held | null; next: Held | null }): Promise<QuietState> {
    const graces = await this.graces.find({
      where: { ownerId: user.id, startAt: MoreThanOrEqual(startOfDay(dayOf(now, user.zone), user.zone)) },
      order: { startAt: 'ASC', id: 'ASC' },
    });
    return {
      ...{ at: isoInZone(now, user.zone), zone: user.zone },
      quiet: quiet && timeOf(quiet, user.zone),
      next: next && timeOf(next, user.zone),
      sites: settingsOf(user).quiet.sites,
      graces: graces.map((one) => graceInfo(one, user.zone)),
      extension: user.extensionSeen ? isoInZone(user.extensionSeen, user.zone) : null,
    };
  }
}

/** @param worked the title of what is worked on heads-down; null: nothing is */
function heldIn(user: User, { alone, ownTime }: StandingDay, quiet: Quiet<OwnTime>, worked: string | null): Held {
  const always = settingsOf(user).quiet.sites;
  const own = quiet.block?.block.sites ?? null;
  // Work lies in quiet time; heads-down holds back what always is, and what this time says besides.
  const work = covering(
    ownTime.filter(({ block }) => block.taskId !== null),
    quiet.start,
  );
  return {
    ...quiet,
    sites: worked === null ? (own ?? always) : [...new Set([...always, ...(own ?? [])])],
    title: worked ?? work?.title ?? quiet.block?.block.title ?? '',
    ofWhat: (worked === null ? quiet.block?.block.id : alone?.id) ?? '',
    taskId: worked === null ? null : (alone?.taskId ?? null),
  };
}

const isNoted = (held: Held, known: SiteHold | undefined): boolean =>
  known !== undefined && known.endAt === held.end && known.sites.join() === held.sites.join();

/** Notes what is held back, and that all else is not any more. */
async function note(work: Work, held: Held | null): Promise<void> {
  for (const one of await work.manager.findBy(SiteHold, { ownerId: work.ownerId, endAt: MoreThan(work.now) }))
    if (one.ofWhat !== held?.ofWhat) await work.update('siteHold', one, { endAt: work.now });
  if (!held) return;
  const { ofWhat, taskId, title, sites, end } = held;
  const known = await work.manager.findOneBy(SiteHold, { ownerId: work.ownerId, ofWhat });
  if (known) await work.update('siteHold', known, { sites, endAt: end });
  else await work.insert('siteHold', { ofWhat, taskId, title, sites, startAt: work.now, endAt: end });
}

const timeOf = ({ start, end, title, sites }: Held, zone: string): QuietTime => ({
  ...{ from: isoInZone(start, zone), until: isoInZone(end, zone), title, sites },
});

const graceInfo = ({ site, startAt, endAt }: Grace, zone: string): GraceInfo => ({
  ...{ site, from: isoInZone(startAt, zone), until: isoInZone(endAt, zone) },
});

function hostOf(site: string): string {
  try {
    return readSite(site);
  } catch (problem) {
    if (problem instanceof SiteError) throw badField('site', problem.message);
    throw problem;
  }
}
