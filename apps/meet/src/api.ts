import type { ApiError, TimeStretch } from '@corvun/contract';

/** What was refused, with what is said about fields and the times that are left. */
export class Refused extends Error {
  constructor(
    readonly code: string,
    message: string,
    readonly fields: Record<string, string>,
    readonly left: TimeStretch[] | null,
  ) {
    super(message);
  }
}

/** Asks the server. @throws Refused with a sentence */
export async function ask<T>(path: string, method = 'GET', body?: object): Promise<T> {
  let response: Response;
  try {
    response = await fetch(`/api/public${path}`, {
      method,
      ...(body ? { headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) } : {}),
    });
  } catch {
    throw new Refused('offline', 'The server cannot be reached just now. Nothing was sent.', {}, null);
  }
  const answer = (await response.json().catch(() => null)) as (T & Partial<ApiError>) | null;
  if (response.ok && answer) return answer;
  const { code = 'failed', message = 'Something went wrong. Try again in a while.', fields = {}, present } = answer?.error ?? {};
  throw new Refused(code, message, fields, (present as { slots?: TimeStretch[] } | undefined)?.slots ?? null);
}
