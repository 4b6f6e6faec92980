import ICAL from 'ical.js';
import { instantSaid } from './times';
import type { Zones } from './zone';

/** One ATTENDEE (RFC 5545, 3.8.4.1). */
export interface Participant {
  name: string;
  address: string;
  partstat: 'NEEDS-ACTION' | 'ACCEPTED' | 'DECLINED' | 'TENTATIVE' | 'DELEGATED';
  /** To whom it was passed on (DELEGATED-TO, 3.2.5). */
  delegates?: string[];
}

/** What an event says besides its times and texts. */
export interface About {
  class: 'PUBLIC' | 'PRIVATE' | 'CONFIDENTIAL';
  category: string;
  url: string;
  /** Where one joins from afar (CONFERENCE, RFC 7986, 5.11): by video where that is said. */
  conference: string;
  organizer: { name: string; address: string } | null;
  attendees: Participant[];
  comment: string;
  /** DTSTAMP in milliseconds, 0 when it is missing. */
  stamp: number;
}

const ANSWERS = new Set(['ACCEPTED', 'DECLINED', 'TENTATIVE', 'DELEGATED']);
const MOST_ATTENDEES = 500;
const MOST_LINK = 500;
const MOST_DELEGATES = 3;

export function aboutOf(component: ICAL.Component, text: (name: string) => string, zones: Zones): About {
  const kind = text('class').toUpperCase();
  const organizer = component.getFirstProperty('organizer');
  return {
    class: kind === 'PRIVATE' || kind === 'CONFIDENTIAL' ? kind : 'PUBLIC',
    category: text('categories').slice(0, 200),
    conference: conferenceIn(component),
    url: /^https?:\/\//i.test(text('url')) ? text('url').slice(0, 2000) : '',
    organizer: organizer ? personOf(organizer) : null,
    attendees: component
      .getAllProperties('attendee')
      .slice(0, MOST_ATTENDEES)
      .map((property) => {
        const said = String(property.getFirstParameter('partstat') ?? '').toUpperCase();
        const partstat = (ANSWERS.has(said) ? said : 'NEEDS-ACTION') as Participant['partstat'];
        const delegates = partstat === 'DELEGATED' ? delegatesOf(property) : [];
        return { ...personOf(property), partstat, ...(delegates.length ? { delegates } : {}) };
      }),
    comment: text('comment').slice(0, 5000),
    stamp: stampOf(component, zones),
  };
}

/** The first that one can open, those with pictures before those with voice alone. */
function conferenceIn(component: ICAL.Component): string {
  const all = component.getAllProperties('conference').flatMap((property) => {
    const value = String(property.getFirstValue() ?? '').trim();
    const features = String(property.getFirstParameter('feature') ?? '').toUpperCase();
    return /^https?:\/\//i.test(value) && value.length <= MOST_LINK ? [{ value, seen: /VIDEO/.test(features) }] : [];
  });
  return (all.find(({ seen }) => seen) ?? all[0])?.value ?? '';
}

function stampOf(component: ICAL.Component, zones: Zones): number {
  try {
    const property = component.getFirstProperty('dtstamp');
    const stamp = property?.getFirstValue();
    return property && stamp instanceof ICAL.Time ? (instantSaid(property, stamp, zones) ?? 0) : 0;
  } catch {
    return 0;
  }
}

function delegatesOf(property: ICAL.Property): string[] {
  const said: unknown = property.getParameter('delegated-to');
  return (Array.isArray(said) ? said : [said])
    .map((one) => addressIn(String(one ?? '')))
    .filter((one) => one.includes('@'))
    .slice(0, MOST_DELEGATES);
}

function personOf(property: ICAL.Property): { name: string; address: string } {
  const name = property.getFirstParameter('cn');
  return {
    name: (typeof name === 'string' ? name : '').slice(0, 200),
    address: addressIn(String(property.getFirstValue() ?? '')),
  };
}

const addressIn = (text: string): string =>
  text
    .replace(/^mailto:/i, '')
    .toLowerCase()
    .slice(0, 320);
