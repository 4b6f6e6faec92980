import { Injectable, Logger, OnApplicationBootstrap, BeforeApplicationShutdown } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { SourceKind } from '@corvun/contract';
import { In, LessThanOrEqual, Repository } from 'typeorm';
import { AccountsService } from '../accounts/accounts.service';
import { Clock } from '../base/clock';
import { Writes } from '../base/writes';
import { Runner, pauseAfter, type Due } from '../due/runner';
import { Kernel, bySource } from '../kernel/kernel.service';
import { StreamService } from '../stream/stream.service';
import { AccountAdapter } from './account/account.adapter';
import type { Adapter, Reach } from './adapter';
import { ChatAdapter } from './chat.adapter';
import { FeedAdapter } from './feed.adapter';
import { MailboxAdapter } from './mailbox.adapter';
import { NotesAdapter } from './notes.adapter';
import { SourceProblem, sentenceOf } from './problem';
import { Secrets } from '../base/secrets.service';
import { Source } from './source.entity';
import { TrackerAdapter } from './tracker.adapter';

const KIND = 'looks';
const MOST_AT_ONCE = 4;
const TELL_EVERY = 300;

interface Run {
  done: number;
  total: number | null;
  again: boolean;
}

/** Looks into every source in its turn, one look at a time for each, and remembers how far it came. */
@Injectable()
export class SyncService implements OnApplicationBootstrap, BeforeApplicationShutdown {
  private readonly logger = new Logger('sources');
  private readonly runs = new Map<string, Run>();
  private readonly listening = new Map<string, AbortController>();
  private readonly adapters: Record<SourceKind, Adapter>;

  constructor(
    @InjectRepository(Source) private readonly sources: Repository<Source>,
    private readonly accounts: AccountsService,
    private readonly clock: Clock,
    private readonly kernel: Kernel,
    private readonly writes: Writes,
    private readonly stream: StreamService,
    private readonly secrets: Secrets,
    private readonly runner: Runner,
    mailbox: MailboxAdapter,
    chat: ChatAdapter,
    tracker: TrackerAdapter,
    notes: NotesAdapter,
    feed: FeedAdapter,
    account: AccountAdapter,
  ) {
    this.adapters = { mailbox, chat, tracker, notes, feed, account };
    runner.register({ name: KIND, atOnce: MOST_AT_ONCE, due: (now, most) => this.due(now, most) });
  }

  async onApplicationBootstrap(): Promise<void> {
    // A look that was cut off by the end of the server goes on at once, and not after its interval.
    await this.writes.write((manager) => manager.update(Source, { state: 'active' }, { nextTry: this.clock.now() }));
  }

  beforeApplicationShutdown(): void {
    for (const one of this.listening.values()) one.abort();
  }

  adapter(kind: SourceKind): Adapter {
    return this.adapters[kind];
  }

  progressOf(id: string): { done: number; total: number | null } | null {
    const run = this.runs.get(id);
    return run ? { done: run.done, total: run.total } : null;
  }

  private async due(now: number, most: number): Promise<Due[]> {
    const due = await this.sources.find({
      where: { state: 'active', held: false, nextTry: LessThanOrEqual(now) },
      order: { nextTry: 'ASC' },
      take: most,
    });
    return due.map((source) => this.lookOf(source));
  }

  private lookOf(source: Source): Due {
    return { key: keyOf(source.id), run: (signal) => this.look(source, signal) };
  }

  /** Looks now. When a look is going on, another follows it. */
  lookNow(source: Source): void {
    const run = this.runs.get(source.id);
    if (run) run.again = true;
    else this.runner.start(KIND, this.lookOf(source));
  }

  /** Ends a look that is going on; the next one goes on where it stopped. */
  async stop(id: string): Promise<void> {
    this.listening.get(id)?.abort();
    await this.runner.stop(keyOf(id));
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

  /** Looks, and once more for everyone who asked for it meanwhile. */
  private async look(source: Source, signal: AbortSignal): Promise<void> {
    for (let next: Source | null = source; next;) {
      const run: Run = { done: 0, total: null, again: false };
      this.runs.set(source.id, run);
      try {
        await this.run(next, run, signal);
      } finally {
        this.runs.delete(source.id);
        this.tell(source);
      }
      next = run.again && !signal.aborted ? await this.sources.findOneBy({ id: source.id, state: 'active' }) : null;
    }
  }

  private async run(row: Source, run: Run, signal: AbortSignal): Promise<void> {
    const started = this.clock.now();
    const next = started + row.every * 1000;
    await this.note(row, { lastTry: started, nextTry: next });
    this.tell(row);
    let told = 0;
    try {
      const reach = await this.reach(row, signal);
      for await (const step of this.adapters[row.kind].steps(reach)) {
        signal.throwIfAborted();
        await this.kernel.transact(bySource(row.ownerId, row.id), async (work) => {
          await step.write(work);
          await work.manager.update(Source, { id: row.id }, { cursor: step.cursor as object });
        });
        [run.done, run.total] = [step.done, step.total];
        if (Date.now() - told > TELL_EVERY) {
          this.tell(row);
          told = Date.now();
        }
        signal.throwIfAborted();
      }
      await this.noteAfter(row, next, {
        lastSuccess: this.clock.now(),
        failures: 0,
        problem: '',
        nextTry: this.clock.now() + row.every * 1000,
      });
      this.listen(row);
    } catch (problem) {
      if (signal.aborted) return;
      const failures = row.failures + 1;
      const asked = problem instanceof SourceProblem ? problem.retryAfter : null;
      if (!(problem instanceof SourceProblem)) this.logger.warn(sentenceOf(problem, row.name));
      await this.noteAfter(row, next, {
        failures,
        problem: sentenceOf(problem, row.name),
        nextTry: this.clock.now() + pauseAfter(failures, asked),
      });
    }
  }

  /** Where a source can tell by itself, its line is kept open. */
  private listen(row: Source): void {
    const adapter = this.adapters[row.kind];
    if (!adapter.listen || this.listening.has(row.id) || this.runner.isEnding) return;
    const stop = new AbortController();
    this.listening.set(row.id, stop);
    const news = () =>
      void this.sources
        .findOneBy({ id: row.id, state: 'active', held: false })
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

  /** Notes what became of a look; who asked for another one meanwhile gets it. @param next when it was to be, as it began */
  private async noteAfter(row: Source, next: number, { nextTry, ...patch }: Partial<Source>): Promise<void> {
    const present = await this.sources.findOneBy({ id: row.id });
    await this.note(row, present && present.nextTry !== next ? patch : { ...patch, nextTry });
  }

  private tell(row: Source): void {
    this.stream.tell(row.ownerId, { revision: null, changes: [{ kind: 'source', ids: [row.id] }] });
  }

  /** Sources of one owner, for lists. */
  of(ownerId: string, ids?: string[]): Promise<Source[]> {
    return this.sources.find({ where: { ownerId, ...(ids ? { id: In(ids) } : {}) }, order: { position: 'ASC', created: 'ASC' } });
  }
}

const keyOf = (id: string): string => `look:${id}`;
