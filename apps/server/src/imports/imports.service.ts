import { Injectable, Logger, OnModuleInit } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type { ImportInfo, ImportReport } from '@corvun/contract';
import { isoInZone } from '@corvun/core';
import { MailError, TableError, sampleCsv, type TaskColumn } from '@corvun/formats';
import { promises as fs } from 'node:fs';
import { join } from 'node:path';
import { In, Repository } from 'typeorm';
import { AccountsService } from '../accounts/accounts.service';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { Uploads } from '../base/uploads';
import { Refusal, badField, notFound } from '../base/errors';
import { newId } from '../base/ids';
import { Runner, type Due } from '../due/runner';
import { Kernel, bySource } from '../kernel/kernel.service';
import { Intake } from '../incoming/intake.service';
import { ReadingPool } from '../reading/reading-pool.service';
import { StreamService } from '../stream/stream.service';
import { ImportRun } from './import.entity';
import { FileError, READERS, kindOf, type Counts } from './readers';

const MOST_SAID = 100;
const TELL_EVERY = 250;
const MOST_RUNS = 50;

export interface Uploaded {
  name: string;
  path: string;
}

/** Takes files in, one after the other, and keeps a report of each: it can be stopped, gone on with, and survives a crash. */
@Injectable()
export class ImportsService implements OnModuleInit {
  private readonly logger = new Logger('imports');

  constructor(
    @InjectRepository(ImportRun) private readonly runs: Repository<ImportRun>,
    private readonly uploads: Uploads,
    private readonly accounts: AccountsService,
    private readonly clock: Clock,
    private readonly kernel: Kernel,
    private readonly stream: StreamService,
    private readonly intake: Intake,
    private readonly reading: ReadingPool,
    private readonly runner: Runner,
  ) {
    runner.register({ name: 'imports', atOnce: 1, due: () => this.due() });
  }

  onModuleInit(): void {
    this.uploads.keepFor(async () => {
      const runs = await this.runs.findBy({ state: In(['columns', 'running', 'stopped']) });
      return new Set(runs.map((run) => run.path));
    });
  }

  /** What was running when the server ended is due again: what is known already is only counted. */
  private async due(): Promise<Due[]> {
    const rows = await this.runs.find({ where: { state: 'running' }, order: { created: 'ASC', id: 'ASC' }, take: 1 });
    return rows.map((run) => ({ key: keyOf(run.id), run: (signal) => this.read(run, signal) }));
  }

  /** Takes uploaded files over and begins; a table waits until its columns are known. */
  async begin(user: User, files: Uploaded[], guessColumns = false): Promise<ImportRun[]> {
    const begun: ImportRun[] = [];
    for (const file of files) {
      const run = await this.keep(user, file, guessColumns);
      begun.push(run);
      this.runner.soon();
    }
    return begun;
  }

  private async keep(user: User, { name, path }: Uploaded, guessColumns: boolean): Promise<ImportRun> {
    const now = this.clock.now();
    const id = newId();
    const { size } = await fs.stat(path);
    const kind = await kindOf(name, path);
    const kept = join(this.uploads.folder, `import-${id}`);
    await fs.rename(path, kept);
    const run: ImportRun = {
      id,
      ownerId: user.id,
      version: 1,
      created: now,
      changed: now,
      name,
      kind: kind ?? '',
      path: kept,
      size,
      state: 'running',
      done: 0,
      taken: 0,
      updated: 0,
      known: 0,
      refusedCount: 0,
      refused: [],
      problem: '',
      columns: null,
    };
    const ending = /\.([^.]+)$/.exec(name)?.[1] ?? '';
    if (!kind) this.refuse(run, `Files ending in .${ending} cannot be read; .eml, .mbox, .ics, .vcf, .csv and .md can.`);
    if (kind === 'csv')
      try {
        const { guess } = await sampleCsv(kept);
        if (guessColumns) run.columns = guess;
        else run.state = 'columns';
      } catch (problem) {
        if (!(problem instanceof TableError)) throw problem;
        this.refuse(run, problem.message);
      }
    await this.kernel.transact(bySource(user.id), async (work) => {
      await work.manager.insert(ImportRun, run);
      work.tell('import', id);
    });
    if (run.state === 'failed') await fs.rm(kept, { force: true });
    return run;
  }

  private refuse(run: ImportRun, reason: string): void {
    Object.assign(run, {
      state: 'failed',
      problem: reason,
      refusedCount: run.refusedCount + 1,
      refused: [...run.refused, { file: run.name, at: '', reason }],
    });
  }

  private async read(run: ImportRun, signal: AbortSignal): Promise<void> {
    const user = await this.accounts.byId(run.ownerId);
    const reader = READERS[run.kind];
    if (!user || !reader) return;
    Object.assign(run, { done: 0, taken: 0, updated: 0, known: 0, refusedCount: 0, refused: [], problem: '' });
    let told = 0;
    try {
      const file = {
        path: run.path,
        name: run.name,
        size: run.size,
        user,
        now: this.clock.now(),
        intake: this.intake,
        reading: this.reading,
        columns: run.columns,
      };
      for await (const step of reader(file)) {
        const before = { ...run, refused: [...run.refused] };
        await this.kernel
          .transact(bySource(user.id), async (work) => {
            this.add(run, await step.write(work), step.bytes);
            await work.manager.update(ImportRun, { id: run.id }, { ...countsOf(run), done: run.done });
          })
          .catch((problem: unknown) => {
            Object.assign(run, before);
            throw problem;
          });
        if (Date.now() - told > TELL_EVERY) {
          this.tell(run);
          told = Date.now();
        }
        if (signal.aborted) break;
      }
      // At the end of the server it is only put off.
      run.state = !signal.aborted ? 'done' : this.runner.isEnding ? 'running' : 'stopped';
    } catch (problem) {
      const sentence =
        problem instanceof FileError || problem instanceof MailError
          ? problem.message
          : 'The file could not be read further. What was taken stays.';
      if (!(problem instanceof FileError) && !(problem instanceof MailError)) this.logger.error(problem);
      this.refuse(run, sentence);
    }
    if (run.state === 'done') run.done = run.size;
    await this.set(run, { ...countsOf(run), state: run.state, done: run.done, problem: run.problem });
    if (run.state === 'done' || run.state === 'failed') await fs.rm(run.path, { force: true });
  }

  private add(run: ImportRun, counts: Counts, bytes: number): void {
    run.taken += counts.taken;
    run.updated += counts.updated;
    run.known += counts.known;
    run.refusedCount += counts.refused.length;
    const room = MOST_SAID - run.refused.length;
    if (room > 0) run.refused = [...run.refused, ...counts.refused.slice(0, room).map((one) => ({ file: run.name, ...one }))];
    run.done = Math.min(bytes, run.size);
  }

  private tell(run: ImportRun): void {
    this.stream.tell(run.ownerId, { revision: null, changes: [{ kind: 'import', ids: [run.id] }] });
  }

  /** Says what the columns of a table hold, and begins. @throws Refusal */
  async setColumns(user: User, id: string, columns: TaskColumn[]): Promise<ImportInfo> {
    const run = await this.own(user, id);
    if (run.state !== 'columns') throw new Refusal('not-waiting', 'This file does not wait for its columns.');
    if (!columns.includes('title')) throw badField('columns', 'Say which column holds the title.');
    const twice = columns.find((one, at) => one !== 'skip' && columns.indexOf(one) !== at);
    if (twice) throw badField('columns', `Two columns cannot both hold the ${twice}.`);
    await this.set(run, { columns, state: 'running' });
    this.runner.soon();
    return this.info(user, id);
  }

  async stop(user: User, id: string): Promise<ImportInfo> {
    await this.own(user, id);
    await this.runner.stop(keyOf(id));
    // One that has not begun yet has nothing to end.
    const run = await this.own(user, id);
    if (run.state === 'running') await this.set(run, { state: 'stopped' });
    return this.info(user, id);
  }

  /** Goes on with what was stopped: what is there already is only counted as known. */
  async resume(user: User, id: string): Promise<ImportInfo> {
    const run = await this.own(user, id);
    if (run.state !== 'stopped') throw new Refusal('not-stopped', 'Only what was stopped can go on.');
    await this.set(run, { state: 'running' });
    this.runner.soon();
    return this.info(user, id);
  }

  /** Takes a report away; what was taken in stays. */
  async forget(user: User, id: string): Promise<void> {
    const run = await this.own(user, id);
    await this.stop(user, id);
    await fs.rm(run.path, { force: true });
    await this.kernel.transact(bySource(user.id), async (work) => {
      await work.manager.delete(ImportRun, { id });
      work.tell('import', id);
    });
  }

  private async set(run: ImportRun, patch: Partial<ImportRun> | ReturnType<typeof countsOf>): Promise<void> {
    Object.assign(run, patch);
    await this.kernel.transact(bySource(run.ownerId), async (work) => {
      await work.manager.update(ImportRun, { id: run.id }, patch);
      work.tell('import', run.id);
    });
  }

  private async own(user: User, id: string): Promise<ImportRun> {
    const run = await this.runs.findOneBy({ id, ownerId: user.id });
    if (!run) throw notFound('import with this id');
    return run;
  }

  async all(user: User): Promise<ImportInfo[]> {
    const rows = await this.runs.find({ where: { ownerId: user.id }, order: { created: 'DESC', id: 'DESC' }, take: MOST_RUNS });
    return Promise.all(rows.map((row) => this.shown(user, row)));
  }

  async info(user: User, id: string): Promise<ImportInfo> {
    return this.shown(user, await this.own(user, id));
  }

  private async shown(user: User, row: ImportRun): Promise<ImportInfo> {
    const table = row.state === 'columns' ? await sampleCsv(row.path).catch(() => null) : null;
    const { id, name, kind, size, state, done, taken, updated, known, refusedCount, refused, problem } = row;
    return {
      id,
      name,
      kind,
      size,
      state,
      done,
      total: size,
      taken,
      updated,
      known,
      refusedCount,
      refused,
      problem,
      created: isoInZone(row.created, user.zone),
      table: table ? { columns: table.columns, rows: table.rows, guess: table.guess } : null,
    };
  }

  private async untilRead(user: User, id: string): Promise<void> {
    const end = this.runner.nextEnd(keyOf(id));
    if ((await this.own(user, id)).state === 'running') await end;
  }

  /** Takes files in and waits for the end: one report over all. */
  async takeNow(user: User, files: Uploaded[]): Promise<ImportReport> {
    const runs = await this.begin(user, files, true);
    await Promise.all(runs.map(({ id }) => this.untilRead(user, id)));
    const report: ImportReport = { taken: 0, updated: 0, known: 0, refused: [] };
    for (const { id } of runs) {
      const { taken, updated, known, refused } = await this.own(user, id);
      report.taken += taken;
      report.updated += updated;
      report.known += known;
      report.refused.push(...refused);
      await this.forget(user, id);
    }
    return report;
  }
}

const countsOf = ({ taken, updated, known, refusedCount, refused }: ImportRun) => ({
  taken,
  updated,
  known,
  refusedCount,
  refused: refused as object[],
});

const keyOf = (id: string): string => `import:${id}`;
