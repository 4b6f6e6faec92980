import type { User } from '../accounts/user.entity';
import type { Collection } from './collections';
import { APPLE, CALDAV, CORVUN, DAV, SERVER, c, d, element, escaped, href, type Name } from './xml';

export const ROOT = '/dav/';
export const PRINCIPAL = '/dav/principal/';
export const HOME = '/dav/home/';
/** Bytes of one object. */
export const MOST_BYTES = 2 * 1024 * 1024;

/** The hues as a calendar program takes them, in the order of the theme. */
export const HUES = ['2f6b8f', '8a4b6b', '4e7a3a', '9a5a24', '6d641c', '3f5ea8', '16787a', 'a1434f', '5d5a70', '7d4fa0'];

/** Reports about who there is (RFC 3744, 9). */
export const PRINCIPAL_REPORTS = [
  ...['principal-match', 'principal-property-search', 'principal-search-property-set'],
  ...['acl-principal-prop-set', 'expand-property'],
];

export type Values = Record<string, string>;
const key = ({ ns, local }: Name) => `${ns} ${local}`;
const at = (ns: string, local: string, inner = '') => [key({ ns, local }), element({ ns, local }, inner)] as const;

/** What whoever asks may do (RFC 3744, 3); when one is busy is part of what one may read (RFC 4791, 6.1.1). */
const granted = (write: boolean) =>
  [
    ...[d('read'), d('read-acl'), d('read-current-user-privilege-set'), c('read-free-busy')],
    ...(write ? ['write', 'write-content', 'write-properties', 'bind', 'unbind'].map((one) => d(one)) : []),
  ].map((one) => d('privilege', one));
const privileges = (write: boolean) => granted(write).join('');

const supported = (name: string, says: string, inner = '') =>
  d('supported-privilege', d('privilege', name) + d('description', says) + inner);
/** What there is to be allowed (RFC 3744, 5.3). */
const SUPPORTED = supported(
  d('all'),
  'Everything',
  supported(
    d('read'),
    'See',
    supported(c('read-free-busy'), 'See when somebody is busy') +
      supported(d('read-acl'), 'See who may do what') +
      supported(d('read-current-user-privilege-set'), 'See what one may do oneself'),
  ) +
    supported(
      d('write'),
      'Change',
      supported(d('write-content'), 'Change what is there') +
        supported(d('write-properties'), 'Change names and colours') +
        supported(d('bind'), 'Add') +
        supported(d('unbind'), 'Take away'),
    ),
);
/** Everything belongs to one person; who else may see it is said in Corvun (5.5). */
const acl = (write: boolean) => d('ace', d('principal', href(PRINCIPAL)) + d('grant', granted(write).join('')) + d('protected'));
const reports = (names: readonly string[]) => names.map((one) => d('supported-report', d('report', one))).join('');

/** What everything here has. */
const shared = (write: boolean): (readonly [string, string])[] => [
  at(DAV, 'current-user-principal', href(PRINCIPAL)),
  at(DAV, 'owner', href(PRINCIPAL)),
  at(DAV, 'current-user-privilege-set', privileges(write)),
  at(DAV, 'principal-collection-set', href(PRINCIPAL)),
  at(DAV, 'supported-privilege-set', SUPPORTED),
  at(DAV, 'acl', acl(write)),
  at(DAV, 'acl-restrictions', d('grant-only') + d('no-invert')),
  at(DAV, 'inherited-acl-set', ''),
  at(DAV, 'group', ''),
];

/** The properties of the root, of the principal and of the home (RFC 5397, RFC 4791, 6.2). */
export function placeProperties(path: string, user: User, write: boolean): Values {
  const principal = path === PRINCIPAL;
  return Object.fromEntries([
    ...shared(write),
    at(DAV, 'resourcetype', principal ? d('principal') + d('collection') : d('collection')),
    at(DAV, 'displayname', escaped(path === HOME ? 'Calendars and lists' : user.name)),
    at(DAV, 'principal-URL', href(PRINCIPAL)),
    at(CALDAV, 'calendar-home-set', href(HOME)),
    at(CALDAV, 'calendar-user-address-set', href(`mailto:${user.email}`)),
    at(DAV, 'supported-report-set', reports(PRINCIPAL_REPORTS.map((one) => d(one)))),
    ...(principal ? ['group-membership', 'group-member-set', 'alternate-URI-set'].map((one) => at(DAV, one, '')) : []),
  ]);
}

/** The properties of a calendar or list. @param tag changes whenever something in it did */
export function collectionProperties(collection: Collection, tag: string, zone: string, write: boolean): Values {
  const { kind, name, hue, comesFrom } = collection;
  const component = kind === 'calendar' ? 'VEVENT' : 'VTODO';
  return Object.fromEntries([
    ...shared(write),
    at(DAV, 'resourcetype', d('collection') + c('calendar')),
    at(DAV, 'displayname', escaped(name)),
    at(CALDAV, 'supported-calendar-component-set', c('comp', '', ` name="${component}"`)),
    at(CALDAV, 'supported-calendar-data', c('calendar-data', '', ' content-type="text/calendar" version="2.0"')),
    at(CALDAV, 'max-resource-size', String(MOST_BYTES)),
    at(CALDAV, 'supported-collation-set', ['i;ascii-casemap', 'i;octet'].map((one) => c('supported-collation', one)).join('')),
    at(CALDAV, 'calendar-timezone-id', escaped(zone)),
    at(SERVER, 'getctag', escaped(tag)),
    at(DAV, 'sync-token', escaped(tag)),
    ...(comesFrom ? [at(CORVUN, 'comes-from', escaped(comesFrom))] : []),
    at(APPLE, 'calendar-color', `#${HUES[hue % HUES.length] ?? HUES[0]}`),
    at(
      DAV,
      'supported-report-set',
      reports([c('calendar-query'), c('calendar-multiget'), c('free-busy-query'), d('sync-collection')]),
    ),
  ]);
}

/** The properties of one object. @param text its iCalendar text, where that is asked for */
export function resourceProperties(etag: string, component: string, write: boolean, text: string | null): Values {
  return Object.fromEntries([
    ...shared(write),
    at(DAV, 'resourcetype', ''),
    at(DAV, 'getetag', escaped(etag)),
    at(DAV, 'getcontenttype', `text/calendar; charset=utf-8; component=${component}`),
    ...(text === null
      ? []
      : [at(CALDAV, 'calendar-data', escaped(text)), at(DAV, 'getcontentlength', String(Buffer.byteLength(text)))]),
  ]);
}

/** How they are called. */
export const namesOf = (values: Values): Name[] =>
  Object.keys(values).map((one) => {
    const [ns = '', local = ''] = one.split(' ');
    return { ns, local };
  });

/** Those that were asked for, found and missing; of `allprop` those that cost nothing. */
export function pick(values: Values, asked: readonly Name[] | null): { found: string[]; missing: Name[] } {
  if (!asked) return { found: Object.values(values), missing: [] };
  const found: string[] = [];
  const missing: Name[] = [];
  for (const name of asked) {
    const value = values[key(name)];
    if (value === undefined) missing.push(name);
    else found.push(value);
  }
  return { found, missing };
}
