import { childOf, type XmlElement, type XmlLimits } from '@corvun/formats';

export const DAV = 'DAV:';
export const CALDAV = 'urn:ietf:params:xml:ns:caldav';
export const SERVER = 'http://calendarserver.org/ns/';
export const APPLE = 'http://apple.com/ns/ical/';
/** What only one Corvun says to another. */
export const CORVUN = 'urn:corvun:dav';
const PREFIXES: Record<string, string> = { [DAV]: 'd', [CALDAV]: 'c', [SERVER]: 's', [APPLE]: 'a', [CORVUN]: 'v' };

/** A name of an element, with its namespace. */
export interface Name {
  ns: string;
  local: string;
}

/** What a program may send: a question, with a thousand addresses at most. */
export const QUESTION_LIMITS: XmlLimits = { maxDepth: 12, maxElements: 20_000, maxAttributes: 20, maxCharacters: 1024 * 1024 };

export const nameOf = ({ ns, local }: XmlElement): Name => ({ ns, local });
export const child = childOf;

export const escaped = (text: string): string =>
  // What XML cannot hold is left out.
  text
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '')
    .replace(/&/g, '&amp;')
    .replace(/</g, '&lt;')
    .replace(/>/g, '&gt;')
    .replace(/"/g, '&quot;');

/** An element; what it holds is written already. */
export function element({ ns, local }: Name, inner = '', attributes = ''): string {
  const prefix = PREFIXES[ns];
  const name = prefix ? `${prefix}:${local}` : `x:${local}`;
  const own = prefix ? '' : ` xmlns:x="${escaped(ns)}"`;
  return inner ? `<${name}${own}${attributes}>${inner}</${name}>` : `<${name}${own}${attributes}/>`;
}

export const d = (local: string, inner = ''): string => element({ ns: DAV, local }, inner);
export const c = (local: string, inner = '', attributes = ''): string => element({ ns: CALDAV, local }, inner, attributes);
export const href = (path: string): string => d('href', escaped(path));

const declared = Object.entries(PREFIXES)
  .map(([ns, prefix]) => ` xmlns:${prefix}="${ns}"`)
  .join('');

/** A whole document. */
export const documentOf = (local: string, inner: string): string => inParts(local, [inner]).join('');

/** A document in the order of its parts: there may be very many. */
const inParts = (local: string, inner: readonly string[]): readonly string[] => [
  `<?xml version="1.0" encoding="utf-8"?>\n<d:${local}${declared}>`,
  ...inner,
  `</d:${local}>\n`,
];

export const multistatus = (responses: readonly string[]): readonly string[] => inParts('multistatus', responses);

/** One response of a multistatus (RFC 4918, 9.2.1): what was found of a resource, and what it has not. */
export function responseOf(path: string, found: readonly string[], missing: readonly Name[]): string {
  const part = (inner: string, status: string) =>
    inner ? d('propstat', d('prop', inner) + d('status', `HTTP/1.1 ${status}`)) : '';
  const both = part(found.join(''), '200 OK') + part(missing.map((name) => element(name)).join(''), '404 Not Found');
  return d('response', href(path) + (both || d('propstat', d('prop') + d('status', 'HTTP/1.1 200 OK'))));
}

/** A resource that is not there. */
export const goneResponse = (path: string): string => d('response', href(path) + d('status', 'HTTP/1.1 404 Not Found'));
