import type { Answer, ApiError, Body, ChangedByRequest, Place, Route } from '@corvun/contract';
import { addressOf } from '@corvun/contract/address';
import { ledger } from './ledger';

/** A refused or failed request; `message` is a sentence for the user. */
export class RequestError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly fields: Record<string, string> = {},
    /** How it is now, where it was changed meanwhile. */
    readonly present: unknown = null,
  ) {
    super(message);
  }
}

/** What to say at the one field that was sent: what is wrong with it, else what went wrong. */
export function saysWrong(problem: unknown): string {
  const fields = problem instanceof RequestError ? Object.values(problem.fields) : [];
  return fields[0] ?? (problem instanceof Error ? problem.message : 'This could not be kept.');
}

/** Letters; browsers keep 64 KiB alive in all. */
const KEPT_ALIVE = 8000;

const OFFLINE = 'Corvun’s server does not answer. Nothing is lost; what you see may be old. Trying again.';

/** Sends a request to the API and reads the answer; what it changed is applied. @throws RequestError */
async function request<T>(method: string, path: string, body?: unknown): Promise<T> {
  if (method === 'GET') return send<T>(method, path, body);
  const answered = ledger.asking();
  try {
    const answer = await send<T>(method, path, body);
    answered((answer as { changed?: ChangedByRequest } | null | undefined)?.changed);
    return answer;
  } finally {
    answered();
  }
}

async function send<T>(method: string, path: string, body?: unknown): Promise<T> {
  const form = body instanceof FormData;
  const text = body === undefined || form ? null : JSON.stringify(body);
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      credentials: 'same-origin',
      headers: text === null ? {} : { 'Content-Type': 'application/json' },
      body: text ?? (form ? body : null),
      // What was said just before the window is reloaded or closed still arrives.
      keepalive: method === 'PATCH' && text !== null && text.length < KEPT_ALIVE,
    });
  } catch {
    throw new RequestError(0, 'offline', OFFLINE);
  }
  if (response.status === 204) return undefined as T;
  if (!response.ok) throw await problemOf(response);
  return (await response.json().catch(() => null)) as T;
}

/** What a refused request is told. */
async function problemOf(response: Response): Promise<RequestError> {
  const error = ((await response.json().catch(() => null)) as ApiError | null)?.error;
  return new RequestError(
    response.status,
    error?.code ?? 'failed',
    error?.message ?? 'The server answered with an error. Nothing was changed.',
    error?.fields,
    error?.present,
  );
}

/** The text of an answer that is no JSON. @throws RequestError */
export async function textOf(path: string, body: object): Promise<string> {
  const response = await fetch(`/api${path}`, {
    method: 'POST',
    credentials: 'same-origin',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify(body),
  }).catch(() => {
    throw new RequestError(0, 'offline', OFFLINE);
  });
  if (!response.ok) throw await problemOf(response);
  return response.text();
}

/** The paths of the contract that have a method, and what stands in the table for one of them. */
type PathOf<M extends string> = Route extends infer R ? (R extends `${M} ${infer P}` ? P : never) : never;
type At<M extends string, P extends string> = `${M} ${P}` & Route;
type Placed<R extends Route> = object extends Place<R> ? [place?: Place<R>] : [place: Place<R>];

const ask =
  <M extends 'GET' | 'DELETE'>(method: M) =>
  <P extends PathOf<M>>(path: P, ...[place]: Placed<At<M, P>>): Promise<Answer<At<M, P>>> =>
    request(method, addressOf(path, place));

const tell =
  <M extends 'POST' | 'PATCH' | 'PUT'>(method: M) =>
  <P extends PathOf<M>>(path: P, body: Body<At<M, P>> | FormData, ...[place]: Placed<At<M, P>>): Promise<Answer<At<M, P>>> =>
    request(method, addressOf(path, place), body ?? {});

/** Requests to the routes of the contract: a path as it stands there, its body, and what fills the path or follows it. */
export const get = ask('GET');
export const post = tell('POST');
export const patch = tell('PATCH');
export const put = tell('PUT');
export const remove = ask('DELETE');
