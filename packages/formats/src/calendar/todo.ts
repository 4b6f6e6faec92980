import ICAL from 'ical.js';
import { textOf } from './readCalendar';
import { wallText } from './times';

/** One VTODO (RFC 5545, 3.6.2). Days and times are wall-clock as written. */
export interface CalendarTodo {
  uid: string;
  title: string;
  description: string;
  status: 'NEEDS-ACTION' | 'IN-PROCESS' | 'COMPLETED' | 'CANCELLED';
  due: string | null;
  start: string | null;
  completed: number | null;
  priority: 'high' | 'normal' | 'low';
  rrule: string | null;
  categories: string[];
  /** ESTIMATED-DURATION or DURATION in minutes. */
  minutes: number | null;
}

const STATES = new Set(['IN-PROCESS', 'COMPLETED', 'CANCELLED']);

export function todoOf(component: ICAL.Component): CalendarTodo {
  const text = (name: string) => textOf(component, name);
  const time = (name: string) => {
    try {
      const value = component.getFirstPropertyValue(name);
      return value instanceof ICAL.Time ? value : null;
    } catch {
      return null;
    }
  };
  const priority = Number(component.getFirstPropertyValue('priority') ?? 0);
  const status = text('status').toUpperCase();
  const completed = time('completed');
  const duration = component.getFirstPropertyValue('estimated-duration') ?? component.getFirstPropertyValue('duration');
  const due = time('due');
  const start = time('dtstart');
  return {
    uid: text('uid'),
    title: text('summary'),
    description: text('description'),
    status: completed ? 'COMPLETED' : STATES.has(status) ? (status as CalendarTodo['status']) : 'NEEDS-ACTION',
    due: due ? wallText(due) : null,
    start: start ? wallText(start) : null,
    completed: completed ? completed.toJSDate().getTime() : null,
    priority: priority >= 1 && priority <= 4 ? 'high' : priority >= 6 ? 'low' : 'normal',
    rrule: component.getFirstPropertyValue('rrule')?.toString() ?? null,
    categories: component
      .getAllProperties('categories')
      .flatMap((property) => property.getValues().map(String))
      .slice(0, 20),
    minutes: duration instanceof ICAL.Duration ? Math.round(duration.toSeconds() / 60) || null : null,
  };
}
