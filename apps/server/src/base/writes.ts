import { Injectable, Logger } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { DataSource, EntityManager } from 'typeorm';
import { About } from './about.entity';
import { CorvunDataSource } from './data-source';
import { asRefusal, busy, codeOf, isStray, stillNeeded } from './database-problem';

/** The driver's own connection; transactions are begun and ended on it, and on nothing else. */
interface Connection {
  exec(sql: string): unknown;
  readonly inTransaction: boolean;
}

interface Driver {
  databaseConnection: Connection;
  connect(): Promise<void>;
  disconnect(): Promise<void>;
}

/** How long a write waits for another program that holds the database, and how often it asks meanwhile. Milliseconds. */
const LONGEST_WAIT = 5000;
const ASK_EVERY = 40;
/** A write that succeeded this short a time ago shows that one can write. */
const FRESH = 2000;
/** How long whoever asks for the health waits for a try. */
const PROBE_WAIT = 1500;

const pause = (time: number) => new Promise<void>((resolve) => setTimeout(resolve, time));

/**
 * Lets one transaction run at a time, begun and committed by hand. SQLite has one writer, and the driver one connection:
 * a second transaction begun between two steps of the first would become part of it. The mapper's own transactions count
 * their depth, and after a COMMIT that failed they would go on as savepoints inside one that never commits.
 */
@Injectable()
export class Writes {
  private readonly logger = new Logger('database');
  private last: Promise<unknown> = Promise.resolve();
  private broken = false;
  private lastGood = 0;
  private failing = false;
  private probing: Promise<boolean> | undefined;
  private savepoints = 0;

  private readonly source: DataSource;

  constructor(@InjectDataSource() database: CorvunDataSource) {
    this.source = database.writing;
  }

  /**
   * Runs `work` in a transaction of its own; what it throws rolls everything back. Resolves only after the commit.
   * @throws Refusal 503 when another program holds the database too long, 507 when the disk is full
   */
  write<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    const run = this.last.then(() => this.transact(work));
    // Between two transactions everybody else has a turn: one after the other they would hold the whole server up.
    this.last = run.catch(() => undefined).then(() => new Promise((resolve) => setImmediate(resolve)));
    return run;
  }

  /** Runs a part of a transaction that can fail without taking the rest with it. */
  async part<T>(work: () => Promise<T>): Promise<T> {
    const { connection } = this;
    const name = `part_${(this.savepoints += 1)}`;
    connection.exec(`SAVEPOINT ${name}`);
    try {
      const result = await work();
      connection.exec(`RELEASE ${name}`);
      return result;
    } catch (problem) {
      // A full disk or a damaged file ends the whole transaction, and so does one that SQLite has ended already.
      if (asRefusal(problem) || !connection.inTransaction) throw problem;
      connection.exec(`ROLLBACK TO ${name}; RELEASE ${name}`);
      throw problem;
    }
  }

  /** Whether a write can be kept now: one that was just kept says so, else one is tried. */
  canWrite(): Promise<boolean> {
    if (!this.failing && Date.now() - this.lastGood < FRESH) return Promise.resolve(true);
    this.probing ??= this.write((manager) =>
      manager.upsert(About, { name: 'written', value: new Date().toISOString() }, ['name']),
    )
      .then(
        () => true,
        () => false,
      )
      .finally(() => (this.probing = undefined));
    return Promise.race([this.probing, pause(PROBE_WAIT).then(() => false)]);
  }

  private get driver(): Driver {
    return this.source.driver as unknown as Driver;
  }

  private get connection(): Connection {
    return this.driver.databaseConnection;
  }

  private async transact<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    try {
      if (this.broken || this.connection.inTransaction) await this.reopen();
      await this.begin();
      const result = await this.carryOut(work);
      [this.lastGood, this.failing] = [Date.now(), false];
      return result;
    } catch (problem) {
      const refusal = asRefusal(problem);
      if (refusal) this.failing = true;
      throw refusal ?? problem;
    }
  }

  private async begin(): Promise<void> {
    for (const until = Date.now() + LONGEST_WAIT; ;) {
      try {
        this.connection.exec('BEGIN IMMEDIATE');
        return;
      } catch (problem) {
        if (!/^SQLITE_(?:BUSY|LOCKED)/.test(codeOf(problem))) throw problem;
        if (Date.now() > until) throw busy();
      }
      await pause(ASK_EVERY);
    }
  }

  private async carryOut<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    let result: T;
    try {
      result = await work(this.source.createQueryRunner().manager);
      if (!this.connection.inTransaction) throw new Error('The transaction was ended before its time.');
    } catch (problem) {
      this.rollBack();
      // After a failed write of the disk the driver's open statements cannot be trusted.
      if (asRefusal(problem)) await this.reopen();
      throw problem;
    }
    try {
      this.connection.exec('COMMIT');
      if (this.connection.inTransaction) throw new Error('The transaction is still open after its commit.');
    } catch (problem) {
      if (isStray(problem)) {
        this.rollBack();
        throw stillNeeded();
      }
      this.logger.error(`A commit failed (${codeOf(problem) || String(problem)}); the connection is opened anew.`);
      this.rollBack();
      await this.reopen();
      throw problem;
    }
    return result;
  }

  /** SQLite ends a transaction by itself after some errors; a ROLLBACK that fails leaves a connection not to be used again. */
  private rollBack(): void {
    try {
      if (this.connection.inTransaction) this.connection.exec('ROLLBACK');
    } catch {
      this.broken = true;
    }
  }

  private async reopen(): Promise<void> {
    this.broken = true;
    await this.driver.disconnect();
    await this.driver.connect();
    this.broken = false;
  }
}
