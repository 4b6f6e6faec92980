import { Injectable } from '@nestjs/common';
import { DataSource, type EntityManager } from 'typeorm';

/**
 * Lets one transaction run at a time. SQLite has one writer, and the driver one connection: a second
 * transaction begun between two steps of the first would become part of it.
 */
@Injectable()
export class Writes {
  private last: Promise<unknown> = Promise.resolve();

  constructor(private readonly source: DataSource) {}

  /** Runs `work` in a transaction of its own; what it throws rolls everything back. */
  write<T>(work: (manager: EntityManager) => Promise<T>): Promise<T> {
    const run = this.last.then(() => this.source.transaction(work));
    this.last = run.catch(() => undefined);
    return run;
  }
}
