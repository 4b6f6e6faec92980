import { Steps, instantOf, touches, type Zone } from '@corvun/core';
import type { XmlElement } from '@corvun/formats';
import type { Resource } from './collections';
import { DavError } from './dav-error';
import { CALDAV, c, child } from './xml';

const FOREVER = 200 * 366 * 86_400_000;
/** Steps for the dates of all series that one question looks at. */
const MOST_STEPS = 2_000_000;

/** A UTC date and time as CalDAV writes it. @throws DavError where it is none */
function utc(text: string | undefined, otherwise: number): number {
  if (!text) return otherwise;
  const match = /^(\d{4})(\d{2})(\d{2})T(\d{2})(\d{2})(\d{2})Z$/.exec(text);
  const at = match ? Date.parse(`${match.slice(1, 4).join('-')}T${match.slice(4).join(':')}Z`) : NaN;
  if (Number.isNaN(at)) throw new DavError(400, c('valid-filter'), 'A time range is written in UTC.');
  return at;
}

/** The stretch that a time range means (RFC 4791, 9.9). */
export const rangeOf = ({ attributes }: XmlElement): { start: number; end: number } => ({
  start: utc(attributes['start'], 0),
  end: utc(attributes['end'], FOREVER),
});

/** Whether something fits; without its text: whether it may. */
type Test = (resource: Resource, text: string | null) => boolean;

/** A filter (RFC 4791, 9.7), read once: its component, a time range, and properties that are there, are not, or say something. */
export class Filter {
  private readonly steps = new Steps(MOST_STEPS);
  private readonly tests: Test[];
  /** Whether it asks for what only a text says. */
  readsText = false;

  /** @throws DavError where it asks for more than is understood: to answer with everything would be wrong */
  constructor(
    filter: XmlElement | undefined,
    private readonly zone: Zone,
  ) {
    const calendar = child(filter, CALDAV, 'comp-filter');
    if (filter && calendar?.attributes['name']?.toUpperCase() !== 'VCALENDAR') throw unknown('A filter begins with VCALENDAR.');
    this.tests = (calendar?.children ?? []).map((part) => {
      if (part.local !== 'comp-filter') throw unknown('Of VCALENDAR only its components are looked at.');
      return this.component(part);
    });
  }

  /** Whether something can fit, as far as that is known without its text. @throws DavError 507 as `fits` */
  mayFit(resource: Resource): boolean {
    return this.looks(resource, null);
  }

  /** @throws DavError 507 where looking at everything would take too long */
  fits(resource: Resource, text: string): boolean {
    return !this.readsText || this.looks(resource, text);
  }

  private looks(resource: Resource, text: string | null): boolean {
    const fits = this.tests.every((test) => test(resource, text));
    if (this.steps.left < 0)
      throw new DavError(507, c('number-of-matches-within-limits'), 'There are more dates in this stretch than are looked at.');
    return fits;
  }

  private component(part: XmlElement): Test {
    const name = part.attributes['name']?.toUpperCase() ?? '';
    const isOwn = ({ task }: Resource) => name === (task ? 'VTODO' : 'VEVENT');
    if (child(part, CALDAV, 'is-not-defined')) return (resource) => !isOwn(resource);
    const tests = part.children.map((one): Test => {
      if (one.ns === CALDAV && one.local === 'time-range') {
        const range = rangeOf(one);
        return (resource) => this.touches(resource, range);
      }
      if (one.ns === CALDAV && one.local === 'prop-filter') {
        this.readsText = true;
        const test = propertyTest(one, name);
        return (_resource, text) => text === null || test(text);
      }
      throw unknown(`“${one.local}” is not looked at inside ${name}.`);
    });
    return (resource, text) => isOwn(resource) && tests.every((test) => test(resource, text));
  }

  /** Whether something of it lies in a stretch; a task by its day and its deadline, one that has neither always (9.9). */
  private touches({ events, task }: Resource, { start, end }: { start: number; end: number }): boolean {
    const { zone, steps } = this;
    if (!task) return touches(events, start, end, zone, steps);
    const at = (text: string) => instantOf(text.length === 10 ? `${text}T00:00` : text, zone);
    const times = [task.plannedDay, task.deadline].flatMap((one) => (one ? [at(one)] : []));
    return times.length === 0 || (Math.min(...times) < end && Math.max(...times) >= start);
  }
}

const unknown = (message: string) => new DavError(403, c('supported-filter'), message);

const COLLATIONS = new Set(['i;ascii-casemap', 'i;octet']);

function propertyTest(part: XmlElement, component: string): (text: string) => boolean {
  const property = part.attributes['name']?.toUpperCase() ?? '';
  const valuesIn = (text: string) => valuesOf(text, component, property);
  const [first, ...others] = part.children;
  if (!first) return (text) => valuesIn(text).length > 0;
  if (others.length || first.ns !== CALDAV) throw unknown(`Of ${property} one thing at a time is looked at.`);
  if (first.local === 'is-not-defined') return (text) => valuesIn(text).length === 0;
  if (first.local !== 'text-match') throw unknown(`“${first.local}” is not looked at inside ${property}.`);
  const { collation = 'i;ascii-casemap', 'negate-condition': negated } = first.attributes;
  if (!COLLATIONS.has(collation)) throw new DavError(403, c('supported-collation'), 'This collation is not known here.');
  const fold = (one: string) => (collation === 'i;octet' ? one : one.replace(/[A-Z]/g, (letter) => letter.toLowerCase()));
  const wanted = fold(first.text);
  return (text) => valuesIn(text).some((one) => fold(one).includes(wanted)) !== (negated === 'yes');
}

/** Values of a property of the component, unfolded. */
function valuesOf(text: string, component: string, property: string): string[] {
  const lines = text.replace(/\r?\n[ \t]/g, '').split(/\r?\n/);
  const values: string[] = [];
  const open: string[] = [];
  for (const line of lines) {
    const [, word, name = ''] = /^(BEGIN|END):(.+)$/.exec(line) ?? [];
    if (word === 'BEGIN') open.push(name);
    else if (word === 'END') open.pop();
    else if (open.at(-1) === component) {
      const match = /^([A-Za-z-]+)(?:;(?:[^":]|"[^"]*")*)?:(.*)$/.exec(line);
      if (match?.[1]?.toUpperCase() === property) values.push(match[2] ?? '');
    }
  }
  return values;
}
