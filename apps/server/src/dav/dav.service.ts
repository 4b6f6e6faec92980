import { Injectable } from '@nestjs/common';
import type { XmlElement } from '@corvun/formats';
import type { User } from '../accounts/user.entity';
import { answer, askedIn } from './answers';
import type { Asking } from './asking';
import { Collections, type Collection } from './collections';
import { DavError } from './dav-error';
import { HOME, PRINCIPAL, ROOT, collectionProperties, placeProperties } from './properties';
import { DavReports } from './reports.service';
import { DavSync } from './sync';
import { d, multistatus } from './xml';

/** What is there, and what of it is known (RFC 4918). */
@Injectable()
export class DavService {
  constructor(
    private readonly collections: Collections,
    private readonly sync: DavSync,
    private readonly reports: DavReports,
  ) {}

  /** @throws DavError */
  async propfind(asking: Asking, path: string, depth: string, body: XmlElement | null): Promise<readonly string[]> {
    if (depth !== '0' && depth !== '1') throw new DavError(403, d('propfind-finite-depth'), 'Ask with a depth of 0 or 1.');
    const asked = askedIn(body);
    const { user, write } = asking;
    const token = await this.sync.token(user);
    const place = (at: string) => answer(at, placeProperties(at, user, write), asked);
    const shown = (one: Collection) => answer(one.path, collectionProperties(one, token, user.zone, write), asked);
    if ([ROOT, PRINCIPAL, HOME].includes(path)) {
      const below = depth === '0' ? [] : path === HOME ? (await this.collections.all(user)).map(shown) : [];
      return multistatus([place(path), ...(depth === '1' && path === ROOT ? [place(PRINCIPAL), place(HOME)] : []), ...below]);
    }
    const { collection, name } = await this.collections.at(user, path);
    if (name !== null) return multistatus([await this.reports.one(asking, collection, name, asked)]);
    const inside = depth === '0' ? [] : await this.reports.answersOf(asking, collection, asked);
    return multistatus([shown(collection), ...inside]);
  }

  /** @throws DavError */
  async text(user: User, path: string): Promise<{ etag: string; text: string }> {
    const { collection, name } = await this.collections.at(user, path);
    if (name === null) throw new DavError(405, '', 'A collection has no text.');
    const one = await this.collections.present(user, collection, name);
    const [whole = ''] = await this.collections.texts(user, collection, [one]);
    return { etag: one.etag, text: whole };
  }
}
