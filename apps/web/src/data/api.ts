import type { ApiError, ChangedByRequest } from '@corvun/contract';
import { ledger } from './ledger';

/** A refused or failed request; `message` is a sentence for the user. */
export class RequestError extends Error {
  constructor(
    readonly status: number,
    readonly code: string,
    message: string,
    readonly fields: Record<string, string> = {},
  ) {
    super(message);
  }
}

const OFFLINE = 'Corvun’s server does not answer. Nothing is lost; what you see may be old. Trying again.';

/** Sends a request to the API and reads the answer; what it changed is applied. @throws RequestError */
export async function request<T>(method: string, path: string, body?: unknown): Promise<T> {
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
  let response: Response;
  try {
    response = await fetch(`/api${path}`, {
      method,
      credentials: 'same-origin',
      headers: body === undefined || form ? {} : { 'Content-Type': 'application/json' },
      body: body === undefined ? null : form ? body : JSON.stringify(body),
    });
  } catch {
    throw new RequestError(0, 'offline', OFFLINE);
  }
  if (response.status === 204) return undefined as T;
  const answer = (await response.json().catch(() => null)) as unknown;
  if (response.ok) return answer as T;
  const error = (answer as ApiError | null)?.error;
  throw new RequestError(
    response.status,
    error?.code ?? 'failed',
    error?.message ?? 'The server answered with an error. Nothing was changed.',
    error?.fields,
  );
}

export const get = <T>(path: string): Promise<T> => request<T>('GET', path);
export const post = <T>(path: string, body: unknown = {}): Promise<T> => request<T>('POST', path, body);
export const patch = <T>(path: string, body: unknown): Promise<T> => request<T>('PATCH', path, body);
export const remove = <T>(path: string): Promise<T> => request<T>('DELETE', path);
