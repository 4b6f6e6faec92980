import { homedir, hostname } from 'node:os';
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
  /** Names this server is reached under, besides addresses and localhost: a foreign name that is pointed here is refused. */
  hosts: string[];
  /** Domain of the addresses to which mail is sent to be captured. */
  captureDomain: string;
  /** The address people type where something in front of it does TLS, for example `https://corvun.alderfen.example`. */
  origin: string | null;
  /** Milliseconds that reading one thing that arrived may take, and megabytes it may use. */
  readTime: number;
  readMemory: number;
  /** Where the stand-ins of the demo are; null without them. */
  outside: string | null;
  /** Where the weather is asked for; null: none is shown. */
  weather: string | null;
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
  const host = env['HOST'] ?? '127.0.0.1';
  const origin = env['CORVUN_ORIGIN'] ? namedOrigin(env['CORVUN_ORIGIN']) : null;
  const number = (name: string, fallback: number) => {
    const value = env[name] ? Number(env[name]) : fallback;
    if (!Number.isInteger(value) || value < 1) throw new ConfigError(`${name} is "${env[name]}", which is not a whole number.`);
    return value;
  };
  return {
    hosts: [...(env['CORVUN_HOSTS'] ?? '').split(','), host, hostname(), origin ? new URL(origin).hostname : '']
      .map((name) => name.trim().toLowerCase())
      .filter(Boolean),
    origin,
    captureDomain: domainOf(env['CORVUN_CAPTURE_DOMAIN'] || 'capture.example'),
    readTime: number('CORVUN_READ_TIME', 20_000),
    readMemory: number('CORVUN_READ_MEMORY', 400),
    host,
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
    weather: env['CORVUN_WEATHER'] || (env['CORVUN_OUTSIDE'] ? `${env['CORVUN_OUTSIDE']}/weather` : null),
  };
}

function domainOf(text: string): string {
  if (/^(?=.{1,253}$)[a-z0-9-]{1,63}(?:\.[a-z0-9-]{1,63})*$/i.test(text)) return text.toLowerCase();
  throw new ConfigError(`CORVUN_CAPTURE_DOMAIN is "${text}", which is no domain; write it like capture.alderfen.example.`);
}

function namedOrigin(text: string): string {
  try {
    const { protocol, origin } = new URL(text);
    if (/^https?:$/.test(protocol)) return origin;
  } catch {
    // Said below.
  }
  throw new ConfigError(`CORVUN_ORIGIN is "${text}"; write it like https://corvun.alderfen.example.`);
}

/**
 * The address of this server for whoever is sent one by mail: as it was named, else where it was told to listen. Never as a
 * request names it: whoever asks writes that.
 * @param port at which it listens, where the system chose it
 */
export function originOf({ origin, host, port }: Pick<Config, 'origin' | 'host' | 'port'>, listening = port): string {
  const name = ['0.0.0.0', '::'].includes(host) ? hostname() : host.includes(':') ? `[${host}]` : host;
  return origin ?? `http://${name}:${port || listening}`;
}

export const CONFIG = Symbol('config');
