import { Injectable, type OnModuleDestroy } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { Changed } from '@corvun/contract';
import { DataSource } from 'typeorm';
import { Observable, Subject, filter, interval, map, merge, take, takeUntil } from 'rxjs';
import { Entry } from '../kernel/entry.entity';
import { told } from '../kernel/told';

export interface Told extends Changed {
  ownerId: string;
  behind?: true;
}

/** A server-sent event; its id is the number in the log that a window then knows. */
export interface StreamEvent {
  type: 'change' | 'behind' | 'beat';
  data: object;
  id?: string;
}

const HEARTBEAT = 20_000;
/** Entries that are told to a window that was away; one that missed more loads everything anew. */
const MOST_MISSED = 500;

/** Tells a user's open windows what changed, after it is committed. */
@Injectable()
export class StreamService implements OnModuleDestroy {
  private readonly told = new Subject<Told>();
  private readonly closed = new Subject<string>();
  private readonly ended = new Subject<void>();

  constructor(@InjectDataSource() private readonly source: DataSource) {}

  tell(ownerId: string, changed: Changed): void {
    this.told.next({ ownerId, ...changed });
  }

  /** Lets every window of an owner load everything anew: more changed than is worth telling. */
  fallBehind(ownerId: string): void {
    this.told.next({ ownerId, revision: null, changes: [], behind: true });
  }

  /** Changes of all owners, for what the server keeps in step itself. */
  all(): Observable<Told> {
    return this.told;
  }

  /** Ends the streams that were opened with a session or token, by its id. */
  close(accessId: string): void {
    this.closed.next(accessId);
  }

  /** The number of the last entry of an owner. */
  async revisionOf(ownerId: string): Promise<number> {
    return (await this.source.getRepository(Entry).maximum('revision', { ownerId })) ?? 0;
  }

  /**
   * Changes of one owner while the access lasts: first what happened after `since`, then what happens. `behind` says that
   * too much happened to be told; `beat` keeps idle connections open.
   * @param since the last number the window knows; null when it knows none
   */
  of(ownerId: string, accessId: string, since: number | null): Observable<StreamEvent> {
    const until = merge(this.ended, this.closed.pipe(filter((id) => id === accessId))).pipe(take(1));
    const beats = interval(HEARTBEAT).pipe(map((): StreamEvent => ({ type: 'beat', data: {} })));
    return merge(this.changesOf(ownerId, since), beats).pipe(takeUntil(until));
  }

  private changesOf(ownerId: string, since: number | null): Observable<StreamEvent> {
    return new Observable((subscriber) => {
      // What happens while the missed is looked up waits until that was told.
      let held: Told[] | null = [];
      let known = since ?? 0;
      const send = (one: Told) => {
        if (one.revision === null || one.revision > known) subscriber.next(eventOf(one));
      };
      const live = this.told
        .pipe(filter((one) => one.ownerId === ownerId))
        .subscribe((one) => (held ? void held.push(one) : send(one)));
      const missed = since === null ? Promise.resolve([]) : this.missed(ownerId, since);
      missed.then(
        (events) => {
          for (const event of events) subscriber.next(event);
          known = Number(events.at(-1)?.id ?? known);
          const later = held ?? [];
          held = null;
          later.forEach(send);
        },
        (problem: unknown) => subscriber.error(problem),
      );
      return live;
    });
  }

  private async missed(ownerId: string, since: number): Promise<StreamEvent[]> {
    const rows = await this.source
      .getRepository(Entry)
      .createQueryBuilder('e')
      .where('e.ownerId = :ownerId AND e.revision > :since', { ownerId, since })
      .orderBy('e.revision', 'ASC')
      .take(MOST_MISSED + 1)
      .getMany();
    const last = await this.revisionOf(ownerId);
    const known =
      since === 0 || since === last || (await this.source.getRepository(Entry).existsBy({ ownerId, revision: since }));
    if (!known || rows.length > MOST_MISSED) return [{ type: 'behind', data: {}, id: String(last) }];
    return rows.map(({ revision, changes }) => eventOf({ revision, changes: told(changes) }));
  }

  /** An open stream would keep the server from ending. */
  onModuleDestroy(): void {
    this.ended.next();
  }
}

const eventOf = ({ revision, changes, behind }: Changed & { behind?: true }): StreamEvent => ({
  type: behind ? 'behind' : 'change',
  data: changes,
  ...(revision === null ? {} : { id: String(revision) }),
});
