import { propOf, type DavResponse, type XmlElement } from '@corvun/formats';

export const DAV = 'DAV:';
export const CALDAV = 'urn:ietf:params:xml:ns:caldav';
export const CORVUN = 'urn:corvun:dav';
export const SERVER = 'http://calendarserver.org/ns/';

/** The text of a property; empty where there is none. */
export const textIn = (response: DavResponse | undefined, ns: string, local: string): string =>
  (response && propOf(response, ns, local)?.text.trim()) ?? '';

/** The address inside a property. */
export const hrefIn = (response: DavResponse | undefined, ns: string, local: string): string =>
  hrefsIn(response, ns, local)[0] ?? '';

export const hrefsIn = (response: DavResponse | undefined, ns: string, local: string): string[] =>
  ((response && propOf(response, ns, local)?.children) ?? [])
    .filter((one: XmlElement) => one.ns === DAV && one.local === 'href')
    .map(({ text }) => text.trim());

export const utc = (at: number): string => `${new Date(at).toISOString().slice(0, 19).replace(/[-:]/g, '')}Z`;

export function decoded(text: string): string {
  try {
    return decodeURIComponent(text);
  } catch {
    return text;
  }
}

/** Text as it stands in XML. */
export const inXml = (text: string): string =>
  text.replace(/&/g, '&amp;').replace(/</g, '&lt;').replace(/>/g, '&gt;').replace(/"/g, '&quot;');

/** Whether an address is at the place that the user named, or under the same name by a way on which nobody listens. */
export function isSamePlace(said: string, found: string): boolean {
  const [own, other] = [new URL(said), new URL(found)];
  return other.origin === own.origin || (other.protocol === 'https:' && !other.port && other.hostname === own.hostname);
}

/** The address of a path at a place: what looks like another host in it is none. */
export function addressOf(place: string, path: string): string {
  const { origin } = new URL(place);
  return `${origin}${path.startsWith('/') ? '' : '/'}${path}`;
}
