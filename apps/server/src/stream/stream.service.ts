import { Injectable, type OnModuleDestroy } from '@nestjs/common';
import type { StreamChange } from '@corvun/contract';
import { Subject, filter, interval, map, merge, take, takeUntil, type Observable } from 'rxjs';

export interface Told {
  ownerId: string;
  changes: StreamChange[];
}

const HEARTBEAT = 20_000;

/** Tells a user's open windows what changed, after it is committed. */
@Injectable()
export class StreamService implements OnModuleDestroy {
  private readonly told = new Subject<Told>();
  private readonly closed = new Subject<string>();
  private readonly ended = new Subject<void>();

  tell(ownerId: string, changes: StreamChange[]): void {
    if (changes.length) this.told.next({ ownerId, changes });
  }

  /** Changes of all owners, for what the server keeps in step itself. */
  all(): Observable<Told> {
    return this.told;
  }

  /** Ends the streams that were opened with a session or token, by its id. */
  close(accessId: string): void {
    this.closed.next(accessId);
  }

  /** Changes of one owner as server-sent events, while the access lasts; `beat` keeps idle connections open. */
  of(ownerId: string, accessId: string): Observable<{ type: string; data: object }> {
    const changes = this.told.pipe(
      filter((one) => one.ownerId === ownerId),
      map((one) => ({ type: 'change', data: one.changes })),
    );
    const until = merge(this.ended, this.closed.pipe(filter((id) => id === accessId))).pipe(take(1));
    return merge(changes, interval(HEARTBEAT).pipe(map(() => ({ type: 'beat', data: {} })))).pipe(takeUntil(until));
  }

  /** An open stream would keep the server from ending. */
  onModuleDestroy(): void {
    this.ended.next();
  }
}
