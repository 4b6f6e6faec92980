import { Controller, Get, Headers, Module, Query, Sse } from '@nestjs/common';
import { StreamQuery, type Health } from '@corvun/contract';
import type { Observable } from 'rxjs';
import { CurrentAccess, Open, Owner } from '../accounts/auth.guard';
import type { Access, User } from '../accounts/user.entity';
import { Writes } from '../base/writes';
import { StreamService, type StreamEvent } from './stream.service';

@Controller('api')
class StreamController {
  constructor(
    private readonly stream: StreamService,
    private readonly writes: Writes,
  ) {}

  /**
   * What changed, as server-sent events: `change` with a list of {kind, ids} and the number in the log as its id, `behind`
   * where too much happened since, and `beat`. It begins after `since`, or after the last id that was heard; without
   * either with what happens now. It ends with the access it was opened with.
   */
  @Sse('stream')
  open(
    @Owner() user: User,
    @CurrentAccess() access: Access,
    @Query() { since }: StreamQuery,
    @Headers('last-event-id') heard?: string,
  ): Observable<StreamEvent> {
    const number = heard ?? since;
    return this.stream.of(user.id, access.id, number && /^\d{1,15}$/.test(number) ? Number(number) : null);
  }

  /** `ok`: it answers; `canWrite`: what is sent now can be kept (a write was kept just now, or one is tried). */
  @Open()
  @Get('health')
  async health(): Promise<Health> {
    return { ok: true, canWrite: await this.writes.canWrite() };
  }
}

@Module({ controllers: [StreamController] })
export class StreamModule {}
