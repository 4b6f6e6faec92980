import type { Answer, ApiError, Body, Place, Route } from '@corvun/contract';
import { addressOf } from '@corvun/contract/address';
import { readFileSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { Readable } from 'node:stream';
import { Refused } from './usage';

export interface ServerOptions {
  json?: boolean;
  server?: string;
  token?: string;
}

/** Speaks to a running server, with the token given, named in the environment, or of the demo. */
export class Client {
  private readonly base: string;
  private readonly token: string;

  constructor({ server, token }: ServerOptions) {
    const { CORVUN_URL, CORVUN_TOKEN, PORT } = process.env;
    this.base = (server || CORVUN_URL || `http://127.0.0.1:${PORT ?? 4600}`).replace(/\/+$/, '');
    // An empty variable means that none is set.
    this.token = token || CORVUN_TOKEN || demoToken();
  }

  /** A client where there is a token for one; null otherwise. */
  static ifPossible(options: ServerOptions): Client | null {
    try {
      return new Client(options);
    } catch {
      return null;
    }
  }

  /** Whether a server answers there. */
  answers(): Promise<boolean> {
    return fetch(`${this.base}/api/health`).then(
      (response) => response.ok,
      () => false,
    );
  }

  /** A file, as a stream. @throws Refused */
  async download(path: string): Promise<Readable> {
    const response = await fetch(`${this.base}/api${path}`, { headers: { Authorization: `Bearer ${this.token}` } }).catch(() => {
      throw new Refused(`No server answers at ${this.base}.`);
    });
    if (!response.ok || !response.body) {
      const answer = (await response.json().catch(() => null)) as { error?: { message?: string } } | null;
      throw new Refused(answer?.error?.message ?? `The server answered ${response.status}.`);
    }
    return Readable.fromWeb(response.body as Parameters<typeof Readable.fromWeb>[0]);
  }

  /** Asks a route of the contract. @throws Refused with the server's own sentence */
  async request<R extends Route>(route: R, place: Place<R>, body?: Body<R> | FormData): Promise<Answer<R>> {
    const [method = 'GET', path = ''] = route.split(' ');
    const form = body instanceof FormData;
    let response: Response;
    try {
      response = await fetch(`${this.base}/api${addressOf(path, place)}`, {
        method,
        headers: {
          Authorization: `Bearer ${this.token}`,
          ...(body === undefined || form ? {} : { 'Content-Type': 'application/json' }),
        },
        ...(body === undefined ? {} : { body: form ? body : JSON.stringify(body) }),
      });
    } catch {
      throw new Refused(`No server answers at ${this.base}. Start one with npm start, or say where it is with --server.`);
    }
    const answer = (await response.json().catch(() => null)) as Partial<ApiError> | null;
    if (!response.ok) throw new Refused(answer?.error?.message ?? `The server answered ${response.status}.`);
    return withoutChanges(answer) as Answer<R>;
  }
}

/** What a request changed is for windows that keep a copy; what a command prints is the answer alone. */
function withoutChanges(answer: object | null): object | null {
  if (!answer || Array.isArray(answer)) return answer;
  const { changed: _changed, ...rest } = answer as { changed?: unknown };
  return rest;
}

/** The data folder: `CORVUN_DATA`, else `data` beside the program. */
export function dataFolder(): string {
  return resolve(process.env['CORVUN_DATA'] || join(process.env['CORVUN_HOME'] ?? process.cwd(), 'data'));
}

function demoToken(): string {
  try {
    return readFileSync(join(dataFolder(), 'demo-token'), 'utf8').trim();
  } catch {
    throw new Refused('There is no token: say --token, set CORVUN_TOKEN, or start the demo with npm start.');
  }
}
