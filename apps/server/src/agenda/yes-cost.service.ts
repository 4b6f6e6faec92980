import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { EndangeredDeadline, Overlap, TimeStretch, StripSlip, YesCost, YesCostQuery } from '@corvun/contract';
import {
  MINUTE,
  addDays,
  costOfYes,
  dayOf,
  deadlineAt,
  daysFrom,
  endOfDay,
  isoInZone,
  overlaps,
  parseIso,
  repeats,
  seriesOccurrences,
  startOfDay,
  type Cause,
  type CostOfYes,
  type Interval,
  type OwnTime,
} from '@corvun/core';
import { In, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { badField, notFound } from '../base/errors';
import { blockTitle } from '../blocks/blocks.service';
import type { Calendar } from '../calendars/calendar.entity';
import { dateOf } from '../events/edit-events';
import { Event } from '../events/event.entity';
import { settingsOf, workingOn } from '../settings/settings-of';
import { Task } from '../tasks/task.entity';
import { AgendaService, type Taken } from './agenda.service';
import { GuestTimes, NOBODY } from './guest-times.service';
import { aroundOf, bufferInfo, cameFrom, type Around } from './around';
import { isThere } from '../base/is-there';

const DAY = 86_400_000;
/** How far ahead own time may be moved, in days; further where the event is further. */
const AHEAD = 14;
/** An event that is further away, in days, is counted by itself: nothing of today gives way to it. */
const FAR = 60;
/** How far ahead the next date of a series is looked for, in milliseconds. */
const NEXT = 400 * DAY;

/** Between these, years have four digits wherever one looks. */
const FIRST = Date.UTC(1900, 0, 1);
const LAST = Date.UTC(2200, 0, 1);

interface Asked extends Interval {
  /** The UID that is asked about is no obstacle to itself. */
  event: Event | null;
  occurrence: string | null;
  allDay: boolean;
}

/** Says what saying yes to an event costs. */
@Injectable()
export class YesCostService {
  constructor(
    @InjectRepository(Event) private readonly events: Repository<Event>,
    @InjectRepository(Task) private readonly tasks: Repository<Task>,
    private readonly agenda: AgendaService,
    private readonly guestTimes: GuestTimes,
    private readonly clock: Clock,
  ) {}

  /** @throws Refusal 404, 422 */
  async of(user: User, query: YesCostQuery): Promise<YesCost> {
    const asked = await this.asked(user, query);
    if (asked.start < FIRST || asked.end > LAST) throw badField('start', 'It is too far away to be counted.');
    const now = this.clock.now();
    const far = Math.abs(asked.start - now) > FAR * DAY;
    const first = dayOf(far ? asked.start - AHEAD * DAY : Math.min(now, asked.start), user.zone);
    const last = addDays(dayOf(far ? asked.start : Math.max(now, asked.start), user.zone), AHEAD);
    const window = { start: startOfDay(first, user.zone), end: endOfDay(last, user.zone) };
    const [{ agenda, calendars, tasks }, demands, guests] = await Promise.all([
      this.agenda.taken(user, window),
      far ? [] : this.demands(user, window.end),
      asked.event ? this.guestTimes.of(user, asked.event, asked) : NOBODY,
    ]);
    const { lengths, snap, planning } = settingsOf(user);
    const events = agenda.events.filter(({ part, cause }) => cause && !isItself(part, cause, asked));
    const { mine, others, whole, from } = this.beside(user, asked, events, calendars, tasks);
    const blocks = agenda.blocks.filter(({ cause }) => cause);
    const own = blocks.map(({ start, end, block }): OwnTime => {
      const task = tasks.get(block.taskId ?? '');
      return {
        ...{ id: block.id, taskId: block.taskId, quiet: block.kind === 'quiet', start, end },
        concentration: task?.concentration ?? 'medium',
        deadline: task?.deadline ? deadlineAt(task.deadline, user.zone) : null,
      };
    });
    const working = workingOn(user, daysFrom(first, Math.round((window.end - window.start) / DAY)));
    const cost = costOfYes({
      ...{ asked, whole, now, zone: user.zone, working, promised: [...events, ...others], own, grid: snap, deep: planning.deep },
      theirs: guests.theirs,
      demands: demands.map((task) => ({
        id: task.id,
        minutes: Math.max(0, (task.estimate ?? lengths[task.concentration]) - task.spent),
        deadline: deadlineAt(task.deadline ?? '', user.zone),
      })),
    });
    const iso = ({ start, end }: Interval): TimeStretch => ({
      start: isoInZone(start, user.zone),
      end: isoInZone(end, user.zone),
    });
    const day = {
      start: startOfDay(dayOf(asked.start, user.zone), user.zone),
      end: endOfDay(dayOf(asked.start, user.zone), user.zone),
    };
    // Whole days stand beside what has an hour, and move nothing.
    const counted = asked.allDay ? { ...cost, moves: [], minutes: 0, deadlines: [] } : cost;
    return {
      ...iso(asked),
      allDay: asked.allDay,
      occurrence: asked.occurrence,
      buffers: mine.map(({ buffer }) => bufferInfo(buffer, user.zone)),
      comesFrom: from,
      overlaps: asked.allDay ? [] : overlapsOf({ events, blocks }, { calendars, tasks }, asked, whole, cost, iso),
      deadlines: counted.deadlines.map((one) => endangered(one, demands, user.zone)),
      minutes: counted.minutes,
      left: cost.left,
      ...strips(asked, day, { events, blocks, others, mine }, counted, iso),
      working: working.filter((one) => overlaps(one, day)).map(iso),
      guests: guests.all,
      instead: asked.allDay ? [] : cost.instead.map(({ slot, reasons }) => ({ ...iso(slot), reasons })),
    };
  }

  /** What would belong to it, and what belongs to all others. */
  private beside(
    user: User,
    asked: Asked,
    events: Taken['agenda']['events'],
    calendars: Calendar[],
    tasks: Map<string, Task>,
  ): { mine: Around[]; others: Around[]; whole: Interval; from: string } {
    if (asked.allDay) return { mine: [], others: aroundOf(events, calendars, tasks, user), whole: asked, from: '' };
    const part = asked.event ?? UNSAID;
    const cause = { kind: 'event', ...{ id: part.id, occurrence: asked.occurrence }, ...TAKES } as const;
    const itself = { start: asked.start, end: asked.end, shown: true, cause, part };
    const all = aroundOf([...events, itself], calendars, tasks, user);
    const mine = all.filter(({ buffer: { of } }) => of.cause === cause);
    return {
      mine,
      others: all.filter(({ buffer: { of } }) => of.cause !== cause),
      whole: {
        start: Math.min(asked.start, ...mine.map(({ start }) => start)),
        end: Math.max(asked.end, ...mine.map(({ end }) => end)),
      },
      from: cameFrom([...events, itself], itself, calendars, tasks, user),
    };
  }

  private async asked(user: User, { event: id, occurrence, start, minutes }: YesCostQuery): Promise<Asked> {
    if (start !== undefined || id === undefined) {
      const at = parseIso(start ?? '', user.zone);
      if (Number.isNaN(at)) throw badField('start', 'Say of which event, or when it would begin.');
      return { start: at, end: at + Number(minutes ?? 60) * MINUTE, event: null, occurrence: null, allDay: false };
    }
    const event = await this.events.findOneBy({ ownerId: user.id, id });
    if (!event) throw notFound('event with this id');
    const parts = await this.events.findBy({ ownerId: user.id, calendarId: event.calendarId, uid: event.uid });
    const key = occurrence ?? (event.recurrenceId || (this.nextOf(user, parts) ?? event.start));
    const date = dateOf(parts, key, user.zone);
    if (!date) throw notFound('such occurrence');
    return {
      start: date.start,
      end: Math.max(date.end, date.start + MINUTE),
      event,
      occurrence: parts.some(repeats) ? key : null,
      allDay: date.part.allDay,
    };
  }

  /** The next date of a series by its name; undefined where there is none, or only one. */
  private nextOf({ zone }: User, parts: readonly Event[]): string | undefined {
    if (!parts.some(repeats)) return undefined;
    const now = this.clock.now();
    return seriesOccurrences(parts, now, now + NEXT, zone).find(({ occurrence }) => occurrence.start >= now)?.occurrence.key;
  }

  /** Open work with a deadline in sight. */
  private async demands(user: User, until: number): Promise<Task[]> {
    const rows = await this.tasks.findBy({
      ownerId: user.id,
      deadline: isThere(),
      status: In(['NEEDS-ACTION', 'IN-PROCESS']),
      shelved: false,
    });
    return rows.filter(({ deadline }) => deadline !== null && deadlineAt(deadline, user.zone) <= until);
  }
}

/** What is so of an event of which only the time is known. */
const UNSAID = { ...{ id: '', calendarId: '', category: '', location: '', organizer: '' }, allDay: false, buffers: null };
const TAKES = { calendarId: null, tentative: false, shown: true };

/** The date that is asked about, as it stands tentatively. */
const isItself = (part: Event, cause: Cause | null, { event, occurrence }: Asked) =>
  event !== null && part.uid === event.uid && part.calendarId === event.calendarId && (cause?.occurrence ?? null) === occurrence;

function overlapsOf(
  agenda: Pick<Taken['agenda'], 'events' | 'blocks'>,
  { calendars, tasks }: Pick<Taken, 'calendars' | 'tasks'>,
  asked: Interval,
  whole: Interval,
  { moves }: CostOfYes,
  iso: (one: Interval) => TimeStretch,
): Overlap[] {
  const events = agenda.events
    .filter((one) => overlaps(one, asked))
    .map((one): Overlap => ({
      ...{ kind: 'event', id: one.part.id, taskId: null, title: one.part.title, allDay: one.part.allDay },
      calendar: calendars.find(({ id }) => id === one.part.calendarId)?.name ?? null,
      ...{ movable: false, moveTo: null, reasons: [], late: false },
      ...iso(one),
    }));
  const blocks = agenda.blocks
    .filter((one) => overlaps(one, whole))
    .map((one): Overlap => {
      const move = moves.find(({ id }) => id === one.block.id);
      return {
        ...{ kind: 'block', id: one.block.id, taskId: one.block.taskId, allDay: false },
        title: blockTitle(one.block, tasks.get(one.block.taskId ?? '')),
        calendar: null,
        movable: move !== undefined,
        moveTo: move?.to ? iso(move.to) : null,
        reasons: move?.reasons ?? [],
        late: move?.late ?? false,
        ...iso(one),
      };
    });
  return [...events, ...blocks].sort((a, b) => a.start.localeCompare(b.start));
}

function endangered(
  { id, before, after }: CostOfYes['deadlines'][number],
  tasks: readonly Task[],
  zone: string,
): EndangeredDeadline {
  const task = tasks.find((one) => one.id === id);
  const at = (instant: number | null) => (instant === null ? null : isoInZone(instant, zone));
  return {
    taskId: id,
    title: task?.title ?? '',
    deadline: task?.deadline ?? '',
    fixed: task?.deadlineFixed ?? false,
    was: at(before.lastSafeStart),
    lastSafeStart: at(after.lastSafeStart),
    slackMinutes: after.slackMinutes,
    lateMinutes: after.lateMinutes,
  };
}

/** The day before and after, as slips in order. */
function strips(
  asked: Asked,
  day: Interval,
  { events, blocks, others, mine }: Taken['agenda'] & { others: Around[]; mine: Around[] },
  { moves }: Pick<CostOfYes, 'moves'>,
  iso: (one: Interval) => TimeStretch,
): Pick<YesCost, 'before' | 'after'> {
  const timed = events.filter(({ part }) => !part.allDay).map((one) => ({ ...one, kind: 'event' as const, id: one.part.id }));
  const own = blocks.map((one) => ({ ...one, kind: 'own' as const, id: one.block.id }));
  const moved = own.map((one) => ({ ...one, ...(moves.find(({ id }) => id === one.id)?.to ?? {}) }));
  const slips = (all: readonly (Interval & Pick<StripSlip, 'kind' | 'id'>)[]): StripSlip[] =>
    all
      .filter((one) => overlaps(one, day))
      .sort((a, b) => a.start - b.start)
      .map(({ start, end, kind, id }) => ({
        kind,
        id,
        ...iso({ start: Math.max(start, day.start), end: Math.min(end, day.end) }),
      }));
  const itself = { ...asked, kind: 'this' as const, id: asked.event?.id ?? '' };
  const besides = (all: Around[]) => all.map((one) => ({ ...one, kind: 'buffer' as const, id: one.buffer.of.id }));
  return {
    before: slips([...timed, ...own, ...besides(others)]),
    after: slips([...timed, ...moved, ...besides([...others, ...mine]), ...(asked.allDay ? [] : [itself])]),
  };
}
