import type { AgendaEntry, DayInfo } from './agenda';
import type { Added, Done, EventChanged } from './answers';
import type {
  BlockChange,
  BlockInput,
  BlocksInput,
  DateOf,
  DayOrder,
  EntriesChange,
  EventChange,
  EventCopies,
  EventInput,
  EventRemoval,
  MeetingPageInput,
} from './calendar-inputs';
import type { EventFull } from './events';
import type { ReminderInfo, RemindersDone, Snooze } from './reminders';
import type { YesCost, YesCostQuery } from './yes-cost';
import type { AgendaQuery, BlockRemoval } from './queries';
import type { DecisionAnswer } from './things';

/** The routes of days, own time and events; a part of the table in `routes.ts`. */
export interface CalendarRoutes {
  /** What stands on some days: events and blocks in order of time, then tasks without a time. */
  'GET /agenda': { query: AgendaQuery; answer: { entries: AgendaEntry[] } };
  /** The same by day, with the load of each, its working time and its gaps. */
  'GET /days': { query: AgendaQuery; answer: { days: DayInfo[] } };
  /** What saying yes to an event costs, or to one at a time. */
  'GET /cost': { query: YesCostQuery; answer: YesCost; errors: 'bad-field' | 'not-found' };
  /** One change for several events, blocks and tasks of these days; taken back as one. */
  'POST /agenda/change': {
    status: 200;
    body: EntriesChange;
    answer: Done;
    errors: 'bad-field' | 'not-found' | 'not-ours' | 'not-organizer';
  };

  /** Puts the tasks of a day in order, and on it. */
  'POST /agenda/order': { status: 200; body: DayOrder; answer: Done; errors: 'not-found' };

  /** Sets time aside: for a task, which may have many blocks, or for quiet or a break. */
  'POST /blocks': { body: BlockInput; answer: DecisionAnswer; errors: 'not-found' | 'bad-field' };
  /** Sets time aside several times, taken back as one. */
  'POST /blocks/several': { body: BlocksInput; answer: DecisionAnswer; errors: 'not-found' | 'bad-field' };
  /** Moves, resizes or changes a block. */
  'PATCH /blocks/:id': { body: BlockChange; answer: Done; errors: 'bad-field' };
  /** Gives the time back; the task stays. */
  'DELETE /blocks/:id': { query: BlockRemoval; answer: Done };

  /** What is to be thought of now, and what was missed; in order of time. */
  'GET /reminders': { answer: ReminderInfo[] };
  /** Claims to be the window that tells it as a notification of the system; only the first one is. */
  'POST /reminders/:id/shown': { status: 200; answer: { first: boolean } };
  /** Puts one off. */
  'POST /reminders/:id/snooze': { status: 204; body: Snooze; answer: null };
  /** They were thought of; ids of what is gone are passed over. */
  'POST /reminders/done': { status: 204; body: RemindersDone; answer: null };

  /** Makes an event. */
  'POST /events': { body: EventInput; answer: DecisionAnswer; errors: 'bad-field' | 'not-ours' };
  /** An event, or one date of it. */
  'GET /events/:id': { query: DateOf; answer: EventFull };
  /** Changes an event, one date of a series, all from one on, or all. */
  'PATCH /events/:id': { body: EventChange; answer: EventChanged; errors: 'bad-field' | 'not-ours' | 'not-organizer' };
  /** Writes into its page of notes, which is begun where there is none: of a series one for each date. */
  'POST /events/:id/page': { status: 200; body: MeetingPageInput; answer: Added };
  /** Puts copies of an event on other days. */
  'POST /events/:id/copies': { body: EventCopies; answer: DecisionAnswer; errors: 'bad-field' | 'not-ours' };
  /** Takes an event out of the calendar, one date of a series, all from one on, or all. */
  'DELETE /events/:id': { query: EventRemoval; answer: Done; errors: 'bad-field' | 'not-ours' };
}
