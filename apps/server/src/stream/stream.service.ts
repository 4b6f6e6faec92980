import { Injectable } from '@nestjs/common';
import type { StreamChange } from '@corvun/contract';
import { Subject, filter, interval, map, merge, type Observable } from 'rxjs';

export interface Told {
  ownerId: string;
  changes: StreamChange[];
}

const HEARTBEAT = 20_000;

/** Tells a user's open windows what changed, after it is committed. */
@Injectable()
export class StreamService {
  private readonly told = new Subject<Told>();

  tell(ownerId: string, changes: StreamChange[]): void {
    if (changes.length) this.told.next({ ownerId, changes });
  }

  /** Changes of all owners, for what the server keeps in step itself. */
  all(): Observable<Told> {
    return this.told;
  }

  /** Changes of one owner as server-sent events; `beat` keeps idle connections open. */
  of(ownerId: string): Observable<{ type: string; data: object }> {
    const changes = this.told.pipe(
      filter((one) => one.ownerId === ownerId),
      map((one) => ({ type: 'change', data: one.changes })),
    );
    return merge(changes, interval(HEARTBEAT).pipe(map(() => ({ type: 'beat', data: {} }))));
  }
}
