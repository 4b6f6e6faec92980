import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import { LessThanOrEqual, Repository } from 'typeorm';
import { Clock } from '../base/clock';
import { Refusal, notFound } from '../base/errors';
import { FileStore } from '../base/file-store';
import { Runner, pauseAfter, type Due } from '../due/runner';
import { Kernel, bySource, byUser } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { MailWays } from '../mail-way/mail-way.service';
import { lastingOf, OutboxEntry } from './outbox.entity';
import { SourceProblem, sentenceOf } from './problem';
import { Counterpart, Source } from './source.entity';
import { SyncService } from './sync.service';
import { stateOf, TwoWay } from './two-way.service';
import { Task } from '../tasks/task.entity';

/** Of one source, or of the mail of one user, one goes after the other. */
const LANES = 8;
const BATCH = 40;
const SEND_TIME = 60_000;

interface MailPayload {
  from: { name: string; address: string };
  to: { name: string; address: string }[];
  subject: string;
  text: string;
  calendar?: { method: string; text: string };
  inReplyTo?: string;
  attachments?: { name: string; type: string; hash: string }[];
}

/** Sends what waits, one thing after the other for each source, and keeps trying with growing pauses. */
@Injectable()
export class OutboxService {
  constructor(
    @InjectRepository(OutboxEntry) private readonly entries: Repository<OutboxEntry>,
    @InjectRepository(Source) private readonly sources: Repository<Source>,
    private readonly ways: MailWays,
    private readonly files: FileStore,
    private readonly clock: Clock,
    private readonly kernel: Kernel,
    private readonly sync: SyncService,
    private readonly twoWay: TwoWay,
    runner: Runner,
  ) {
    runner.register({ name: 'sends', atOnce: LANES, due: (now) => this.due(now) });
  }

  private async due(now: number): Promise<Due[]> {
    const rows = await this.entries.find({
      where: { state: 'waiting', nextTry: LessThanOrEqual(now) },
      order: { created: 'ASC', id: 'ASC' },
      take: BATCH,
    });
    return rows.map((entry) => ({ key: `send:${entry.sourceId ?? entry.ownerId}`, run: () => this.sendOne(entry) }));
  }

  private async sendOne(entry: OutboxEntry): Promise<void> {
    const source = entry.sourceId ? await this.sources.findOneBy({ id: entry.sourceId }) : null;
    if (source?.state === 'paused') {
      await this.change(entry, { nextTry: this.clock.now() + 5000 });
      return;
    }
    if (!(await this.begin(entry))) return;
    try {
      if (entry.kind === 'mail') await this.sendMail(entry);
      else if (source)
        await this.sync.adapter(source.kind).send(await this.sync.reach(source, AbortSignal.timeout(SEND_TIME)), entry);
      else throw new SourceProblem('The source it belongs to was removed.', 'refused');
      await this.settle(entry, source);
    } catch (problem) {
      const attempts = entry.attempts + 1;
      const asked = problem instanceof SourceProblem ? problem.retryAfter : null;
      await this.change(entry, {
        attempts,
        problem: sentenceOf(problem, source?.name ?? 'The mail server'),
        nextTry: this.clock.now() + pauseAfter(attempts, asked),
        ...(lastingOf(entry) && { payload: entry.payload }),
      });
    }
  }

  /** Notes that what cannot be called back is being handed over. @returns false where it was taken back just now */
  private async begin(entry: OutboxEntry): Promise<boolean> {
    const { id, ownerId, sourceId, payload } = entry;
    const { result } = await this.kernel.transact(bySource(ownerId, sourceId), async ({ manager }) => {
      const waits = await manager.existsBy(OutboxEntry, { id, state: 'waiting' });
      if (waits && lastingOf(entry)) await manager.update(OutboxEntry, { id }, { payload: { ...payload, begun: true } });
      return waits;
    });
    return result;
  }

  /** Marks an entry as sent; what changed here while it was under way is noted anew. */
  private async settle(entry: OutboxEntry, source: Source | null): Promise<void> {
    await this.kernel.transact(bySource(entry.ownerId, entry.sourceId), async (work) => {
      work.tell('outbox', entry.id);
      await work.manager.update(
        OutboxEntry,
        { id: entry.id },
        { state: 'sent', sentAt: this.clock.now(), problem: '', attempts: entry.attempts + 1 },
      );
      if (source) await this.sync.adapter(source.kind).again?.(work, source, entry);
      if (!source || !entry.counterpartId || !['card', 'line'].includes(entry.kind)) return;
      const rows = await work.manager.find(Counterpart, {
        where: [
          { id: entry.counterpartId, gone: false },
          { parentId: entry.counterpartId, gone: false },
        ],
      });
      for (const row of rows) await this.twoWay.noteLeft(work, source, row);
    });
  }

  private async sendMail(entry: OutboxEntry): Promise<void> {
    const mail = entry.payload as unknown as MailPayload;
    const domain = mail.from.address.split('@')[1] ?? 'corvun.invalid';
    await this.ways.send(entry.ownerId, {
      from: mail.from,
      to: mail.to,
      subject: mail.subject,
      text: mail.text,
      // Always the same for one entry: sent twice after a crash, it is still one message to those who get it.
      messageId: `<${entry.id}@${domain}>`,
      date: new Date(entry.created),
      ...(mail.inReplyTo?.includes('@') ? { inReplyTo: `<${mail.inReplyTo}>`, references: `<${mail.inReplyTo}>` } : {}),
      attachments: (mail.attachments ?? []).map(({ name, type, hash }) => ({
        filename: name,
        contentType: type,
        content: this.files.open(hash),
      })),
      ...(mail.calendar ? { icalEvent: { method: mail.calendar.method, content: mail.calendar.text } } : {}),
    });
  }

  /** Tries again now. @throws Refusal */
  async tryNow(ownerId: string, id: string): Promise<void> {
    const entry = await this.waiting(ownerId, id);
    await this.change(entry, { nextTry: this.clock.now() });
  }

  /** Gives an entry up: it is not sent, and what the source has will stand. @throws Refusal */
  async giveUp(ownerId: string, id: string): Promise<void> {
    const entry = await this.waiting(ownerId, id);
    await this.kernel.transact(byUser({ id: ownerId }), async (work) => {
      await work.manager.update(OutboxEntry, { id }, { state: 'given-up' });
      const source = entry.sourceId ? await work.manager.findOneBy(Source, { id: entry.sourceId }) : null;
      if (source) await this.sync.adapter(source.kind).letStand?.(work, entry);
      if (entry.counterpartId && ['card', 'line'].includes(entry.kind)) await this.letStand(work, entry.counterpartId);
      work.tell('outbox', id);
    });
  }

  private async letStand(work: Work, counterpartId: string): Promise<void> {
    for (const row of await work.manager.find(Counterpart, { where: [{ id: counterpartId }, { parentId: counterpartId }] })) {
      const task = row.taskId ? await work.manager.findOneBy(Task, { id: row.taskId }) : null;
      if (!task) continue;
      const here = stateOf(task);
      await work.update('counterpart', row, {
        base: Object.fromEntries(Object.keys(row.base).map((field) => [field, here[field] ?? null])),
      });
    }
  }

  private async waiting(ownerId: string, id: string): Promise<OutboxEntry> {
    const entry = await this.entries.findOneBy({ id, ownerId });
    if (!entry) throw notFound('entry in the outbox with this id');
    if (entry.state !== 'waiting') throw new Refusal('not-waiting', 'This does not wait any more.');
    return entry;
  }

  private async change(entry: OutboxEntry, patch: Partial<OutboxEntry>): Promise<void> {
    await this.kernel.transact(bySource(entry.ownerId, entry.sourceId), async (work) => {
      await work.manager.update(OutboxEntry, { id: entry.id, state: 'waiting' }, patch as object);
      work.tell('outbox', entry.id);
    });
  }

  /** What waits, oldest first, and the latest that went or was given up. */
  async of(ownerId: string): Promise<OutboxEntry[]> {
    const waiting = await this.entries.find({ where: { ownerId, state: 'waiting' }, order: { created: 'ASC' }, take: 200 });
    const past = await this.entries.find({
      where: [
        { ownerId, state: 'sent' },
        { ownerId, state: 'given-up' },
      ],
      order: { changed: 'DESC' },
      take: 30,
    });
    return [...waiting, ...past];
  }
}
