import type { Priority } from '../capture/draft';
import { sayDay, sayMinutes, sayMoment, saySpan, sayTime } from '../text/say';
import { dayOf, type Day, type Instant, type Zone } from '../time/zones';
import type { DayLoad } from './load';

/** Something that stands on a day at a time. */
export interface OutlineTimed {
  kind: 'event' | 'block';
  id: string;
  title: string;
  start: Instant;
  end: Instant;
  location: string;
  tentative: boolean;
  done: boolean;
  /** Minutes that are kept before and after it. */
  before: number;
  after: number;
  /** Titles of what is done before it. */
  prepare: readonly string[];
}

/** A task for a day, with or without its time. */
export interface OutlineTask {
  id: string;
  title: string;
  minutes: number;
  priority: Priority;
  deadline: string | null;
  /** Whether it has time on this day. */
  placed: boolean;
}

export interface OutlineInput {
  day: Day;
  today: Day;
  zone: Zone;
  /** What a day off is called; null on others. */
  off: string | null;
  load: DayLoad;
  /** Names of what lasts the whole day. */
  wholeDay: readonly string[];
  timed: readonly OutlineTimed[];
  tasks: readonly OutlineTask[];
  /** Ids of the tasks that matter most on this day, in order. */
  picks: readonly string[];
  risks: readonly { id: string; title: string; deadline: string; lastSafeStart: Instant | null; lateMinutes: number }[];
  /** What stayed open from days before. */
  left: readonly { id: string; title: string; day: Day }[];
}

/** A line of an outline. */
export interface OutlineLine {
  part: 'load' | 'whole-day' | 'matters' | 'time' | 'task' | 'risk' | 'left' | 'over' | 'gives';
  /** When, by the clock; empty where it has no time. */
  time: string;
  text: string;
  /** Why it stands here, or what it needs; empty where nothing is to be said. */
  reason: string;
  /** What it is about; null where it is about the day. */
  thing: { kind: 'event' | 'block' | 'task'; id: string } | null;
}

/** What of a day can go to another one, so that it is not over-promised any more. */
export interface Giving {
  id: string;
  title: string;
  minutes: number;
  reason: string;
}

const WEIGHT: Record<Priority, number> = { high: 2, normal: 1, low: 0 };

/**
 * What could give on a day that is over-promised: own work that is neither due nor picked, the lightest and latest first,
 * until enough minutes are free. Where all of it is not enough, all of it.
 */
export function whatGives({
  day,
  load,
  tasks,
  picks,
  risks,
}: Pick<OutlineInput, 'day' | 'load' | 'tasks' | 'picks' | 'risks'>): Giving[] {
  const endangered = new Set(risks.map(({ id }) => id));
  const movable = tasks
    .filter((task) => !picks.includes(task.id) && !endangered.has(task.id))
    .filter(({ deadline }) => deadline === null || deadline.slice(0, 10) > day)
    .sort(
      (a, b) =>
        WEIGHT[a.priority] - WEIGHT[b.priority] ||
        (b.deadline ?? '9999').localeCompare(a.deadline ?? '9999') ||
        b.minutes - a.minutes ||
        (a.id < b.id ? -1 : 1),
    );
  const giving: Giving[] = [];
  let freed = 0;
  for (const { id, title, minutes, priority, deadline } of movable) {
    if (freed >= load.over) break;
    freed += minutes;
    const why = [priority === 'normal' ? '' : priority, deadline ? `due ${sayMoment(deadline, day)}` : 'no deadline'];
    giving.push({ id, title, minutes, reason: why.filter(Boolean).join(', ') });
  }
  return giving;
}

/** A day in words, in order: how full it is, what matters, what comes when and what it needs, what is in danger, what could give. */
export function dayOutline(input: OutlineInput): OutlineLine[] {
  const { day, today, zone, off, load, wholeDay, timed, tasks, picks, risks, left } = input;
  const about = (id: string) => ({ kind: 'task' as const, id });
  const line = (part: OutlineLine['part'], text: string, more: Partial<OutlineLine> = {}): OutlineLine => ({
    ...{ part, time: '', text, reason: '', thing: null },
    ...more,
  });
  const picked = picks.flatMap((id) => tasks.find((task) => task.id === id) ?? []);
  return [
    line('load', off ?? sayLoad(load)),
    ...wholeDay.map((title) => line('whole-day', title)),
    ...picked.map(({ id, title, minutes }) => line('matters', title, { reason: sayMinutes(minutes), thing: about(id) })),
    ...[...timed]
      .sort((a, b) => a.start - b.start || a.end - b.end || (a.id < b.id ? -1 : 1))
      .map((one) =>
        line('time', one.title, {
          time: saySpan(one.start, one.end, zone),
          reason: needsOf(one, zone),
          thing: { kind: one.kind, id: one.id },
        }),
      ),
    ...tasks
      .filter(({ placed }) => !placed)
      .map(({ id, title, minutes, deadline }) =>
        line('task', title, {
          reason: [sayMinutes(minutes), deadline ? `due ${sayMoment(deadline, day)}` : ''].filter(Boolean).join(', '),
          thing: about(id),
        }),
      ),
    ...risks.map(({ id, title, deadline, lastSafeStart, lateMinutes }) =>
      line('risk', title, {
        reason: `due ${sayMoment(deadline, day)}${
          lastSafeStart === null
            ? `, ${sayMinutes(lateMinutes)} do not fit before it`
            : `, to be begun by ${sayTime(lastSafeStart, zone)} ${sayDay(dayOf(lastSafeStart, zone), day)}`
        }`,
        thing: about(id),
      }),
    ),
    ...left.map(({ id, title, day: planned }) =>
      line('left', title, { reason: `since ${sayDay(planned, today)}`, thing: about(id) }),
    ),
    ...(load.over > 0
      ? [
          line('over', `${sayMinutes(load.over)} more is promised than there is time for`),
          ...whatGives(input).map(({ id, title, minutes, reason }) =>
            line('gives', title, { reason: `${sayMinutes(minutes)}, ${reason}`, thing: about(id) }),
          ),
        ]
      : []),
  ];
}

function sayLoad({ capacity, meetings, buffers, blocks, unplaced, left, over }: DayLoad): string {
  if (capacity === 0) return 'No working time';
  const promised = meetings + buffers + blocks + unplaced;
  const parts = [
    meetings ? `${sayMinutes(meetings)} with others` : '',
    buffers ? `${sayMinutes(buffers)} beside it` : '',
    blocks + unplaced ? `${sayMinutes(blocks + unplaced)} of your own work` : '',
  ].filter(Boolean);
  if (!promised) return `${sayMinutes(capacity)}, and nothing is promised yet`;
  return `${parts.join(', ')}; ${over ? 'nothing' : sayMinutes(left)} of ${sayMinutes(capacity)} is left`;
}

function needsOf({ location, tentative, done, before, after, prepare, start }: OutlineTimed, zone: Zone): string {
  return [
    done ? 'done' : '',
    tentative ? 'not sure yet' : '',
    location,
    before ? `begin to prepare or leave at ${sayTime(start - before * 60_000, zone)}` : '',
    prepare.length ? `before it: ${prepare.join(', ')}` : '',
    after ? `${sayMinutes(after)} after it` : '',
  ]
    .filter(Boolean)
    .join(', ');
}

const HEADINGS: Partial<Record<OutlineLine['part'], string>> = {
  matters: 'What matters',
  time: 'In order',
  task: 'Without a time yet',
  risk: 'At risk',
  left: 'Still open from before',
  over: 'Too much',
};

/** An outline as plain text, for a mail or a terminal. */
export function outlineText(lines: readonly OutlineLine[], day: Day, today: Day): string {
  const text: string[] = [sayDay(day, today)];
  let part: OutlineLine['part'] | null = null;
  for (const { part: own, time, text: what, reason } of lines) {
    const heading = HEADINGS[own];
    if (own !== part && heading) text.push('', heading);
    part = own;
    const said = [time, what].filter(Boolean).join('  ');
    text.push(
      heading || own === 'gives'
        ? `- ${own === 'gives' ? 'could go to another day: ' : ''}${said}${reason ? ` (${reason})` : ''}`
        : said,
    );
  }
  return text.join('\n');
}
