import { Injectable } from '@nestjs/common';
import { Steps, agendaOf, busyOf, subtract, takenBy, type Busy, type Interval } from '@corvun/core';
import { childrenOf, writeFreeBusy, type XmlElement } from '@corvun/formats';
import type { User } from '../accounts/user.entity';
import { Breath } from '../base/breath';
import { Answers, answer, askedIn, wantsText, type Asked } from './answers';
import type { Asking } from './asking';
import { Collections, type Collection, type Listed, type Resource } from './collections';
import { DavError } from './dav-error';
import { Filter, rangeOf } from './filter';
import { encodedPath, nameIn, pathIn, pathOf } from './paths';
import { principalReport } from './principals';
import { resourceProperties } from './properties';
import { DavSync } from './sync';
import { CALDAV, DAV, child, d, goneResponse, multistatus } from './xml';

/** An answer in the order of its parts. */
interface Report {
  type: string;
  parts: readonly string[];
}

/** What calendar programs ask for (RFC 4791, RFC 6578). */
@Injectable()
export class DavReports {
  constructor(
    private readonly collections: Collections,
    private readonly sync: DavSync,
  ) {}

  /** @throws DavError */
  async report(asking: Asking, path: string, depth: string, body: XmlElement | null): Promise<Report> {
    if (!body) throw new DavError(400, '', 'Say which report is asked for.');
    const about = principalReport(asking.user, asking.write, path, body);
    if (about !== null) return { type: 'application/xml; charset=utf-8', parts: about };
    const { collection, name } = await this.collections.at(asking.user, path);
    const asked = askedIn(body);
    const { ns, local } = body;
    const xml = (parts: readonly string[]) => ({ type: 'application/xml; charset=utf-8', parts });
    if (ns === CALDAV && local === 'calendar-query') {
      const filter = new Filter(child(body, CALDAV, 'filter'), asking.user.zone);
      const only = name === null ? null : await this.collections.present(asking.user, collection, name);
      return xml(await this.query(asking, collection, { depth, only, filter }, asked));
    }
    if (ns === CALDAV && local === 'calendar-multiget') return xml(await this.multiget(asking, collection, body, asked));
    if (name !== null) throw new DavError(403, d('supported-report'), 'This report is asked for at a calendar or list.');
    if (ns === DAV && local === 'sync-collection') return xml(await this.changes(asking, collection, body, asked));
    if (ns === CALDAV && local === 'free-busy-query')
      return { type: 'text/calendar; charset=utf-8', parts: [await this.freeBusy(asking.user, collection, body)] };
    throw new DavError(403, d('supported-report'), 'This report is not known here.');
  }

  /** One thing, as it is asked for. */
  async one(asking: Asking, collection: Collection, name: string, asked: Asked): Promise<string> {
    const one = await this.collections.present(asking.user, collection, name);
    const texts = wantsText(asked) ? await this.texts(asking.user, collection, [one], asked) : [];
    return this.said(asking, collection, one, asked, texts[0] ?? null);
  }

  /** Texts in the shape that they are asked for. */
  private async texts(user: User, collection: Collection, some: readonly Resource[], asked: Asked): Promise<string[]> {
    const texts = await this.collections.texts(user, collection, some);
    return asked !== null && asked !== 'names' && asked.shape ? this.collections.shaped(texts, asked.shape, user.zone) : texts;
  }

  private async query(
    asking: Asking,
    collection: Collection,
    { depth, only, filter }: { depth: string; only: Resource | null; filter: Filter },
    asked: Asked,
  ): Promise<readonly string[]> {
    const { user } = asking;
    const answers = new Answers();
    const pages = only ? [[only]] : depth === '0' ? [] : this.collections.resources(user, collection);
    for await (const some of pages) {
      const near = some.filter((one) => filter.mayFit(one));
      const texts = filter.readsText ? await this.collections.texts(user, collection, near) : [];
      const found = near.filter((one, at) => filter.fits(one, texts[at] ?? ''));
      const shown = wantsText(asked) ? await this.texts(user, collection, found, asked) : [];
      for (const [at, one] of found.entries()) answers.add(this.said(asking, collection, one, asked, shown[at] ?? null));
    }
    return multistatus(answers.all);
  }

  /** Each address is answered once, however often it is asked for. */
  private async multiget(asking: Asking, collection: Collection, body: XmlElement, asked: Asked): Promise<readonly string[]> {
    const paths = new Set(childrenOf(body, DAV, 'href').map(({ text }) => encodedPath(pathIn(text))));
    const names = new Map(
      [...paths].flatMap((path) => nameIn(collection, path)).map((name) => [pathOf(collection, { name }), name]),
    );
    const listed = await this.collections.listedAs(asking.user, collection, [...names.values()]);
    const answers = new Answers();
    const found = new Set<string>();
    const keys = listed.map(({ key }) => key);
    for (const answer of await this.answersOf(asking, collection, asked, keys, (one) => found.add(pathOf(collection, one))))
      answers.add(answer);
    for (const path of paths) if (!found.has(path)) answers.add(goneResponse(path));
    return multistatus(answers.all);
  }

  private async changes(asking: Asking, collection: Collection, body: XmlElement, asked: Asked): Promise<readonly string[]> {
    const { user } = asking;
    const since = child(body, DAV, 'sync-token')?.text.trim() ?? '';
    // The state is read before what is in it: what changes in between is told once more.
    const token = await this.sync.token(user);
    const { things, gone } = since ? await this.sync.since(user, collection, since) : { things: undefined, gone: [] as string[] };
    const there = new Set<string>();
    const answers = await this.answersOf(asking, collection, asked, things, ({ name }) => there.add(name));
    const left = gone.filter((name) => !there.has(name));
    const still = new Set((await this.collections.listedAs(user, collection, left)).map(({ name }) => name));
    const missing = left
      .filter((name) => !still.has(name))
      .map((name) => goneResponse(collection.path + encodeURIComponent(name)));
    return multistatus([...answers, ...missing, d('sync-token', token)]);
  }

  /** Busy time of a calendar, without what it is (RFC 4791, 7.10): of two years at most, which the answer says. */
  private async freeBusy(user: User, collection: Collection, body: XmlElement): Promise<string> {
    const asked = child(body, CALDAV, 'time-range');
    if (!asked || collection.kind !== 'calendar') throw new DavError(400, '', 'Ask for a time range of a calendar.');
    const { start, end } = rangeOf(asked);
    const range = { start, end: Math.min(end, start + LONGEST_BUSY) };
    const calendar = { id: collection.calendar.id, shown: true, busy: true };
    const busy: Busy[] = [];
    const among = await this.collections.inStretch(user, collection.calendar, range);
    const [breath, steps] = [new Breath(), new Steps(BUSY_STEPS)];
    for (const part of partsOf(range, AT_ONCE))
      for (const events of among) {
        busy.push(...busyOf(agendaOf([events], [], [calendar], part, user.zone, steps).events));
        if (steps.left < 0)
          throw new DavError(507, '', 'There are more dates in this time than are looked at. Ask for less of it.');
        await breath.take();
      }
    const firm = takenBy(busy, ({ tentative }) => !tentative);
    const open = takenBy(busy, ({ tentative }) => tentative);
    return writeFreeBusy(firm, range, subtract(open, firm));
  }

  /** Answers of what is in a collection; whole things are only loaded where more than their version is asked for. */
  async answersOf(
    asking: Asking,
    collection: Collection,
    asked: Asked,
    only?: readonly string[],
    each: (one: Listed) => void = () => undefined,
  ): Promise<string[]> {
    const { user } = asking;
    const answers = new Answers();
    const add = (one: Listed, text: string | null) => {
      each(one);
      answers.add(this.said(asking, collection, one, asked, text));
    };
    if (wantsText(asked))
      for await (const some of this.collections.resources(user, collection, only)) {
        const texts = await this.texts(user, collection, some, asked);
        for (const [at, one] of some.entries()) add(one, texts[at] ?? null);
      }
    else for await (const some of this.collections.listed(user, collection, only)) for (const one of some) add(one, null);
    return answers.all;
  }

  /** @param text where it is asked for */
  private said({ write }: Asking, collection: Collection, one: Listed, asked: Asked, text: string | null): string {
    const component = collection.kind === 'calendar' ? 'vevent' : 'vtodo';
    return answer(pathOf(collection, one), resourceProperties(one.etag, component, write, text), asked);
  }
}

const LONGEST_BUSY = 2 * 366 * 86_400_000;
/** Steps for one answer about busy time, and how much of it is looked at without stopping for breath. */
const BUSY_STEPS = 100_000;
const AT_ONCE = 60 * 86_400_000;

function* partsOf({ start, end }: Interval, size: number): Generator<Interval> {
  for (let at = start; at < end; at += size) yield { start: at, end: Math.min(end, at + size) };
}
