import {
  CalendarError,
  MailError,
  NoteError,
  XmlError,
  changeObject,
  expandEvents,
  noteText,
  readCalendar,
  readFreeBusy,
  readHeaders,
  readItip,
  readMail,
  readMultistatus,
  readObject,
  readVcards,
  readXml,
  shapeObject,
  streamCalendar,
  tasksInNote,
  unreadMail,
  type CalendarEvent,
  type CalendarItem,
  type CalendarTodo,
  type ExpandedEvent,
  type Itip,
  type Mail,
  type Multistatus,
  type NoteTask,
  type ObjectChange,
  type OwnText,
  type Shape,
  type VcardItem,
  type XmlElement,
  type XmlLimits,
} from '@corvun/formats';
import type { Interval } from '@corvun/core';
import { createReadStream } from 'node:fs';
import type { MessagePort } from 'node:worker_threads';
import type { Reader } from '../events/event-state';
import { readIncoming, type ReadFields } from '../incoming/reading';
import { changedTexts, type Differing } from '../own-text/changed-texts';

/** For whom something is read, and when it came. */
export interface ReadFor {
  zone: string;
  name: string;
  now: number;
  arrivedNow: boolean;
}

/** A message, read: what its headers and body say, the facts in it, and what its calendar part asks. */
export interface ReadMessage {
  mail: Mail;
  /** By the Date header; null where that lies far in the future: it would keep the message on top for ever. */
  written: number | null;
  received: number;
  read: ReadFields;
  itip: Itip | null;
}

/** What a job gives back: errors lose their class on the way out of a thread. */
export type Outcome<T> = { done: T } | { refused: { code: string; message: string } };

const FUTURE = 86_400_000;

/** Where an attached image will be found, until its own address is known: by its hash. */
export const imageByHash = (hash: string): string => `/api/attachments/${hash}`;

const KNOWN = [MailError, NoteError, CalendarError, XmlError];

async function outcomeOf<T>(work: () => Promise<T>): Promise<Outcome<T>> {
  try {
    return { done: await work() };
  } catch (problem) {
    if (KNOWN.some((one) => problem instanceof one) && problem instanceof Error && 'code' in problem)
      return { refused: { code: String(problem.code), message: problem.message } };
    throw problem;
  }
}

/** Reads a message whole. */
export function mail({ bytes, reader }: { bytes: Uint8Array; reader: ReadFor }): Promise<Outcome<ReadMessage>> {
  return outcomeOf(async () => withFacts(await readMail(Buffer.from(bytes), imageByHash), reader));
}

/** Reads the headers of a message whose body could not be read. @param problem the sentence that says so */
export function headers({
  bytes,
  reader,
  problem,
}: {
  bytes: Uint8Array;
  reader: ReadFor;
  problem: string;
}): Promise<Outcome<ReadMessage>> {
  return outcomeOf(async () => withFacts(await readHeaders(Buffer.from(bytes), problem), reader));
}

/** What is kept of a message of which not even the headers can be read. */
export const unread = (bytes: Buffer, reader: ReadFor, problem: string): ReadMessage =>
  withFacts(unreadMail(bytes, problem), reader);

function withFacts(message: Mail, { zone, name, now, arrivedNow }: ReadFor): ReadMessage {
  const written = message.date !== null && message.date < now + FUTURE ? message.date : null;
  const received = arrivedNow ? now : (written ?? now);
  const read = readIncoming(message.text, message.subject, message.from, written ?? received, zone, {
    bulk: message.bulk,
    invitation: message.invitation,
    names: [name.split(' ')[0] ?? name],
    offset: message.dateOffset,
  });
  const { calendar } = message;
  return { mail: message, written, received, read, itip: calendar ? readItip(calendar.text, zone, calendar.method) : null };
}

/** What `readIncoming` takes, in one. */
export type TextToRead = Parameters<typeof readIncoming>;

/** Facts in texts that came without a mail around them: chat, and what an older reader read. */
export function facts({ texts }: { texts: TextToRead[] }): Promise<Outcome<ReadFields[]>> {
  return outcomeOf(() => Promise.resolve(texts.map((text) => readIncoming(...text))));
}

/** Task lines of a note. */
export function note({ bytes }: { bytes: Uint8Array }): Promise<Outcome<{ text: string; tasks: NoteTask[] }>> {
  return outcomeOf(() => {
    const text = noteText(Buffer.from(bytes));
    return Promise.resolve({ text, tasks: tasksInNote(text) });
  });
}

/** What objects of a calendar account hold; one that is none says so. */
export function objects({ texts, zone }: { texts: string[]; zone: string }): Promise<Outcome<ReadObject[]>> {
  return outcomeOf(() =>
    Promise.resolve(
      texts.map((text) => {
        try {
          return { ...readObject(text, zone), problem: '' };
        } catch (problem) {
          if (!(problem instanceof CalendarError)) throw problem;
          return { events: [], todos: [], problem: problem.message };
        }
      }),
    ),
  );
}

/** What a calendar file holds between two instants. */
export function expanded({ text, zone, from, to }: ExpandJob): Promise<Outcome<ExpandedEvent[]>> {
  return outcomeOf(() => Promise.resolve(expandEvents(readCalendar(text, zone), from, to, zone)));
}

/** A calendar file, the reader's zone and the instants between which its events are wanted. */
export interface ExpandJob {
  text: string;
  zone: string;
  from: number;
  to: number;
}

/** When somebody is busy, by what a server says of them. */
export function freeBusy({ text }: { text: string }): Promise<Outcome<Interval[]>> {
  return outcomeOf(() => Promise.resolve(readFreeBusy(text)));
}

/** An object with some fields as another text has them. */
export function changed({ present, wanted, change }: ChangeJob): Promise<Outcome<string>> {
  return outcomeOf(() => Promise.resolve(changeObject(present, wanted, change)));
}

export interface ChangeJob {
  present: string;
  wanted: string;
  change: ObjectChange;
}

/** Texts of events and tasks with what their rows say otherwise. */
export function texts({ all, reader }: { all: Differing[]; reader: Reader }): Promise<Outcome<OwnText[]>> {
  return outcomeOf(() => Promise.resolve(changedTexts(all, reader)));
}

/** Objects in another shape, each by itself. */
export function shaped({ texts: all, shape, zone }: { texts: string[]; shape: Shape; zone: string }) {
  return outcomeOf(() =>
    Promise.resolve(
      all.map((text) => {
        try {
          return { text: shapeObject(text, shape, zone), problem: '' };
        } catch (problem) {
          if (problem instanceof CalendarError || problem instanceof RangeError) return { text: '', problem: problem.message };
          throw problem;
        }
      }),
    ),
  );
}

/** A document of XML. */
export function xml({ text, limits }: { text: string; limits?: XmlLimits }): Promise<Outcome<XmlElement>> {
  return outcomeOf(() => Promise.resolve(readXml(text, limits)));
}

/** An answer of a calendar server. */
export function multistatus({ text }: { text: string }): Promise<Outcome<Multistatus>> {
  return outcomeOf(() => Promise.resolve(readMultistatus(text)));
}

/** An object of a calendar account, read. */
export interface ReadObject {
  events: CalendarEvent[];
  todos: CalendarTodo[];
  /** Why it cannot be read; empty when it can. */
  problem: string;
}

/** What the large files hold, by kind. */
export interface Streams {
  calendar: CalendarItem;
  cards: VcardItem;
}

export interface StreamJob {
  kind: keyof Streams;
  path: string;
  zone: string;
  batch: number;
  port: MessagePort;
}

/** One batch on its way out, and how many bytes of the file were read for it. */
export interface Batch<T> {
  items: T[];
  bytes: number;
}

/** What comes through the port of a stream: batches, and at the end what became of it. One way, so that their order holds. */
export type Handed<T> = Batch<T> | { outcome: Outcome<null> };

/** Reads a large file and hands out what it holds, a batch at a time, each when it is asked for. */
export async function stream({ kind, path, zone, batch, port }: StreamJob): Promise<void> {
  const input = createReadStream(path);
  const wanted = asked(port);
  const work = async () => {
    let items: unknown[] = [];
    const hand = async () => {
      await wanted.next();
      port.postMessage({ items, bytes: input.bytesRead });
      items = [];
    };
    for await (const item of kind === 'calendar' ? streamCalendar(input, zone) : readVcards(input)) {
      items.push(item);
      if (items.length >= batch) await hand();
    }
    if (items.length) await hand();
    return null;
  };
  try {
    port.postMessage({ outcome: await outcomeOf(work) });
  } finally {
    input.destroy();
    port.close();
  }
}

async function* asked(port: MessagePort): AsyncGenerator<void> {
  let waiting = 0;
  let wake: (() => void) | null = null;
  port.on('message', () => {
    waiting += 1;
    wake?.();
  });
  for (;;) {
    while (waiting === 0) await new Promise<void>((resolve) => (wake = resolve));
    waiting -= 1;
    yield;
  }
}
