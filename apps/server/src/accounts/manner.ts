import { AsyncLocalStorage } from 'node:async_hooks';
import { Injectable, type CallHandler, type ExecutionContext, type NestInterceptor } from '@nestjs/common';
import { FIRST_MANNER, mannerFrom, type Manner } from '@corvun/core';
import type { Request } from 'express';
import { Observable } from 'rxjs';
import type { User } from './user.entity';

const asking = new AsyncLocalStorage<Manner>();
mannerFrom(() => asking.getStore());

/** Says something in the manner of a user, where no request asks for it. */
export const inMannerOf = <T>(user: Pick<User, 'settings'>, say: () => T): T =>
  asking.run({ ...FIRST_MANNER, ...user.settings }, say);

/** Whatever a request says of days and clock times, and reads of them, goes by the manner of the user who asks. */
@Injectable()
export class InTheirManner implements NestInterceptor {
  intercept(context: ExecutionContext, next: CallHandler): Observable<unknown> {
    const { user } = context.switchToHttp().getRequest<Request & { user?: User }>();
    if (!user) return next.handle();
    const manner = { ...FIRST_MANNER, ...user.settings };
    return new Observable((subscriber) => asking.run(manner, () => next.handle().subscribe(subscriber)));
  }
}
