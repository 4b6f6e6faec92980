import { childrenOf, type Shape, type Wanted, type XmlElement } from '@corvun/formats';
import { DavError } from './dav-error';
import { rangeOf } from './filter';
import { CALDAV, c, child } from './xml';

/** How texts are wanted (RFC 4791, 9.6); null: as they are. @throws DavError where a version or kind is asked for that is not here */
export function shapeIn(data: XmlElement | undefined): Shape | null {
  if (!data) return null;
  const { 'content-type': type = 'text/calendar', version = '2.0' } = data.attributes;
  if (type.toLowerCase() !== 'text/calendar' || version !== '2.0')
    throw new DavError(403, c('supported-calendar-data'), 'Objects are told as text/calendar, version 2.0.');
  const [expand, limit, comp] = ['expand', 'limit-recurrence-set', 'comp'].map((name) => child(data, CALDAV, name));
  if (!expand && !limit && !comp) return null;
  for (const range of [expand, limit])
    if (range && !(range.attributes['start'] && range.attributes['end']))
      throw new DavError(400, c('valid-calendar-data'), 'Say from when to when.');
  return {
    ...(expand ? { expand: rangeOf(expand) } : {}),
    ...(limit ? { limit: rangeOf(limit) } : {}),
    ...(comp ? { comp: wantedIn(comp) } : {}),
  };
}

function wantedIn(comp: XmlElement): Wanted {
  const inner = childrenOf(comp, CALDAV, 'comp').map((one) => ({ name: nameIn(one), ...wantedIn(one) }));
  const props = childrenOf(comp, CALDAV, 'prop').map((one) => ({
    name: nameIn(one),
    noValue: one.attributes['novalue'] === 'yes',
  }));
  return {
    // A component of which nothing is named is wanted whole (9.6.1).
    props: child(comp, CALDAV, 'allprop') || !comp.children.length ? 'all' : props,
    comps: child(comp, CALDAV, 'allcomp') || !comp.children.length ? 'all' : inner,
  };
}

const nameIn = ({ attributes }: XmlElement): string => (attributes['name'] ?? '').toLowerCase();
