import { childrenOf, type XmlElement } from '@corvun/formats';
import type { User } from '../accounts/user.entity';
import { answer, askedIn } from './answers';
import { PRINCIPAL, placeProperties } from './properties';
import { DAV, child, d, documentOf, element, escaped, multistatus } from './xml';

/** Answers what is asked about who there is (RFC 3744, 9): whoever asks, and nobody else. @returns null: it is something else */
export function principalReport(user: User, write: boolean, path: string, body: XmlElement): readonly string[] | null {
  if (body.ns !== DAV) return null;
  const self = () => answer(PRINCIPAL, placeProperties(PRINCIPAL, user, write), askedIn(body));
  switch (body.local) {
    case 'principal-search-property-set':
      return [
        documentOf(
          'principal-search-property-set',
          d('principal-search-property', d('prop', d('displayname')) + d('description', 'Name')),
        ),
      ];
    case 'principal-property-search':
      return multistatus(isMeant(user, body) ? [self()] : []);
    case 'principal-match':
      return multistatus(child(body, DAV, 'self') ? [self()] : []);
    case 'acl-principal-prop-set':
      return multistatus([self()]);
    case 'expand-property':
      return multistatus([expanded(user, write, path, body)]);
    default:
      return null;
  }
}

/** Whether a search by name finds who asks; by anything else nobody is found. */
function isMeant(user: User, body: XmlElement): boolean {
  const searches = childrenOf(body, DAV, 'property-search');
  return (
    searches.length > 0 &&
    searches.every((one) => {
      const names = child(one, DAV, 'prop')?.children ?? [];
      const match = child(one, DAV, 'match')?.text.trim().toLowerCase() ?? '';
      return names.length > 0 && names.every(({ ns, local }) => ns === DAV && local === 'displayname') && isIn(user, match);
    })
  );
}

const isIn = ({ name }: User, match: string): boolean => match !== '' && name.toLowerCase().includes(match);

/** Properties, and of those that lead to a place what is asked of that, one step far (RFC 3253, 3.8). */
function expanded(user: User, write: boolean, path: string, body: XmlElement): string {
  const values = placeProperties(path, user, write);
  const found: string[] = [];
  const missing: string[] = [];
  for (const one of childrenOf(body, DAV, 'property')) {
    const name = { ns: one.attributes['namespace'] ?? DAV, local: one.attributes['name'] ?? '' };
    const value = values[`${name.ns} ${name.local}`];
    const inner = childrenOf(one, DAV, 'property');
    const leads = /<d:href>([^<]*)<\/d:href>/.exec(value ?? '')?.[1];
    if (value === undefined) missing.push(element(name));
    else if (!inner.length || !leads?.startsWith('/dav/')) found.push(value);
    else {
      const names = inner.map(({ attributes }) => ({ ns: attributes['namespace'] ?? DAV, local: attributes['name'] ?? '' }));
      found.push(element(name, answer(leads, placeProperties(leads, user, write), { names, shape: null })));
    }
  }
  const part = (inner: readonly string[], status: string) =>
    inner.length ? d('propstat', d('prop', inner.join('')) + d('status', `HTTP/1.1 ${status}`)) : '';
  return d('response', d('href', escaped(path)) + part(found, '200 OK') + part(missing, '404 Not Found'));
}
