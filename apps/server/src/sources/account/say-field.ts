import { dayOf, sayAlarms, sayClock, sayDay, sayMoment, sayRule, type Alarm, type Value } from '@corvun/core';
import type { User } from '../../accounts/user.entity';
import { inMannerOf } from '../../accounts/manner';
import { DATE } from '../../events/event-state';

/** What a field is called where both sides of it are shown. */
export function nameOfField(field: string, user: User, now: number): string {
  if (field.startsWith(DATE)) return `The date of ${moment(field.slice(DATE.length), user, now)}`;
  return (
    { time: 'When', busy: 'Free to others', class: 'Who may see it', parent: 'Step of' }[field] ??
    `${field.charAt(0).toUpperCase()}${field.slice(1)}`
  );
}

/** The value of a field in words; what stands for itself is given as it is. */
export function sayField(field: string, value: Value, user: User, now: number): Value {
  if (value === null) return null;
  const parts = partsOf(value);
  if (field.startsWith(DATE)) {
    const [, title, time] = parts as [boolean, Value, Value];
    return [title, sayField('time', time, user, now)].filter((one) => one !== null).join(', ');
  }
  switch (field) {
    case 'time':
      return sayWhen(parts as [boolean, string, string], user, now);
    case 'repeat':
      return parts[0] ? inMannerOf(user, () => sayRule(String(parts[0]).split('\n')[0] ?? '', dayOf(now, user.zone))) : 'not';
    case 'guests':
      return (
        partsOf(parts[1] as Value)
          .map((one) => JSON.parse(String(one)) as { name: string; address: string; partstat: string })
          .map(({ name, address, partstat }) => `${name || address} (${partstat.toLowerCase()})`)
          .join(', ') || null
      );
    case 'alarms':
      return inMannerOf(user, () =>
        sayAlarms(
          parts.map((one) => JSON.parse(String(one)) as Alarm),
          false,
          user.zone,
        ),
      );
    case 'deadline':
    case 'day':
      return moment(String(value), user, now);
    default:
      return value;
  }
}

function partsOf(value: Value): unknown[] {
  if (typeof value !== 'string' || !value.startsWith('[')) return [value];
  try {
    const read: unknown = JSON.parse(value);
    return Array.isArray(read) ? read : [value];
  } catch {
    return [value];
  }
}

const moment = (wall: string, user: User, now: number): string => inMannerOf(user, () => sayMoment(wall, dayOf(now, user.zone)));

function sayWhen([allDay, start, end]: [boolean, string, string], user: User, now: number): string {
  const today = dayOf(now, user.zone);
  return inMannerOf(user, () => {
    if (allDay) return sayDay(start.slice(0, 10), today);
    const until = start.slice(0, 10) === end.slice(0, 10) ? sayClock(end.slice(11)) : sayMoment(end, today);
    return `${sayMoment(start, today)} – ${until}`;
  });
}
