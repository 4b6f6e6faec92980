import { Inject, Injectable } from '@nestjs/common';
import type { SourceLook } from '@corvun/contract';
import { count } from '@corvun/core';
import { ImapFlow, type FetchMessageObject, type ListResponse } from 'imapflow';
import { isIP } from 'node:net';
import { CONFIG, type Config } from '../base/config';
import { Intake } from '../incoming/intake.service';
import type { Adapter, Reach, Step } from './adapter';
import { addressOfHost } from './host-address';
import { isPrivate } from './outside-http';
import type { OutboxEntry } from './outbox.entity';
import { SourceProblem, sentenceOf } from './problem';

const PAGE = 40;
/** Mails looked at in the folder of what was sent. */
const LATEST_SENT = 30;
const DAY = 86_400_000;
const ANSWER_TIME = 8000;
const NOT_READ = new Set(['\\Sent', '\\Drafts', '\\Trash', '\\Junk', '\\All']);
const MAX_SIZE = 50 * 1024 * 1024;

interface Folder {
  path: string;
  chosen: boolean;
}

/** A mailbox read over IMAP (RFC 9051). Nothing in it is changed but what the user asks for after deciding. */
@Injectable()
export class MailboxAdapter implements Adapter {
  readonly kind = 'mailbox';
  readonly every = 60;
  readonly defaults = { folders: [], unreadOnly: false, days: 30, moveTo: null };

  constructor(
    @Inject(CONFIG) private readonly config: Config,
    private readonly intake: Intake,
  ) {}

  look(reach: Reach): Promise<SourceLook> {
    return this.connected(reach, async (client) => {
      const folders = await this.folders(client, reach);
      const look: SourceLook = { choices: [], total: 0, matching: 0, sentence: '', sample: [], settings: reach.source.settings };
      for (const { path, chosen } of folders) {
        const status = await client.status(path, { messages: true });
        const messages = status ? (status.messages ?? 0) : 0;
        look.total += messages;
        look.choices.push({ id: path, name: path, count: messages, chosen });
        if (!chosen || !messages) continue;
        await client.mailboxOpen(path, { readOnly: true });
        const found = await client.search(this.query(reach), { uid: true });
        const uids = found || [];
        look.matching += uids.length;
        if (!uids.length || look.sample.length >= 5) continue;
        for await (const one of client.fetch(uids.slice(-5).join(','), { envelope: true }, { uid: true }))
          if (look.sample.length < 5) look.sample.push(one.envelope?.subject ?? 'No subject');
      }
      look.settings = { ...reach.source.settings, folders: folders.filter((one) => one.chosen).map((one) => one.path) };
      look.sentence = `${look.matching} of ${count(look.total, 'message')}: in your folders, of the last ${reach.source.settings.days ?? 30} days`;
      return look;
    });
  }

  async *steps(reach: Reach): AsyncGenerator<Step> {
    const client = await this.connect(reach);
    try {
      const cursor = { ...reach.source.cursor } as Record<string, { validity: string; uid: number }>;
      const progress = { done: 0, total: 0 };
      const own = await this.ownAddresses(client, reach);
      for (const { path } of (await this.folders(client, reach)).filter((one) => one.chosen)) {
        const opened = await client.mailboxOpen(path, { readOnly: true });
        const validity = String(opened.uidValidity);
        // Another UIDVALIDITY means that old UIDs mean nothing any more (RFC 9051, 2.3.1.1); Message-IDs still tell what is known.
        const after = cursor[path]?.validity === validity ? cursor[path].uid : 0;
        if (Number(opened.uidNext) <= after + 1) continue;
        const found = (await client.search({ ...this.query(reach), uid: `${after + 1}:*` }, { uid: true })) || [];
        const uids = found.filter((uid) => uid > after).sort((a, b) => a - b);
        progress.total += uids.length;
        for (let at = 0; at < uids.length || at === 0; at += PAGE) {
          const page = uids.slice(at, at + PAGE);
          const bytes = page.length ? await this.fetch(client, own, page) : [];
          const last = at + PAGE >= uids.length ? Math.max(after, Number(opened.uidNext) - 1) : (page.at(-1) ?? after);
          cursor[path] = { validity, uid: last };
          progress.done += page.length;
          const write = await this.intake.writer(reach.user, bytes, reach.source);
          yield { write: async (work) => void (await write(work)), cursor: { ...cursor }, ...progress };
        }
      }
    } catch (problem) {
      throw asProblem(problem, reach.source.name);
    } finally {
      client.close();
    }
  }

  /**
   * The addresses the user writes from: what they wrote themselves does not come in. A login is often no address, so the
   * latest mails in the folder of what was sent tell.
   */
  private async ownAddresses(client: ImapFlow, { user, source }: Reach): Promise<Set<string>> {
    const own = new Set([user.email, source.account, ...(user.settings.addresses ?? [])].map((one) => one.toLowerCase()));
    const sent = (await client.list()).find((one) => one.specialUse === '\\Sent');
    if (!sent) return own;
    const { exists } = await client.mailboxOpen(sent.path, { readOnly: true });
    if (!exists) return own;
    for await (const one of client.fetch(`${Math.max(1, exists - LATEST_SENT + 1)}:*`, { envelope: true }))
      for (const { address } of one.envelope?.from ?? []) if (address) own.add(address.toLowerCase());
    return own;
  }

  private async fetch(client: ImapFlow, own: Set<string>, uids: number[]): Promise<Buffer[]> {
    const small: number[] = [];
    for await (const one of client.fetch(uids.join(','), { uid: true, size: true, flags: true, envelope: true }, { uid: true }))
      if (isWanted(one, own)) small.push(one.uid);
    if (!small.length) return [];
    const all: Buffer[] = [];
    for await (const one of client.fetch(small.join(','), { uid: true, source: true }, { uid: true }))
      if (one.source) all.push(one.source);
    return all;
  }

  /** Moves a decided mail to the user's folder, or back. */
  send(reach: Reach, entry: OutboxEntry): Promise<void> {
    const { messageId, to } = entry.payload as { messageId: string; to: string };
    return this.connected(reach, async (client) => {
      const folders = await this.folders(client, reach);
      if (!folders.some((one) => one.path === to)) await client.mailboxCreate(to);
      for (const { path } of folders.filter((one) => one.path !== to)) {
        await client.mailboxOpen(path);
        const found = (await client.search({ header: { 'message-id': messageId } }, { uid: true })) || [];
        if (found.length) await client.messageMove(found.join(','), to, { uid: true });
      }
    });
  }

  private query({ source, now }: Reach) {
    const { days = 30, unreadOnly } = source.settings;
    return { deleted: false, draft: false, since: new Date(now - days * DAY), ...(unreadOnly ? { seen: false } : {}) };
  }

  private async folders(client: ImapFlow, { source }: Reach): Promise<Folder[]> {
    const all: ListResponse[] = await client.list();
    const usable = all.filter((one) => !one.flags.has('\\Noselect') && !one.flags.has('\\NonExistent'));
    const chosen = source.settings.folders ?? [];
    return usable.map((one) => ({
      path: one.path,
      chosen: chosen.length
        ? chosen.includes(one.path)
        : one.path.toUpperCase() === 'INBOX' && !NOT_READ.has(one.specialUse ?? ''),
    }));
  }

  private async connected<T>(reach: Reach, work: (client: ImapFlow) => Promise<T>): Promise<T> {
    const client = await this.connect(reach);
    try {
      return await work(client);
    } catch (problem) {
      throw asProblem(problem, reach.source.name);
    } finally {
      client.close();
    }
  }

  private async connect({ source, secret, signal }: Reach): Promise<ImapFlow> {
    const { host, port, secure } = addressOf(source.address);
    const address = await addressOfHost(host, this.config.allowPrivate);
    const client = new ImapFlow({
      // The address that was looked at, and no other: a name can point elsewhere when it is asked again.
      host: address,
      port,
      secure,
      ...(isIP(host) ? {} : { servername: host }),
      auth: { user: source.account, pass: secret },
      logger: false,
      connectionTimeout: ANSWER_TIME,
      greetingTimeout: ANSWER_TIME,
      socketTimeout: ANSWER_TIME * 3,
      disableAutoIdle: true,
      // A stand-in or a server in the same house rarely has a certificate that others know.
      tls: { rejectUnauthorized: !isPrivate(address), ...(isIP(host) ? {} : { servername: host }) },
    });
    client.on('error', () => undefined);
    signal.addEventListener('abort', () => client.close(), { once: true });
    const tooLate = new Promise<never>((_, reject) =>
      setTimeout(
        () => reject(new SourceProblem(`${source.name} did not answer within ${ANSWER_TIME / 1000} seconds.`)),
        ANSWER_TIME,
      ).unref(),
    );
    try {
      await Promise.race([client.connect(), tooLate]);
      return client;
    } catch (problem) {
      client.close();
      throw asProblem(problem, source.name);
    }
  }
}

/** Flags are respected: deleted mail and drafts stay out, and so does what the user sent. */
function isWanted({ flags, envelope, size }: FetchMessageObject, own: Set<string>): boolean {
  if (flags?.has('\\Deleted') || flags?.has('\\Draft') || (size ?? 0) > MAX_SIZE) return false;
  return !own.has(envelope?.from?.[0]?.address?.toLowerCase() ?? '');
}

function addressOf(address: string): { host: string; port: number; secure: boolean } {
  const match = /^(?:(imaps?):\/\/)?(\[[^\]]+\]|[^:/\s]+)(?::(\d{1,5}))?\/?$/i.exec(address.trim());
  if (!match) throw new SourceProblem('Write the address of the mailbox as host, host:port, or imaps://host:port.', 'refused');
  const port = Number(match[3] ?? 0);
  const secure = match[1] ? match[1].toLowerCase() === 'imaps' : port !== 143;
  return { host: (match[2] ?? '').replace(/^\[|\]$/g, ''), port: port || (secure ? 993 : 143), secure };
}

function asProblem(problem: unknown, name: string): SourceProblem {
  if (problem instanceof SourceProblem) return problem;
  const failed = problem as { authenticationFailed?: boolean; responseText?: string } | null;
  if (failed?.authenticationFailed) return new SourceProblem(`${name} does not accept the name and password.`, 'refused');
  if (failed?.responseText) return new SourceProblem(`${name} answered: ${failed.responseText.slice(0, 200)}.`);
  return new SourceProblem(sentenceOf(problem, name));
}
