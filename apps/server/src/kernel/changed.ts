import { AsyncLocalStorage } from 'node:async_hooks';
import { Injectable, type CallHandler, type ExecutionContext, type NestInterceptor } from '@nestjs/common';
import type { Changed, ChangedByRequest, StreamChange } from '@corvun/contract';
import type { Request } from 'express';
import { Observable, map } from 'rxjs';

const asked = new AsyncLocalStorage<Changed[]>();

/** Keeps what a transaction changed for the answer to the request that caused it. */
export const noteChanged = (changed: Changed): void => void asked.getStore()?.push(changed);

const READS = new Set(['GET', 'HEAD', 'OPTIONS']);

/** What strangers do is told to windows and not to them. */
const FOR_STRANGERS = '/api/public/';

/** Answers to writes carry what they changed, and how far the log is with it: a window need not ask again. */
@Injectable()
export class CarryChanges implements NestInterceptor {
  intercept(context: ExecutionContext, next: CallHandler): Observable<unknown> {
    if (context.getType() !== 'http') return next.handle();
    const { method, path } = context.switchToHttp().getRequest<Request>();
    if (READS.has(method) || path.startsWith(FOR_STRANGERS)) return next.handle();
    const store: Changed[] = [];
    const answer = new Observable<unknown>((subscriber) => asked.run(store, () => next.handle().subscribe(subscriber)));
    return answer.pipe(map((body) => (isPlain(body) && store.length ? { ...body, changed: together(store) } : body)));
  }
}

const isPlain = (body: unknown): body is object =>
  typeof body === 'object' &&
  body !== null &&
  !Array.isArray(body) &&
  [Object.prototype, null].includes(Object.getPrototypeOf(body) as object | null);

/** Several transactions of one request as one: their numbers in the log, and every change. */
function together(all: readonly Changed[]): ChangedByRequest {
  const byKind = new Map<StreamChange['kind'], Set<string>>();
  const whole = new Set<StreamChange['kind']>();
  for (const { kind, ids } of all.flatMap(({ changes }) => changes)) {
    if (!ids.length) whole.add(kind);
    const known = byKind.get(kind) ?? new Set();
    for (const id of ids) known.add(id);
    byKind.set(kind, known);
  }
  return {
    revisions: all.flatMap(({ revision }) => revision ?? []),
    changes: [...byKind].map(([kind, ids]) => ({ kind, ids: whole.has(kind) ? [] : [...ids] })),
  };
}
