import { Injectable, Logger, OnApplicationBootstrap, BeforeApplicationShutdown } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { SourceKind } from '@corvun/contract';
import { In, LessThanOrEqual, Repository } from 'typeorm';
import { AccountsService } from '../accounts/accounts.service';
import { Clock } from '../base/clock';
import { Writes } from '../base/writes';
import { Kernel, bySource } from '../kernel/kernel.service';
import { StreamService } from '../stream/stream.service';
import type { Adapter, Reach } from './adapter';
import { ChatAdapter } from './chat.adapter';
import { FeedAdapter } from './feed.adapter';
import { MailboxAdapter } from './mailbox.adapter';
import { NotesAdapter } from './notes.adapter';
import { SourceProblem, sentenceOf } from './problem';
import { Secrets } from './secrets.service';
import { Source } from './source.entity';
import { TrackerAdapter } from './tracker.adapter';

const TICK = 1000;
const FIRST_PAUSE = 15_000;
const LONGEST_PAUSE = 30 * 60_000;
const MOST_AT_ONCE = 4;
const TELL_EVERY = 300;

interface Run {
  stop: AbortController;
  done: number;
  total: number | null;
  again: boolean;
  finished: Promise<void>;
}

/** Growing pauses after failures: 15 s, 30 s, 1 min … half an hour. */
export const pauseAfter = (failures: number, asked: number | null): number =>
  asked === null ? Math.min(LONGEST_PAUSE, FIRST_PAUSE * 2 ** Math.max(0, failures - 1)) : asked * 1000;

/** Looks into every source in its turn, one look at a time for each, and remembers how far it came. */
@Injectable()
export class SyncService implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly logger = new Logger('sources');
  private readonly runs = new Map<string, Run>();
  private readonly listening = new Map<string, AbortController>();
  private readonly adapters: Record<SourceKind, Adapter>;
  private timer: NodeJS.Timeout | undefined;
  private closed = false;

  constructor(
    @InjectRepository(Source) private readonly sources: Repository<Source>,
    private readonly accounts: AccountsService,
    private readonly clock: Clock,
    private readonly kernel: Kernel,
    private readonly writes: Writes,
    private readonly stream: StreamService,
    private readonly secrets: Secrets,
    mailbox: MailboxAdapter,
    chat: ChatAdapter,
    tracker: TrackerAdapter,
    notes: NotesAdapter,
    feed: FeedAdapter,
  ) {
    this.adapters = { mailbox, chat, tracker, notes, feed };
  }

  async onApplicationBootstrap(): Promise<void> {
    // A look that was cut off by the end of the server goes on at once, and not after its interval.
    await this.writes.write((manager) => manager.update(Source, { state: 'active' }, { nextTry: this.clock.now() }));
    this.timer = setInterval(() => void this.tick().catch((problem: unknown) => this.logger.error(problem)), TICK);
    this.timer.unref();
  }

  async beforeApplicationShutdown(): Promise<void> {
    this.closed = true;
    clearInterval(this.timer);
    for (const run of this.runs.values()) run.stop.abort();
    for (const one of this.listening.values()) one.abort();
    await Promise.all([...this.runs.values()].map((run) => run.finished));
  }

  adapter(kind: SourceKind): Adapter {
    return this.adapters[kind];
  }

  progressOf(id: string): { done: number; total: number | null } | null {
    const run = this.runs.get(id);
    return run ? { done: run.done, total: run.total } : null;
  }

  private async tick(): Promise<void> {
    if (this.closed || this.runs.size >= MOST_AT_ONCE) return;
    const due = await this.sources.find({
      where: { state: 'active', nextTry: LessThanOrEqual(this.clock.now()) },
      order: { nextTry: 'ASC' },
      take: MOST_AT_ONCE,
    });
    for (const source of due) if (!this.closed) this.start(source);
  }

  /** Looks now. When a look is going on, another follows it. */
  async lookNow(source: Source): Promise<void> {
    const run = this.runs.get(source.id);
    if (run) run.again = true;
    else if (!this.closed) this.start(source);
    await Promise.resolve();
  }

  /** Ends a look that is going on; the next one goes on where it stopped. */
  async stop(id: string): Promise<void> {
    const run = this.runs.get(id);
    run?.stop.abort();
    this.listening.get(id)?.abort();
    await run?.finished;
  }

  async reach(source: Source, signal: AbortSignal): Promise<Reach> {
    const user = await this.accounts.byId(source.ownerId);
    if (!user) throw new SourceProblem('Its user is gone.', 'refused');
    let secret = '';
    try {
      secret = source.secret ? this.secrets.open(source.secret, source.id) : '';
    } catch {
      throw new SourceProblem('Its password cannot be read with the key on this machine. Write it again.', 'refused');
    }
    return { source, secret, user, signal, now: this.clock.now() };
  }

  private start(source: Source): void {
    const stop = new AbortController();
    const run: Run = { stop, done: 0, total: null, again: false, finished: Promise.resolve() };
    this.runs.set(source.id, run);
    run.finished = this.run(source, run)
      .catch((problem: unknown) => this.logger.error(problem))
      .then(async () => {
        this.runs.delete(source.id);
        this.tell(source);
        const next = run.again && !this.closed ? await this.sources.findOneBy({ id: source.id, state: 'active' }) : null;
        if (next) this.start(next);
      });
  }

  private async run(row: Source, run: Run): Promise<void> {
    const started = this.clock.now();
    await this.note(row, { lastTry: started, nextTry: started + row.every * 1000 });
    this.tell(row);
    let told = 0;
    try {
      const reach = await this.reach(row, run.stop.signal);
      for await (const step of this.adapters[row.kind].steps(reach)) {
        run.stop.signal.throwIfAborted();
        await this.kernel.transact(bySource(row.ownerId, row.id), async (work) => {
          await step.write(work);
          await work.manager.update(Source, { id: row.id }, { cursor: step.cursor as object });
        });
        [run.done, run.total] = [step.done, step.total];
        if (Date.now() - told > TELL_EVERY) this.tell(row);
        told = Date.now();
        run.stop.signal.throwIfAborted();
      }
      await this.note(row, {
        lastSuccess: this.clock.now(),
        failures: 0,
        problem: '',
        nextTry: this.clock.now() + row.every * 1000,
      });
      this.listen(row);
    } catch (problem) {
      if (run.stop.signal.aborted) return;
      const failures = row.failures + 1;
      const asked = problem instanceof SourceProblem ? problem.retryAfter : null;
      if (!(problem instanceof SourceProblem)) this.logger.warn(sentenceOf(problem, row.name));
      await this.note(row, {
        failures,
        problem: sentenceOf(problem, row.name),
        nextTry: this.clock.now() + pauseAfter(failures, asked),
      });
    }
  }

  /** Where a source can tell by itself, its line is kept open. */
  private listen(row: Source): void {
    const adapter = this.adapters[row.kind];
    if (!adapter.listen || this.listening.has(row.id) || this.closed) return;
    const stop = new AbortController();
    this.listening.set(row.id, stop);
    const news = () =>
      void this.sources
        .findOneBy({ id: row.id, state: 'active' })
        .then((source) => (source ? this.lookNow(source) : undefined))
        .catch((problem: unknown) => this.logger.error(problem));
    void this.reach(row, stop.signal)
      .then((reach) => adapter.listen?.(reach, news))
      .catch(() => undefined)
      .finally(() => this.listening.delete(row.id));
  }

  private async note(row: Source, patch: Partial<Source>): Promise<void> {
    Object.assign(row, patch);
    await this.kernel.transact(bySource(row.ownerId, row.id), (work) =>
      work.manager.update(Source, { id: row.id }, patch as object),
    );
  }

  private tell(row: Source): void {
    this.stream.tell(row.ownerId, { revision: null, changes: [{ kind: 'source', ids: [row.id] }] });
  }

  /** Sources of one owner, for lists. */
  of(ownerId: string, ids?: string[]): Promise<Source[]> {
    return this.sources.find({ where: { ownerId, ...(ids ? { id: In(ids) } : {}) }, order: { position: 'ASC', created: 'ASC' } });
  }
}
