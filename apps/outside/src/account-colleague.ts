import { workday } from './clock';
import type { Collection, Kept } from './account-state';
import { escape } from './layout';

/** Where people are, by mail address. */
export const OWNERS = '/account/people/';
const JONAS = 'jonas.brandl@alderfen.example';
/** Working days from today, and when he is busy on them, in UTC. */
const BUSY: [day: number, from: string, to: string][] = [
  ...[1, 2, 3].map((day): [number, string, string] => [day, '070000', '090000']),
  [2, '113000', '130000'],
  [4, '070000', '153000'],
  [6, '060000', '080000'],
  [7, '120000', '140000'],
];

/** The calendar of a colleague: everybody in the office is told when he is busy, and not with what. */
export const colleague = (): Collection => ({ name: 'Jonas Brandl', component: 'VEVENT', objects: {}, gone: {}, of: JONAS });

export function seedColleague(): [name: string, text: string][] {
  return BUSY.map(([day, from, to], at) => {
    const on = workday(day).replaceAll('-', '');
    const lines = [`UID:jonas-${at}`, 'DTSTAMP:20260801T080000Z', 'SUMMARY:Out with the crew'];
    const times = [`DTSTART:${on}T${from}Z`, `DTEND:${on}T${to}Z`];
    const text = ['BEGIN:VCALENDAR', 'VERSION:2.0', 'PRODID:-//Outside//Account//EN', 'BEGIN:VEVENT', ...lines, ...times];
    return [`jonas-${at}.ics`, [...text, 'END:VEVENT', 'END:VCALENDAR', ''].join('\r\n')];
  });
}

/** Whose a collection is, and what may be done with it (RFC 3744; RFC 4791, 6.1.1); of one's own nothing is said. */
export const ownerOf = (address: string): string =>
  address
    ? `<d:owner><d:href>${OWNERS}${escape(address)}</d:href></d:owner><d:current-user-privilege-set><d:privilege><c:read-free-busy/></d:privilege></d:current-user-privilege-set>`
    : '';

/** The answer to a free-busy-query (RFC 4791, 7.10). */
export function freeBusy(objects: readonly Kept[], body: string): string {
  const [start = '', end = ''] = ['start', 'end'].map((name) => new RegExp(`${name}="(\\d{8}T\\d{6}Z)"`).exec(body)?.[1] ?? '');
  const busy = objects.flatMap(({ text }) => {
    const [from, to] = ['DTSTART', 'DTEND'].map((name) => new RegExp(`^${name}:(\\d{8}T\\d{6}Z)`, 'm').exec(text)?.[1]);
    return from && to && from < end && to > start ? [`FREEBUSY:${from}/${to}`] : [];
  });
  return [
    'BEGIN:VCALENDAR',
    'VERSION:2.0',
    'PRODID:-//Outside//Account//EN',
    'BEGIN:VFREEBUSY',
    `DTSTART:${start}`,
    `DTEND:${end}`,
  ]
    .concat([...busy, 'END:VFREEBUSY', 'END:VCALENDAR', ''])
    .join('\r\n');
}
