import { componentWith, ended, itemsOf, parameterOf, propertyOf, unfolded, withParameter, type RawItem } from './rawLines';

/** The properties that hold each field (RFC 5545, 3.8; CONFERENCE: RFC 7986, 5.11). */
const PROPERTIES: Record<string, readonly string[]> = {
  uid: ['uid'],
  of: ['recurrence-id'],
  title: ['summary'],
  time: ['dtstart', 'dtend', 'duration'],
  repeat: ['rrule', 'exrule', 'rdate', 'exdate'],
  description: ['description'],
  location: ['location'],
  status: ['status', 'completed', 'percent-complete'],
  busy: ['transp'],
  class: ['class'],
  category: ['categories'],
  link: ['url'],
  meeting: ['conference', 'url'],
  priority: ['priority'],
  deadline: ['due', 'duration'],
  day: ['dtstart'],
  estimate: ['estimated-duration'],
};

type Change = (there: readonly RawItem[], here: readonly RawItem[]) => RawItem[];

/** How fields that are more than a property change. */
const MORE: Record<string, Change> = {
  guests: changeGuests,
  parent: (there, here) => replaced(there, here, isParent),
  alarms: changeAlarms,
};

/** All fields that an event has. What only tasks have (priority, whose step it is) stays as it is written in an event. */
export const EVENT_FIELDS: readonly string[] = [
  ...['of', 'title', 'time', 'repeat', 'description', 'location', 'status', 'busy', 'class', 'category', 'link', 'meeting'],
  ...['guests', 'alarms'],
];

/**
 * A component with some fields as another has them, and marked as changed. Every other line stays as it is written.
 * @param fields names as in `PROPERTIES` and `MORE`; others change nothing
 */
export function changeComponent(present: string, wanted: string, fields: readonly string[]): string {
  let items = itemsOf(present);
  const here = itemsOf(wanted);
  for (const field of fields) {
    const more = MORE[field];
    if (more) items = more(items, here);
    for (const name of PROPERTIES[field] ?? []) items = replaced(items, here, isCalled(name));
  }
  for (const name of ['dtstamp', 'last-modified']) items = replaced(items, here, isCalled(name));
  const [was, is] = [items, here].map((all) => Number(propertyOf(all.find(isCalled('sequence'))?.raw ?? '').value) || 0);
  if ((is ?? 0) > (was ?? 0)) items = replaced(items, here, isCalled('sequence'));
  return componentWith(present, items);
}

type Kind = (item: RawItem) => boolean;

const isCalled =
  (...names: string[]): Kind =>
  ({ name }) =>
    names.includes(name);

/** What stood first of them is where the new ones stand; new properties stand before the components. */
function put(items: readonly RawItem[], isOld: Kind, fresh: readonly RawItem[]): RawItem[] {
  const first = items.findIndex(isOld);
  const inner = items.findIndex(({ name }) => name.startsWith('begin:'));
  const isInner = fresh.some(({ name }) => name.startsWith('begin:'));
  const at = first >= 0 ? first : isInner || inner < 0 ? items.length : inner;
  const left = (some: readonly RawItem[]) => some.filter((item) => !isOld(item));
  return [...left(items.slice(0, at)), ...fresh.map(({ name, raw }) => ({ name, raw: ended(raw) })), ...left(items.slice(at))];
}

/** What says the same in both is left as it is written. */
function replaced(there: readonly RawItem[], here: readonly RawItem[], kind: Kind): RawItem[] {
  const [old, fresh] = [there.filter(kind), here.filter(kind)];
  const said = (all: readonly RawItem[]) => all.map(({ raw }) => unfolded(raw)).join('\n');
  return said(old) === said(fresh) ? [...there] : put(there, kind, fresh);
}

const addressOf = (raw: string): string => propertyOf(raw).value.trim().toLowerCase();

/**
 * Guests who stay keep what else is said of them: their role, whether an answer is asked for, for whom they come. One who is
 * named twice is twice.
 */
function changeGuests(there: readonly RawItem[], here: readonly RawItem[]): RawItem[] {
  const [organizer, attendee] = [isCalled('organizer'), isCalled('attendee')];
  const host = (all: readonly RawItem[]) => addressOf(all.find(organizer)?.raw ?? '');
  const items = host(there) === host(here) ? [...there] : put(there, organizer, here.filter(organizer));
  const known = new Map<string, RawItem[]>();
  // From the last to the first: the first is taken from the end.
  for (const item of there.filter(attendee).reverse()) {
    const own = known.get(addressOf(item.raw));
    if (own) own.push(item);
    else known.set(addressOf(item.raw), [item]);
  }
  const guests = here.filter(attendee).map((item) => {
    const kept = known.get(addressOf(item.raw))?.pop();
    const answer = parameterOf(item.raw, 'partstat');
    if (!kept || !answer) return kept ?? item;
    const isSame = (parameterOf(kept.raw, 'partstat') || 'NEEDS-ACTION').toUpperCase() === answer.toUpperCase();
    const asked = parameterOf(item.raw, 'rsvp') && !parameterOf(kept.raw, 'rsvp');
    const raw = isSame ? kept.raw : withParameter(kept.raw, 'partstat', answer);
    return { ...kept, raw: asked ? withParameter(raw, 'rsvp', 'TRUE') : raw };
  });
  return put(items, attendee, guests);
}

/** RELATED-TO says a parent where it says nothing else (3.8.4.5). */
const isParent: Kind = ({ name, raw }) => name === 'related-to' && /^(?:parent)?$/i.test(parameterOf(raw, 'reltype'));

/** The UID of the task that a component says it is a step of; empty where it is none. */
export const parentSaid = (component: string): string => propertyOf(itemsOf(component).find(isParent)?.raw ?? '').value.trim();

/** Alarms that stay are the same ones, under their UIDs. */
function changeAlarms(there: readonly RawItem[], here: readonly RawItem[]): RawItem[] {
  const alarm = isCalled('begin:valarm');
  const left = there.filter(alarm);
  const alarms = here.filter(alarm).map((item) => {
    const at = left.findIndex(({ raw }) => meaningOf(raw) === meaningOf(item.raw));
    return at < 0 ? item : (left.splice(at, 1)[0] ?? item);
  });
  return put(there, alarm, alarms);
}

/** What an alarm does, and when. */
function meaningOf(alarm: string): string {
  const items = itemsOf(alarm);
  const [action, trigger] = ['action', 'trigger'].map((name) => items.find(isCalled(name))?.raw ?? '');
  const related = parameterOf(trigger ?? '', 'related').toUpperCase() || 'START';
  return [propertyOf(action ?? '').value, propertyOf(trigger ?? '').value, related].join(' ').toUpperCase();
}
