import { Inject, Injectable, Logger, type OnApplicationShutdown } from '@nestjs/common';
import { NO_FACTS, READER_VERSION, type Interval } from '@corvun/core';
import {
  CalendarError,
  MailError,
  NoteError,
  XmlError,
  type ExpandedEvent,
  type MailErrorCode,
  type Multistatus,
  type NoteTask,
  type OwnText,
  type Shape,
  type XmlElement,
  type XmlLimits,
} from '@corvun/formats';
import { existsSync } from 'node:fs';
import { join } from 'node:path';
import { MessageChannel } from 'node:worker_threads';
import { Piscina } from 'piscina';
import { CONFIG, type Config } from '../base/config';
import type { Reader } from '../events/event-state';
import type { ReadFields } from '../incoming/reading';
import type { Differing } from '../own-text/changed-texts';
import { Budget } from './budget';
import {
  unread,
  type Batch,
  type ChangeJob,
  type ExpandJob,
  type Handed,
  type Outcome,
  type ReadFor,
  type ReadMessage,
  type ReadObject,
  type Streams,
  type TextToRead,
} from './jobs';

/** Messages read at the same time, besides one large file. */
const MESSAGES_AT_ONCE = 2;
const FILES_AT_ONCE = 1;
/** What used up its first budget is read behind everything that did not: one at a time, and so many that wait for it. */
const SLOW_AT_ONCE = 1;
const MOST_SLOW = 30;
/** The first budget, in milliseconds: hardly anything that people send needs as much. */
const FIRST_TIME = 2000;
const IDLE = 120_000;
const STACK_MB = 8;
/** Milliseconds for the headers alone of a message that could not be read whole. */
const HEADER_TIME = 5000;

/** Reading was given up: it took longer, or more memory, than one thing that arrives is given. */
export class ReadingLimit extends Error {
  constructor(readonly what: 'time' | 'memory') {
    super(what === 'time' ? 'It takes too long to read.' : 'It takes too much memory to read.');
  }
}

/**
 * Reads what arrives (mail, HTML, calendars, cards, notes) in threads of its own, each with a limit of time and memory:
 * nothing that somebody sends can hold up or end the server.
 */
@Injectable()
export class ReadingPool implements OnApplicationShutdown {
  private readonly logger = new Logger('reading');
  private readonly messages = new Turns(MESSAGES_AT_ONCE);
  private readonly files = new Turns(FILES_AT_ONCE);
  private readonly slow = new Turns(SLOW_AT_ONCE);
  private readonly pool: Piscina;
  private readonly time: number;

  constructor(@Inject(CONFIG) { readTime, readMemory }: Config) {
    this.time = readTime;
    // Tests run the server from its sources; a thread can only load what is built.
    const built = join(__dirname, 'worker.js');
    this.pool = new Piscina({
      filename: existsSync(built) ? built : join(__dirname, '../../dist/worker.js'),
      minThreads: 0,
      maxThreads: MESSAGES_AT_ONCE + FILES_AT_ONCE + SLOW_AT_ONCE,
      idleTimeout: IDLE,
      resourceLimits: { maxOldGenerationSizeMb: readMemory, stackSizeMb: STACK_MB },
      workerHistogram: false,
    });
    this.pool.on('error', (problem) => this.logger.warn(problem));
  }

  async onApplicationShutdown(): Promise<void> {
    await this.pool.destroy();
  }

  /**
   * Reads a message. One that cannot be read within its limits is kept all the same, with its headers, and says so.
   * @throws MailError what is no message at all
   */
  async mail(bytes: Buffer, reader: ReadFor): Promise<ReadMessage & { unreadable: boolean }> {
    try {
      return { ...(await this.run<ReadMessage>('mail', { bytes, reader })), unreadable: false };
    } catch (problem) {
      if (problem instanceof MailError) throw problem;
      const why = problem instanceof ReadingLimit ? problem.message : 'Its parts cannot be understood.';
      if (!(problem instanceof ReadingLimit)) this.logger.warn(`A message could not be read: ${String(problem)}`);
      const said = `This message could not be read. ${why} What it was sent with is kept unchanged.`;
      const read = await this.run<ReadMessage>('headers', { bytes, reader, problem: said }, HEADER_TIME).catch(() =>
        unread(bytes, reader, said),
      );
      return { ...read, unreadable: true };
    }
  }

  /** Facts in a text. One that cannot be read within its limits has none. */
  async facts(...text: TextToRead): Promise<ReadFields> {
    try {
      const [read] = await this.run<ReadFields[]>('facts', { texts: [text] });
      if (read) return read;
    } catch (problem) {
      if (!(problem instanceof ReadingLimit)) throw problem;
    }
    const [, subject] = text;
    return { facts: { ...NO_FACTS }, readerVersion: READER_VERSION, readTitle: subject };
  }

  /** Facts in many texts at once, of which each is known to be short. @throws ReadingLimit */
  factsOf(texts: TextToRead[]): Promise<ReadFields[]> {
    return this.once(this.messages, 'facts', { texts }, this.time);
  }

  /** Calendar objects, each by itself: one that cannot be read within its limits says so, and keeps no other out. */
  async objects(texts: string[], zone: string): Promise<ReadObject[]> {
    if (!texts.length) return [];
    const alone = texts.length === 1;
    try {
      return await this.run('objects', { texts, zone });
    } catch (problem) {
      if (!(problem instanceof ReadingLimit)) throw problem;
      if (alone) return [{ events: [], todos: [], problem: problem.message }];
    }
    const read: ReadObject[] = [];
    for (const text of texts) read.push(...(await this.objects([text], zone)));
    return read;
  }

  /** What a calendar file holds between two instants. @throws CalendarError, ReadingLimit */
  expanded(job: ExpandJob): Promise<ExpandedEvent[]> {
    return this.run('expanded', job);
  }

  /** When somebody is busy, by what a server says of them. @throws CalendarError, ReadingLimit */
  freeBusy(text: string): Promise<Interval[]> {
    return this.run('freeBusy', { text });
  }

  /** A calendar object with some fields as another text has them. @throws ReadingLimit */
  changed(job: ChangeJob): Promise<string> {
    return this.run('changed', job);
  }

  /**
   * Texts of events and tasks with what their rows say otherwise. One that cannot be read again within the limits is
   * written anew.
   */
  async texts(all: Differing[], reader: Reader): Promise<OwnText[]> {
    try {
      return await this.run('texts', { all, reader });
    } catch (problem) {
      if (!(problem instanceof ReadingLimit)) throw problem;
      const [only] = all;
      if (all.length <= 1) return only ? [only.wanted] : [];
    }
    const texts: OwnText[] = [];
    for (const one of all) texts.push(...(await this.texts([one], reader)));
    return texts;
  }

  /** Calendar objects in another shape, each by itself: why one cannot be given, where it cannot. */
  async shaped(texts: string[], shape: Shape, zone: string): Promise<{ text: string; problem: string }[]> {
    if (!texts.length) return [];
    try {
      return await this.run('shaped', { texts, shape, zone });
    } catch (problem) {
      if (!(problem instanceof ReadingLimit)) throw problem;
      if (texts.length === 1) return [{ text: '', problem: problem.message }];
    }
    const shaped: { text: string; problem: string }[] = [];
    for (const text of texts) shaped.push(...(await this.shaped([text], shape, zone)));
    return shaped;
  }

  /** A document of XML. @throws XmlError, ReadingLimit */
  xml(text: string, limits?: XmlLimits): Promise<XmlElement> {
    return this.run('xml', { text, ...(limits ? { limits } : {}) });
  }

  /** An answer of a calendar server. @throws XmlError, ReadingLimit */
  multistatus(text: string): Promise<Multistatus> {
    return this.run('multistatus', { text });
  }

  /** Task lines of a note. @throws NoteError, ReadingLimit */
  note(bytes: Buffer): Promise<{ text: string; tasks: NoteTask[] }> {
    return this.run('note', { bytes });
  }

  /**
   * What a large file holds, a batch at a time; the next is only read when it is wanted.
   * @throws CalendarError, ReadingLimit
   */
  async *stream<K extends keyof Streams>(kind: K, path: string, zone: string, batch: number): AsyncGenerator<Batch<Streams[K]>> {
    const release = await this.files.take();
    const { port1, port2 } = new MessageChannel();
    const stop = new AbortController();
    let timer: NodeJS.Timeout | undefined;
    try {
      const job = { kind, path, zone, batch, port: port2 };
      const whole = this.pool.run(job, { name: 'stream', transferList: [port2], signal: stop.signal }) as Promise<void>;
      const failed = new Promise<{ problem: unknown }>((resolve) => {
        whole.catch((problem: unknown) => resolve({ problem }));
      });
      const handed = inOrder<Handed<Streams[K]>>(port1);
      for (;;) {
        port1.postMessage('next');
        timer = setTimeout(() => stop.abort(), this.time);
        const next = await Promise.race([handed(), failed]);
        clearTimeout(timer);
        if ('problem' in next) throw limitOf(next.problem);
        if ('outcome' in next) return void done(next.outcome);
        yield next;
      }
    } finally {
      clearTimeout(timer);
      stop.abort();
      port1.close();
      release();
    }
  }

  /** @throws ReadingLimit */
  private async run<T>(name: string, job: object, time = this.time): Promise<T> {
    try {
      return await this.once<T>(this.messages, name, job, Math.min(time, FIRST_TIME));
    } catch (problem) {
      const mayTakeMore = problem instanceof ReadingLimit && problem.what === 'time' && time > FIRST_TIME;
      if (!mayTakeMore || this.slow.queued >= MOST_SLOW) throw problem;
    }
    return this.once<T>(this.slow, name, job, time);
  }

  private async once<T>(turns: Turns, name: string, job: object, most: number): Promise<T> {
    const release = await turns.take();
    const stop = new AbortController();
    const budget = new Budget(most, () => stop.abort());
    try {
      return done((await this.pool.run({ ...job, begun: budget.begun }, { name, signal: stop.signal })) as Outcome<T>);
    } catch (problem) {
      throw limitOf(problem);
    } finally {
      budget.end();
      release();
    }
  }
}

function done<T>(outcome: Outcome<T>): T {
  if ('done' in outcome) return outcome.done;
  const { code, message } = outcome.refused;
  if (code === 'not-a-note') throw new NoteError(message);
  if (code === 'not-a-calendar') throw new CalendarError(message);
  if (code === 'not-xml') throw new XmlError(message);
  throw new MailError(code as MailErrorCode, message);
}

function limitOf(problem: unknown): unknown {
  const { name, code } = (problem ?? {}) as { name?: string; code?: string };
  if (name === 'AbortError' || code === 'ABORT_ERR') return new ReadingLimit('time');
  return code === 'ERR_WORKER_OUT_OF_MEMORY' ? new ReadingLimit('memory') : problem;
}

/** Lets a few at a time. */
class Turns {
  private readonly waiting: (() => void)[] = [];

  constructor(private free: number) {}

  /** How many wait. */
  get queued(): number {
    return this.waiting.length;
  }

  async take(): Promise<() => void> {
    if (this.free > 0) this.free -= 1;
    else await new Promise<void>((resolve) => this.waiting.push(resolve));
    let released = false;
    return () => {
      if (released) return;
      released = true;
      const next = this.waiting.shift();
      if (next) next();
      else this.free += 1;
    };
  }
}

/** Messages of a port, one after the other. */
function inOrder<T>(port: MessageChannel['port1']): () => Promise<T> {
  const kept: T[] = [];
  let wake: (() => void) | null = null;
  port.on('message', (message: T) => {
    kept.push(message);
    wake?.();
  });
  return async () => {
    while (!kept.length) await new Promise<void>((resolve) => (wake = resolve));
    return kept.shift() as T;
  };
}
