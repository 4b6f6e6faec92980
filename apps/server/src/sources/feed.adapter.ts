import { Injectable } from '@nestjs/common';
import { count } from '@corvun/core';
import { CalendarError, type CalendarEvent } from '@corvun/formats';
import type { SourceLook } from '@corvun/contract';
import { createWriteStream, promises as fs } from 'node:fs';
import { pipeline } from 'node:stream/promises';
import { In } from 'typeorm';
import { Uploads } from '../base/uploads';
import { Event } from '../events/event.entity';
import { eventKey, takeEvents } from '../events/take-events';
import type { Work } from '../kernel/work';
import { ReadingLimit, ReadingPool } from '../reading/reading-pool.service';
import type { Adapter, Reach, Step } from './adapter';
import { OutsideHttp, type HttpAnswer } from './outside-http';
import { SourceProblem } from './problem';

const BATCH = 100;
const SAMPLE = 5;
/** Events that are taken away in one transaction. */
const MOST_GONE = 300;

/** A calendar feed: an iCalendar file at an address, read again by interval (RFC 5545; RFC 9110 for the conditions). */
@Injectable()
export class FeedAdapter implements Adapter {
  readonly kind = 'feed';
  readonly every = 900;
  readonly defaults = { busy: false };

  constructor(
    private readonly http: OutsideHttp,
    private readonly reading: ReadingPool,
    private readonly uploads: Uploads,
  ) {}

  async look({ source, user, signal }: Reach): Promise<SourceLook> {
    const answer = await this.http.ask(source.address, { signal });
    this.http.refuse(answer, hostOf(source.address));
    const titles: string[] = [];
    let total = 0;
    await this.each(answer, source.address, user.zone, (event) => {
      total += 1;
      if (titles.length < SAMPLE) titles.push(event.title);
      return Promise.resolve();
    });
    return {
      choices: [],
      total,
      matching: total,
      sentence: `${count(total, 'event')} in this calendar`,
      sample: titles,
      settings: source.settings,
    };
  }

  async *steps({ source, user, signal }: Reach): AsyncGenerator<Step> {
    const { etag, modified } = source.cursor as { etag?: string; modified?: string };
    const answer = await this.http.ask(source.address, {
      signal,
      headers: {
        Accept: 'text/calendar, */*;q=0.1',
        ...(etag ? { 'If-None-Match': etag } : {}),
        ...(modified ? { 'If-Modified-Since': modified } : {}),
      },
    });
    if (answer.status === 304) {
      answer.body.destroy();
      return;
    }
    this.http.refuse(answer, hostOf(source.address));
    const calendarId = source.calendarId;
    if (!calendarId)
      throw new SourceProblem('The calendar of this feed is gone. Remove the source and connect it again.', 'refused');
    const seen = new Set<string>();
    let done = 0;
    for await (const events of this.batches(answer, source.address, user.zone)) {
      done += events.length;
      yield {
        write: async (work) => {
          const { keys } = await takeEvents(work, calendarId, events, user);
          for (const key of keys) seen.add(key);
        },
        // Only a feed that was read to its end may be skipped next time.
        cursor: source.cursor,
        done,
        total: null,
      };
    }
    let gone: string[] = [];
    const find = async (work: Work) => {
      gone = await goneOf(work, calendarId, seen);
    };
    yield { write: find, cursor: source.cursor, done, total: done };
    // Many that went are taken away in parts: whatever else is to be written comes in between.
    for (let at = 0; at < gone.length; at += MOST_GONE) {
      const some = gone.slice(at, at + MOST_GONE);
      const write = async (work: Work) =>
        work.removeAll('event', await work.manager.findBy(Event, { ownerId: work.ownerId, id: In(some) }));
      yield { write, cursor: source.cursor, done, total: done };
    }
    const cursor = {
      ...(answer.headers.etag ? { etag: answer.headers.etag } : {}),
      ...(answer.headers['last-modified'] ? { modified: answer.headers['last-modified'] } : {}),
    };
    yield { write: () => Promise.resolve(), cursor, done, total: done };
  }

  send(): Promise<void> {
    return Promise.reject(new SourceProblem('A calendar feed takes nothing back.', 'refused'));
  }

  /** The feed, kept beside the uploads while it is read: reading it happens in a thread of its own. */
  private async *batches(answer: HttpAnswer, address: string, zone: string): AsyncGenerator<CalendarEvent[]> {
    const path = this.uploads.fresh('feed');
    try {
      await pipeline(this.http.bytesOf(answer, hostOf(address)), createWriteStream(path));
      for await (const { items } of this.reading.stream('calendar', path, zone, BATCH)) {
        if (items.some((item) => item.type === 'refused' && /ends in the middle/.test(item.reason)))
          throw new SourceProblem(`${hostOf(address)} broke off in the middle of the calendar; what was there stays.`);
        const events = items.flatMap((item) => (item.type === 'event' ? [item.event] : []));
        if (events.length) yield events;
      }
    } catch (problem) {
      if (problem instanceof CalendarError || problem instanceof ReadingLimit)
        throw new SourceProblem(`${hostOf(address)} does not give a calendar at this address. ${problem.message}`, 'wait');
      throw problem;
    } finally {
      await fs.rm(path, { force: true });
    }
  }

  private async each(
    answer: HttpAnswer,
    address: string,
    zone: string,
    take: (event: CalendarEvent) => Promise<void>,
  ): Promise<void> {
    for await (const batch of this.batches(answer, address, zone)) for (const event of batch) await take(event);
  }
}

/** Ids of events that the feed does not have any more. */
async function goneOf(work: Work, calendarId: string, seen: ReadonlySet<string>): Promise<string[]> {
  const rows = await work.manager.query<{ id: string; uid: string; recurrenceId: string }[]>(
    'SELECT "id", "uid", "recurrenceId" FROM "event" WHERE "ownerId" = ? AND "calendarId" = ?',
    [work.ownerId, calendarId],
  );
  return rows.filter((row) => !seen.has(eventKey(row))).map(({ id }) => id);
}

const hostOf = (address: string) => {
  try {
    return new URL(address).host;
  } catch {
    return address;
  }
};
