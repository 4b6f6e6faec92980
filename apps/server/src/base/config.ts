import { homedir } from 'node:os';
import { delimiter, resolve } from 'node:path';

/** Everything that is set from outside, read once. */
export interface Config {
  host: string;
  port: number;
  smtpPort: number;
  data: string;
  /** Demo data and the demo sign-in. Never in `serve`. */
  demo: boolean;
  demoSize: 'demo' | 'large';
  fixedNow: number | null;
  webRoot: string | null;
  /** Sources may lie at private addresses: the demo's stand-ins do. */
  allowPrivate: boolean;
  /** Folders below which a notes folder may lie. */
  folders: string[];
  /** Where outgoing mail is handed over: `smtp://[user:password@]host:port`; null when nothing can be sent. */
  mailOut: string | null;
  /** Where the stand-ins of the demo are; null without them. */
  outside: string | null;
}

/** A variable that holds nonsense; the message is a sentence for whoever started Corvun. */
export class ConfigError extends Error {}

/** @throws ConfigError */
export function readConfig(env: NodeJS.ProcessEnv): Config {
  const port = (name: string, fallback: number) => {
    const value = env[name] ? Number(env[name]) : fallback;
    if (!Number.isInteger(value) || value < 0 || value > 65535)
      throw new ConfigError(`${name} is "${env[name]}", which is not a port number.`);
    return value;
  };
  const fixedNow = env['CORVUN_NOW'] ? Date.parse(env['CORVUN_NOW']) : null;
  if (Number.isNaN(fixedNow)) throw new ConfigError(`CORVUN_NOW is "${env['CORVUN_NOW']}", which is not an ISO 8601 time.`);
  const size = env['CORVUN_SIZE'] ?? 'demo';
  if (size !== 'demo' && size !== 'large') throw new ConfigError(`CORVUN_SIZE is "${size}"; it can be demo or large.`);
  return {
    host: env['HOST'] ?? '127.0.0.1',
    port: port('PORT', 4600),
    smtpPort: port('SMTP_PORT', 4625),
    data: resolve(env['CORVUN_DATA'] ?? './data'),
    demo: env['CORVUN_DEMO'] === '1',
    demoSize: size,
    fixedNow,
    webRoot: env['CORVUN_WEB'] ? resolve(env['CORVUN_WEB']) : null,
    allowPrivate: env['CORVUN_ALLOW_PRIVATE'] === '1',
    folders: (env['CORVUN_FOLDERS'] ?? homedir())
      .split(delimiter)
      .filter(Boolean)
      .map((one) => resolve(one)),
    mailOut: env['CORVUN_MAIL_OUT'] || null,
    outside: env['CORVUN_OUTSIDE'] || null,
  };
}

export const CONFIG = Symbol('config');
