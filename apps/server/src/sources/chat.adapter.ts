import { Injectable } from '@nestjs/common';
import type { SourceLook, SourceSettings } from '@corvun/contract';
import { count } from '@corvun/core';
import { In } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { blankIncoming } from '../decisions/blanks';
import { Kernel, bySource } from '../kernel/kernel.service';
import type { Work } from '../kernel/work';
import { Incoming } from '../incoming/incoming.entity';
import type { ReadFields } from '../incoming/reading';
import { JoinService } from '../incoming/join.service';
import { ReadingPool } from '../reading/reading-pool.service';
import type { Adapter, Reach, Step } from './adapter';
import { OutsideHttp } from './outside-http';
import { OutboxEntry } from './outbox.entity';
import { notePresence, presenceThere } from './presence-there';
import { SourceProblem } from './problem';
import type { Source } from './source.entity';

interface Channel {
  id: string;
  name: string;
  direct: boolean;
}

interface Message {
  id: string;
  seq: number;
  channel: string;
  thread: string | null;
  by: { id: string; name: string };
  at: string;
  text: string;
  mentions: string[];
  reactions: { name: string; by: string }[];
  url: string;
}

interface MessagePage {
  messages: Message[];
  next: number;
  more: boolean;
}

type Face = ReadFields & Pick<Incoming, 'subject' | 'text' | 'context'>;
type Picked = { message: Message; why: string; face: Face };

const PAGE = 200;
const AROUND = 3;
const DAY = 86_400_000;
const DEFAULT_DAYS = 14;
const STREAM_TOTAL = 3_600_000;
const STREAM_IDLE = 60_000;

/** A team chat: channels and direct messages. What it must understand over HTTP is in docs/sources/chat.md. */
@Injectable()
export class ChatAdapter implements Adapter {
  readonly kind = 'chat';
  readonly every = 120;
  readonly defaults = {
    mark: 'keep',
    direct: true,
    words: [],
    channels: [],
    decidedMark: '',
    presence: false,
    days: DEFAULT_DAYS,
  };

  constructor(
    private readonly http: OutsideHttp,
    private readonly joins: JoinService,
    private readonly reading: ReadingPool,
    private readonly kernel: Kernel,
  ) {}

  async look(reach: Reach): Promise<SourceLook> {
    const [me, channels] = [await this.me(reach), await this.channels(reach)];
    const look: SourceLook = { choices: [], total: 0, matching: 0, sentence: '', sample: [], settings: reach.source.settings };
    const counts = new Map<string, number>();
    for await (const { messages } of this.pages(reach, 0)) {
      for (const message of messages) {
        look.total += 1;
        counts.set(message.channel, (counts.get(message.channel) ?? 0) + 1);
        if (!whyOf(message, me.id, channels, reach)) continue;
        look.matching += 1;
        if (look.sample.length < 5) look.sample.push(`${message.by.name}: ${message.text.slice(0, 80)}`);
      }
    }
    const chosen = new Set(reach.source.settings.channels);
    look.choices = [...channels.values()].map(({ id, name }) => ({
      id,
      name,
      count: counts.get(id) ?? 0,
      chosen: !chosen.size || chosen.has(id),
    }));
    look.sentence = `${look.matching} of ${count(look.total, 'message')}: to you, marked by you, or with one of your words`;
    return look;
  }

  async *steps(reach: Reach): AsyncGenerator<Step> {
    const [me, channels] = [await this.me(reach), await this.channels(reach)];
    let done = 0;
    for await (const page of this.pages(reach, Number(reach.source.cursor['seq'] ?? 0))) {
      const picked: Picked[] = [];
      for (const message of page.messages) {
        const why = whyOf(message, me.id, channels, reach);
        if (!why) continue;
        const { messages } = await this.get<MessagePage>(
          reach,
          `/api/messages/${encodeURIComponent(message.id)}/around?count=${AROUND}`,
        );
        picked.push({ message, why, face: await this.faceOf(message, messages.filter(isMessage), reach.user) });
      }
      done += page.messages.length;
      yield { write: (work) => this.write(work, reach, channels, picked), cursor: { seq: page.next }, done, total: null };
    }
  }

  /** How a message is shown, with what is read in it. */
  private async faceOf(message: Message, context: Message[], user: User): Promise<Face> {
    const text = message.text.slice(0, 50_000);
    const subject = text.split('\n')[0]?.slice(0, 120) ?? '';
    const from = { name: message.by.name, address: '' };
    const marks = { bulk: false, invitation: false, names: [user.name.split(' ')[0] ?? user.name] };
    return {
      subject,
      text,
      context: context.map((one) => ({
        who: one.by.name,
        at: Date.parse(one.at),
        text: one.text.slice(0, 4000),
        itself: one.id === message.id,
      })),
      ...(await this.reading.facts(text, subject, from, Date.parse(message.at) || 0, user.zone, marks)),
    };
  }

  private async write(work: Work, { source, user, now }: Reach, channels: Map<string, Channel>, picked: Picked[]): Promise<void> {
    const rows = await work.manager.findBy(Incoming, {
      ownerId: user.id,
      source: source.id,
      externalId: In(picked.map((one) => one.message.id)),
    });
    const known = new Map(rows.map((row) => [row.externalId, row]));
    for (const { message, why, face } of picked) {
      const row = known.get(message.id);
      if (row) {
        if (row.state === 'waiting' && row.text !== message.text) await work.update('incoming', row, face);
        continue;
      }
      const incoming = await work.insert('incoming', {
        ...blankIncoming(),
        source: source.id,
        sourceId: source.id,
        externalId: message.id,
        kind: 'chat',
        senderName: message.by.name.slice(0, 200),
        senderAddress: `${message.by.id.toLowerCase()}@chat.${source.id}`,
        received: Math.min(Date.parse(message.at) || now, now),
        written: Date.parse(message.at) || null,
        threadKey: `chat:${source.id}:${message.thread ?? message.id}`,
        originalSize: message.text.length,
        link: /^https?:\/\//.test(message.url) ? message.url : '',
        note: `${channels.get(message.channel)?.name ?? 'chat'}, ${why}`,
        ...face,
      });
      await this.joins.byLink(work, [incoming]);
    }
  }

  async send(reach: Reach, entry: OutboxEntry): Promise<void> {
    if (entry.kind === 'presence') return this.sendPresence(reach, entry);
    const { message, text, mark } = entry.payload as { message: string; text?: string; mark?: string };
    const at = `/api/messages/${encodeURIComponent(message)}`;
    if (entry.kind === 'reply') await this.ask(reach, 'POST', `${at}/replies`, { text }, entry.id);
    else await this.ask(reach, 'POST', `${at}/reactions`, { name: mark }, entry.id);
  }

  private async sendPresence(reach: Reach, { id }: OutboxEntry): Promise<void> {
    const { result } = await this.kernel.transact(bySource(reach.user.id, reach.source.id), async (work) => {
      const payload = { ...(await presenceThere(work, reach.source.id)) };
      await work.manager.update(OutboxEntry, { id }, { payload } as object);
      return payload;
    });
    await this.ask(reach, 'PUT', '/api/presence', result);
  }

  async leave(reach: Reach): Promise<void> {
    if (reach.source.settings.presence) await this.ask(reach, 'PUT', '/api/presence', { text: '', dnd: false, until: null });
  }

  /** What one shows may have changed while it was under way. */
  async again(work: Work, source: Source, { id, kind }: OutboxEntry): Promise<void> {
    if (kind !== 'presence') return;
    const { payload } = await work.manager.findOneByOrFail(OutboxEntry, { id });
    const shown = await presenceThere(work, source.id);
    if (shown.text !== payload['text'] || shown.dnd !== payload['dnd']) await notePresence(work, source, shown);
  }

  /** Keeps the live stream open; every event on it is news. */
  async listen(reach: Reach, news: () => void): Promise<void> {
    const limits = { total: STREAM_TOTAL, idle: STREAM_IDLE };
    const answer = await this.http.ask(`${base(reach)}/api/stream`, {
      signal: reach.signal,
      limits,
      headers: { ...auth(reach), Accept: 'text/event-stream' },
    });
    this.http.refuse(answer, reach.source.name);
    for await (const chunk of answer.body as AsyncIterable<Buffer>) if (chunk.includes('data:')) news();
  }

  private async channels(reach: Reach): Promise<Map<string, Channel>> {
    const all = await this.get<Channel[]>(reach, '/api/channels');
    if (!Array.isArray(all)) throw new SourceProblem(`${reach.source.name} sent its channels in a form that cannot be read.`);
    return new Map(all.map((one) => [one.id, one]));
  }

  private async *pages(reach: Reach, after: number): AsyncGenerator<MessagePage> {
    let cursor = after;
    for (;;) {
      const page = await this.get<MessagePage>(reach, `/api/messages?after=${cursor}&limit=${PAGE}`);
      if (!Array.isArray(page?.messages) || !page.messages.every(isMessage) || typeof page.next !== 'number')
        throw new SourceProblem(`${reach.source.name} sent messages in a form that cannot be read.`);
      if (page.messages.length) yield page;
      if (!page.more || page.next <= cursor) return;
      cursor = page.next;
    }
  }

  private me = (reach: Reach) => this.get<{ id: string; name: string }>(reach, '/api/me');
  private get = <T>(reach: Reach, path: string) => this.ask<T>(reach, 'GET', path);

  private ask<T>(reach: Reach, method: string, path: string, body?: unknown, key = ''): Promise<T> {
    return this.http.json<T>(`${base(reach)}${path}`, {
      method,
      signal: reach.signal,
      ...(body === undefined ? {} : { body }),
      headers: { ...auth(reach), ...(key ? { 'Idempotency-Key': key } : {}) },
    });
  }
}

const base = ({ source }: Reach) => source.address.replace(/\/+$/, '');
const auth = ({ secret }: Reach): Record<string, string> => (secret ? { Authorization: `Bearer ${secret}` } : {});

/** Why a message comes in; null when it stays where it is. */
function whyOf(message: Message, me: string, channels: Map<string, Channel>, { source, now }: Reach): string | null {
  const { mark, direct, words, channels: chosen, days }: SourceSettings = source.settings;
  // What one marks for oneself comes in even when it is old or one's own.
  if (mark && message.reactions.some((one) => one.name === mark && one.by === me)) return 'marked by you';
  if (message.by.id === me || Date.parse(message.at) < now - (days ?? DEFAULT_DAYS) * DAY) return null;
  if (message.mentions.includes(me)) return 'addressed to you';
  if (direct && channels.get(message.channel)?.direct) return 'sent to you alone';
  const heard = !chosen?.length || chosen.includes(message.channel);
  const text = message.text.toLowerCase();
  const word = heard ? words?.find((one) => one.trim() && text.includes(one.trim().toLowerCase())) : undefined;
  return word ? `says “${word}”` : null;
}

function isMessage(value: unknown): value is Message {
  const one = value as Partial<Message> | null;
  return (
    typeof one?.id === 'string' &&
    typeof one.text === 'string' &&
    typeof one.seq === 'number' &&
    typeof one.by?.name === 'string' &&
    typeof one.by.id === 'string' &&
    Array.isArray(one.mentions) &&
    Array.isArray(one.reactions)
  );
}
