import { XmlError, childOf, childrenOf, readXml, type XmlElement, type XmlLimits } from './readXml';

export const DAV = 'DAV:';
export const CALDAV = 'urn:ietf:params:xml:ns:caldav';

/** What a server says of one resource (RFC 4918, 14.24): the properties it gave, by their names. */
export interface DavResponse {
  href: string;
  /** Of the whole resource; null where only its properties have one. */
  status: number | null;
  /** Those with a status of success, by namespace and name. */
  props: XmlElement[];
}

/** A multistatus (RFC 4918, 14.16), and the token of a sync (RFC 6578, 6.4). */
export interface Multistatus {
  responses: DavResponse[];
  syncToken: string;
}

/** @throws XmlError where it is no whole multistatus */
export function readMultistatus(text: string, limits?: XmlLimits): Multistatus {
  const root = readXml(text, limits);
  if (root.ns !== DAV || root.local !== 'multistatus') throw new XmlError('It is no multistatus.');
  return {
    responses: childrenOf(root, DAV, 'response').flatMap(responsesOf),
    syncToken: childOf(root, DAV, 'sync-token')?.text.trim() ?? '',
  };
}

/** One for each address: a response with several says one status of all of them. */
function responsesOf(response: XmlElement): DavResponse[] {
  const status = statusOf(response);
  const props = childrenOf(response, DAV, 'propstat')
    .filter((one) => (statusOf(one) ?? 200) < 300)
    .flatMap((one) => childOf(one, DAV, 'prop')?.children ?? []);
  return childrenOf(response, DAV, 'href').map((href) => ({ href: href.text.trim(), status, props }));
}

function statusOf(element: XmlElement): number | null {
  const [, code] = /^\s*HTTP\/[\d.]{1,5} (\d{3})/.exec(childOf(element, DAV, 'status')?.text.slice(0, 100) ?? '') ?? [];
  return code ? Number(code) : null;
}

export const propOf = ({ props }: Pick<DavResponse, 'props'>, ns: string, local: string): XmlElement | undefined =>
  props.find((one) => one.ns === ns && one.local === local);

/** The condition that an error answer names (RFC 4918, 16), and at most so much of the text is looked at; empty where it names none. */
export function conditionOf(text: string): string {
  try {
    const root = readXml(text.slice(0, 20_000), { maxDepth: 8, maxElements: 50, maxAttributes: 10, maxCharacters: 20_000 });
    return root.local === 'error' ? (root.children[0]?.local ?? '') : '';
  } catch {
    return '';
  }
}
