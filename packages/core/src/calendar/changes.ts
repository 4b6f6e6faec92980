import { sayDay, sayTime } from '../text/say';
import { sayRule } from '../text/sayRule';
import { addDays, dayOf, daysBetween, type Zone } from '../time/zones';
import type { EventBuffers } from './bufferRules';
import { placeOf } from './times';

/** What of an event people notice when it changes. Times are wall-clock in `zone`, or days. */
export interface Noticed {
  title: string;
  start: string;
  end: string;
  allDay: boolean;
  zone: Zone | null;
  location: string;
  rrule: string | null;
  status: 'CONFIRMED' | 'TENTATIVE' | 'CANCELLED';
}

/**
 * What changed between two states of an event, as sentences without a full stop: "moved from Tue 4 Aug 10:00 to
 * Wed 5 Aug 14:00". Empty when nothing that people notice changed. Times are said in the reader's zone.
 */
export function sayEventChanges(before: Noticed, after: Noticed, reader: Zone, today: string): string[] {
  const said: string[] = [];
  if (before.status !== 'CANCELLED' && after.status === 'CANCELLED') return ['cancelled'];
  if (before.status === 'CANCELLED' && after.status !== 'CANCELLED') said.push('on again');
  if (placeOf(before, reader).start !== placeOf(after, reader).start || before.allDay !== after.allDay)
    said.push(`moved from ${sayWhen(before, reader, today)} to ${sayWhen(after, reader, today)}`);
  else if (placeOf(before, reader).end !== placeOf(after, reader).end)
    said.push(`now until ${sayEnd(after, reader, today)} instead of ${sayEnd(before, reader, today)}`);
  if (before.location !== after.location)
    said.push(after.location ? `now at ${after.location}` : `no longer at ${before.location}`);
  if (before.title !== after.title) said.push(`renamed from “${before.title}” to “${after.title}”`);
  if ((before.rrule ?? '') !== (after.rrule ?? '')) said.push(after.rrule ? 'repeats differently' : 'no longer repeats');
  return said;
}

/** What of an event its owner changes without moving it. */
export interface Edited {
  title: string;
  location: string;
  rrule: string | null;
  description: string;
  meetingLink: string;
  category: string;
  status: Noticed['status'];
  transparent: boolean;
  class: 'PUBLIC' | 'PRIVATE' | 'CONFIDENTIAL';
  attendees: readonly { name: string; address: string }[];
  alarms: unknown;
  buffers: EventBuffers | null;
}

const shownAs = ({ status, transparent }: Edited): string =>
  transparent ? 'free' : status === 'TENTATIVE' ? 'tentative' : 'busy';

const CLASS = { PUBLIC: 'seen by others', PRIVATE: 'private', CONFIDENTIAL: 'seen by others as busy' };

/**
 * What was changed of an event where it stands, in words, one for each thing: `at North gate, was South gate`.
 * @param today the reader's day
 */
export function tellEvent(before: Edited, after: Edited, today: string): string[] {
  const was = (text: string) => (text ? `, was ${text}` : '');
  const names = (one: Edited) => one.attendees.map(({ name, address }) => name || address);
  const [then, now] = [names(before), names(after)];
  const differs = (field: keyof Edited) => JSON.stringify(before[field]) !== JSON.stringify(after[field]);
  const said: [keyof Edited, () => string[]][] = [
    ['title', () => [`called “${after.title}”${was(`“${before.title}”`)}`]],
    ['location', () => [`${after.location ? `at ${after.location}` : 'at no place'}${was(before.location)}`]],
    ['rrule', () => [after.rrule ? `repeats ${sayRule(after.rrule.split('\n')[0] ?? '', today)}` : 'does not repeat']],
    [
      'attendees',
      () => [
        ...now.filter((name) => !then.includes(name)).map((name) => `with ${name}`),
        ...then.filter((name) => !now.includes(name)).map((name) => `without ${name}`),
      ],
    ],
    [after.status === before.status ? 'transparent' : 'status', () => [`shown as ${shownAs(after)}`]],
    ['class', () => [CLASS[after.class]]],
    ['category', () => [after.category ? `category ${after.category}` : 'no category']],
    ['meetingLink', () => [after.meetingLink ? 'another meeting link' : 'no meeting link']],
    ['description', () => ['notes changed']],
    ['alarms', () => ['other reminders']],
    ['buffers', () => [besideOf(before, after)]],
  ];
  return said.flatMap(([field, words]) => (differs(field) ? words() : []));
}

function besideOf(before: Edited, after: Edited): string {
  const [then, now] = [before, after].map(({ buffers }) => buffers?.tasks.length ?? 0) as [number, number];
  if (now > then) return 'with a task beside it';
  return now < then ? 'without the task beside it' : 'other time beside it';
}

/** When an event begins, in the reader's zone: "Tue 4 Aug 10:00", or the day alone. */
export function sayWhen(event: Noticed, reader: Zone, today: string): string {
  const { start } = placeOf(event, reader);
  return event.allDay ? sayDay(event.start, today) : `${sayDay(dayOf(start, reader), today)} ${sayTime(start, reader)}`;
}

function sayEnd(event: Noticed, reader: Zone, today: string): string {
  if (event.allDay) return sayDay(daysBetween(event.start, event.end) > 0 ? addDays(event.end, -1) : event.start, today);
  return sayTime(placeOf(event, reader).end, reader);
}
