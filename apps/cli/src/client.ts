import { readFileSync } from 'node:fs';
import { join } from 'node:path';
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

  /** @throws Refused with the server's own sentence */
  async request<T>(method: string, path: string, body?: unknown): Promise<T> {
    const form = body instanceof FormData;
    let response: Response;
    try {
      response = await fetch(`${this.base}/api${path}`, {
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
    const answer = (await response.json().catch(() => null)) as { error?: { message?: string } } | null;
    if (!response.ok) throw new Refused(answer?.error?.message ?? `The server answered ${response.status}.`);
    return answer as T;
  }
}

function demoToken(): string {
  const home = process.env['CORVUN_HOME'] ?? process.cwd();
  try {
    return readFileSync(join(process.env['CORVUN_DATA'] ?? join(home, 'data'), 'demo-token'), 'utf8').trim();
  } catch {
    throw new Refused('There is no token: say --token, set CORVUN_TOKEN, or start the demo with npm start.');
  }
}
