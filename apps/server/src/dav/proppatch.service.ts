import { Injectable } from '@nestjs/common';
import { childrenOf, type XmlElement } from '@corvun/formats';
import { Not } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Refusal } from '../base/errors';
import { Calendar } from '../calendars/calendar.entity';
import { Kernel, byUser } from '../kernel/kernel.service';
import { List } from '../lists/list.entity';
import { freeName } from '../lists/marks';
import { Collections, type Collection } from './collections';
import { DavError } from './dav-error';
import { HOME, HUES, PRINCIPAL, ROOT } from './properties';
import { APPLE, DAV, d, element, escaped, href, multistatus, nameOf, type Name } from './xml';

const MOST_NAME = 80;

interface Change {
  property: Name;
  /** Null: it is taken away. */
  value: string | null;
}
interface Patch {
  name?: string;
  hue?: number;
}

/** Changes what a calendar or list is called and which colour it has; nothing else is a program's to change (RFC 4918, 9.2). */
@Injectable()
export class DavProppatch {
  constructor(
    private readonly collections: Collections,
    private readonly kernel: Kernel,
  ) {}

  /** @returns what became of each property: all of them are changed, or none @throws DavError */
  async change(user: User, path: string, body: XmlElement | null): Promise<readonly string[]> {
    const changes = changesIn(body);
    if (!changes.length) throw new DavError(400, '', 'Say which properties are to be changed.');
    const collection = [ROOT, PRINCIPAL, HOME].includes(path) ? null : await this.collectionAt(user, path);
    const patches = changes.map((one) => ({ ...one, patch: collection && patchOf(one) }));
    const refused = patches.filter(({ patch }) => !patch);
    let problem = '';
    if (collection && !refused.length)
      problem = await this.write(user, collection, Object.assign({}, ...patches.map(({ patch }) => patch)) as Patch);
    const status = (ok: boolean) => (refused.length || problem ? (ok && refused.length ? FAILED : REFUSED) : '200 OK');
    const groups = new Map<string, Name[]>();
    for (const { property, patch } of patches) {
      const at = status(patch !== null);
      groups.set(at, [...(groups.get(at) ?? []), property]);
    }
    const stats = [...groups].map(([at, names]) =>
      d(
        'propstat',
        d('prop', names.map((name) => element(name)).join('')) +
          d('status', `HTTP/1.1 ${at}`) +
          (at === REFUSED && !problem ? d('error', d('cannot-modify-protected-property')) : '') +
          (at === REFUSED && problem ? d('responsedescription', escaped(problem)) : ''),
      ),
    );
    return multistatus([d('response', href(path) + stats.join(''))]);
  }

  private async collectionAt(user: User, path: string): Promise<Collection | null> {
    const { collection, name } = await this.collections.at(user, path);
    if (name !== null) await this.collections.present(user, collection, name);
    return name === null ? collection : null;
  }

  /** @returns why it cannot be so; empty where it is */
  private async write(user: User, collection: Collection, patch: Patch): Promise<string> {
    try {
      await this.kernel.transact(byUser(user), async (work) => {
        const { manager } = work;
        const kind = collection.kind;
        const row = kind === 'calendar' ? collection.calendar : collection.list;
        const others =
          kind === 'calendar'
            ? await manager.findBy(Calendar, { ownerId: user.id, id: Not(row.id) })
            : await manager.findBy(List, { ownerId: user.id, id: Not(row.id) });
        if (patch.name !== undefined && patch.name.trim() !== row.name) patch.name = freeName(kind, others, patch.name);
        if (kind === 'calendar') await work.update('calendar', collection.calendar, patch);
        else await work.update('list', collection.list, patch);
        work.say({
          action: 'change',
          sentence: `The ${kind} “${patch.name ?? row.name}” was ${patch.name === undefined ? 'changed' : 'renamed'} in a calendar program`,
        });
      });
      return '';
    } catch (problem) {
      if (problem instanceof Refusal) return problem.message;
      throw problem;
    }
  }
}

const REFUSED = '403 Forbidden';
const FAILED = '424 Failed Dependency';

function changesIn(body: XmlElement | null): Change[] {
  if (body?.ns !== DAV || body.local !== 'propertyupdate') return [];
  return body.children.flatMap((part) => {
    if (part.ns !== DAV || !['set', 'remove'].includes(part.local)) return [];
    return childrenOf(part, DAV, 'prop').flatMap(({ children }) =>
      children.map((one) => ({ property: nameOf(one), value: part.local === 'set' ? one.text : null })),
    );
  });
}

/** What a change means here; null: it is none that a program can make. */
function patchOf({ property: { ns, local }, value }: Change): Patch | null {
  if (value === null) return null;
  if (ns === DAV && local === 'displayname') {
    const name = value.trim();
    return name && name.length <= MOST_NAME ? { name } : null;
  }
  if (ns !== APPLE || local !== 'calendar-color') return null;
  const colour = /^#?([0-9a-f]{6})(?:[0-9a-f]{2})?$/i.exec(value.trim())?.[1];
  return colour ? { hue: nearest(colour) } : null;
}

/** The hue that is most like a colour. */
function nearest(colour: string): number {
  const parts = (hex: string) => [0, 2, 4].map((at) => parseInt(hex.slice(at, at + 2), 16));
  const wanted = parts(colour);
  const far = HUES.map((hue) => parts(hue).reduce((sum, one, at) => sum + (one - (wanted[at] ?? 0)) ** 2, 0));
  return far.indexOf(Math.min(...far));
}
