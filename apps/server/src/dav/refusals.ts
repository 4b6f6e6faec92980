import { pathOf } from './paths';
import type { Collection, Resource } from './collections';
import { DavError } from './dav-error';
import { c, href } from './xml';

/** `If-Match` and `If-None-Match` of a request. */
export interface Conditions {
  match: string | undefined;
  noneMatch: string | undefined;
}

export function refuseUnmet(present: Resource | null, { match, noneMatch }: Conditions): void {
  const has = (tags: string) => present !== null && (tags.trim() === '*' || tags.split(/,\s*/).includes(present.etag));
  if (match !== undefined && !has(match)) throw new DavError(412, '', 'It was changed meanwhile.');
  if (noneMatch !== undefined && has(noneMatch)) throw new DavError(412, '', 'It is there already.');
}

export function refuseCopy(present: Resource | null): void {
  if (present?.events.some(({ mirror }) => mirror !== null))
    throw new DavError(403, '', 'This is a copy of what stands in another calendar, so it is changed there.');
}

export const conflict = (collection: Collection, name: string) =>
  new DavError(403, c('no-uid-conflict', href(pathOf(collection, { name }))), 'Another object has this UID.');
