import { Column } from 'typeorm';
import { hashSecret } from '../accounts/passwords';
import { newId } from '../base/ids';
import { Row } from '../base/row';
import type { Content } from '../kernel/kind';
import type { Secrets } from '../base/secrets.service';

/** A row that is reached at an address nobody can guess: whoever has the address is let in. */
export abstract class Linked extends Row {
  /** SHA-256 of the secret part of the address; empty: it has none. */
  @Column('text') linkHash: string;
  /** The secret part, encrypted with the key outside the database. */
  @Column('text') link: string;
}

/** Of addresses that are there no two are the same. */
export const LINK_INDEX = { unique: true, where: `"linkHash" <> ''` };

/** A new address. @param owner binds the encrypted text to its row */
export function newLink(secrets: Secrets, owner: string): Pick<Linked, 'link' | 'linkHash'> & { secret: string } {
  const secret = `${newId()}${newId()}`;
  return { link: secrets.lock(secret, owner), linkHash: hashSecret(secret), secret };
}

/** The path of an address; empty where it has none, or none that can be read here. */
export function pathOf(secrets: Secrets, { link, ownerId }: Linked, path: (secret: string) => string): string {
  if (!link) return '';
  try {
    return path(secrets.open(link, ownerId));
  } catch {
    return '';
  }
}

/** In an export there are no addresses: what is read in has to get a new one. */
export const withoutLink = (row: Content): Content => ({ ...row, link: '', linkHash: '' });
