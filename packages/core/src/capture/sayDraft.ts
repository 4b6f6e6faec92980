import { sayClock, sayDay, sayMinutes, sayMoment } from '../text/say';
import { sayRule } from '../text/sayRule';
import type { Day } from '../time/zones';
import type { Draft, Field } from './draft';

const NAMES: Record<Field, string> = {
  date: 'day',
  endDate: 'until',
  time: 'time',
  endTime: 'until',
  minutes: 'how long',
  week: 'week',
  deadline: 'deadline',
  priority: 'priority',
  list: 'list',
  tag: 'tag',
  person: 'with',
  repeat: 'repeats',
};

/** What a line was understood to say, part by part in its order: `[what it is, its value in words]`. */
export function sayParts(text: string, draft: Draft, today: Day): [string, string][] {
  // What one field is said in several places is one.
  const all = draft.spans.filter(
    ({ field }, at) => field !== 'repeat' || draft.spans.findIndex((one) => one.field === field) === at,
  );
  return all.map((span) => [NAMES[span.field], valueOf(span.field, draft, today, text.slice(span.start + 1, span.end))]);
}

/** What a line will become, in words around its title: `makes the task “…”`. Empty title: what is missing. */
export function sayOutcome(draft: Draft): { before: string; title: string; after: string } {
  const { title } = draft;
  if (!title) return { before: 'Add what it is about: nothing is left for a title.', title, after: '' };
  if (draft.kind === 'event') return { before: 'puts', title, after: 'into the calendar as an event' };
  if (draft.time && (draft.date || draft.repeat)) return { before: 'makes the task', title, after: 'and sets its time aside' };
  if (draft.date || draft.week || draft.deadline || draft.repeat || draft.list)
    return { before: 'makes the task', title, after: '' };
  return { before: 'puts', title, after: 'into the inbox, to be sorted later' };
}

function valueOf(field: Field, draft: Draft, today: Day, marked: string): string {
  switch (field) {
    case 'date':
      return draft.date ? sayDay(draft.date, today) : '';
    case 'endDate':
      return draft.endDate ? sayDay(draft.endDate, today) : '';
    case 'time':
      return draft.time ? sayClock(draft.time) : '';
    case 'endTime':
      return draft.endTime ? sayClock(draft.endTime) : '';
    case 'minutes':
      return sayMinutes(draft.minutes ?? 0);
    case 'week':
      return draft.week ? `${Number(draft.week.slice(6))}` : '';
    case 'deadline':
      return draft.deadline ? `${sayMoment(draft.deadline, today)}, ${draft.deadlineFixed ? 'fixed' : 'flexible'}` : '';
    case 'priority':
      return draft.priority;
    case 'list':
      return draft.list ?? '';
    case 'repeat':
      return draft.repeat
        ? `${sayRule(draft.repeat, today)}${draft.repeatFrom === 'completion' ? ', counted from when it is done' : ''}`
        : '';
    case 'tag':
    case 'person':
      return marked.replaceAll('"', '');
  }
}
