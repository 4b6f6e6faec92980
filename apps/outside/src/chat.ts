import express, { Router, type Response } from 'express';
import { join } from 'node:path';
import { iso, now } from './clock';
import { button, escape, layout } from './layout';
import { Answers, Store } from './store';

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
}

/** How Maren is, as the others see it. */
interface Presence {
  text: string;
  dnd: boolean;
  until: string | null;
}

interface Chatted {
  presence: Presence;
  seq: number;
  messages: Message[];
  answers: Record<string, unknown>;
}

const CHANNELS = [
  { id: 'field-crew', name: 'Field crew', direct: false },
  { id: 'office', name: 'Office', direct: false },
  { id: 'dm-pia', name: 'Pia Keller', direct: true },
];
const PEOPLE: Record<string, string> = {
  maren: 'Maren Holt',
  jonas: 'Jonas Brandl',
  mina: 'Mina Lund',
  luk: 'Luk Petersen',
  pia: 'Pia Keller',
};
const HOUR = 3_600_000;

function seed(address: string): Chatted {
  const lines: [string, string, string, number, string[]?][] = [
    ['field-crew', 'jonas', 'who left the waders in the hut, they smell like a dead heron', 15.2],
    ['field-crew', 'mina', 'not mine, mine smell worse', 15.1],
    ['field-crew', 'jonas', '@maren can you ask the ferry whether they take the pump on Thursday?', 15, ['maren']],
    ['field-crew', 'mina', 'also the heron says hi', 14.9],
    ['office', 'pia', 'the printer is out of paper again', 6],
    ['field-crew', 'luk', `the signs card is ${address}/tracker/cards/BW-14, @maren please have a look`, 5, ['maren']],
    ['dm-pia', 'pia', 'Could you bring the minibus keys tomorrow?', 2],
  ];
  const messages = lines.map(([channel, by, text, hours, mentions = []], at): Message => ({
    id: `m${at + 1}`,
    seq: at + 1,
    channel,
    thread: null,
    by: { id: by, name: PEOPLE[by] ?? by },
    at: iso(now() - hours * HOUR),
    text,
    mentions,
    reactions: [],
  }));
  return { presence: { text: '', dnd: false, until: null }, seq: messages.length, messages, answers: {} };
}

/** The team's chat: HTTP interface and live stream under /chat/api, and a page on which one posts as somebody. */
export function chat(folder: string, address: string): Router {
  const store = new Store<Chatted>(join(folder, 'chat.json'), () => seed(address));
  const { state } = store;
  const answers = new Answers(state.answers);
  const open = new Set<Response>();
  const router = Router();
  const shown = (message: Message) => ({ ...message, url: `${address}/chat#${message.id}` });
  const tell = () => {
    store.save();
    for (const one of open) one.write(`data: ${state.seq}\n\n`);
  };
  const post = (by: string, channel: string, text: string, thread: string | null = null): Message => {
    state.seq += 1;
    const mentions = Object.keys(PEOPLE).filter((id) => new RegExp(`@${id}\\b`, 'i').test(text));
    const message: Message = {
      id: `m${state.seq}`,
      seq: state.seq,
      channel,
      thread,
      by: { id: by, name: PEOPLE[by] ?? by },
      at: iso(),
      text: text.slice(0, 4000),
      mentions,
      reactions: [],
    };
    state.messages.push(message);
    tell();
    return message;
  };
  const react = (message: Message, name: string, by: string) => {
    if (message.reactions.some((one) => one.name === name && one.by === by)) return;
    state.seq += 1;
    message.reactions.push({ name, by });
    message.seq = state.seq;
    tell();
  };
  const find = (id: string | undefined) => state.messages.find((one) => one.id === id);

  router.use('/api', express.json());
  router.get('/api/me', (_request, response) => void response.json({ id: 'maren', name: 'Maren Holt' }));
  router.get('/api/channels', (_request, response) => void response.json(CHANNELS));
  router.get('/api/messages', (request, response) => {
    const [after, limit] = [Number(request.query['after'] ?? 0), Math.min(500, Number(request.query['limit'] ?? 100))];
    const all = state.messages.filter((one) => one.seq > after).sort((a, b) => a.seq - b.seq);
    const messages = all.slice(0, limit);
    response.json({ messages: messages.map(shown), next: messages.at(-1)?.seq ?? after, more: all.length > limit });
  });
  router.get('/api/messages/:id/around', (request, response) => {
    const message = find(request.params.id);
    const channel = state.messages.filter((one) => one.channel === message?.channel);
    const at = channel.findIndex((one) => one.id === message?.id);
    const count = Number(request.query['count'] ?? 3);
    response.json({ messages: message ? channel.slice(Math.max(0, at - count), at + count + 1).map(shown) : [] });
  });
  router.post('/api/messages/:id/replies', (request, response) => {
    const message = find(request.params.id);
    if (!message) return void response.status(404).json({ error: 'no such message' });
    const { text } = request.body as { text: string };
    response.json(
      answers.once(request.headers['idempotency-key'] as string, () =>
        shown(post('maren', message.channel, text, message.thread ?? message.id)),
      ),
    );
  });
  router.post('/api/messages/:id/reactions', (request, response) => {
    const message = find(request.params.id);
    if (!message) return void response.status(404).json({ error: 'no such message' });
    react(message, (request.body as { name: string }).name, 'maren');
    response.json(shown(message));
  });
  router.put('/api/presence', (request, response) => {
    const { text = '', dnd = false, until = null } = request.body as Partial<Presence>;
    state.presence = { text: text.slice(0, 200), dnd, until };
    store.save();
    response.json(state.presence);
  });
  router.get('/api/stream', (request, response) => {
    response.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store' }).flushHeaders();
    open.add(response);
    const beat = setInterval(() => response.write(': beat\n\n'), 15_000);
    request.on('close', () => {
      clearInterval(beat);
      open.delete(response);
    });
  });

  router.get('/state.json', (_request, response) => void response.json(state));
  router.get('/', (_request, response) => void response.type('html').send(page(state)));
  router.use(express.urlencoded({ extended: false }));
  router.post('/post', (request, response) => {
    const { by = 'jonas', channel = 'field-crew', text = '' } = request.body as Record<string, string>;
    post(by, channel, text);
    response.redirect(303, '/chat');
  });
  router.post('/react', (request, response) => {
    const { id, name = 'keep' } = request.body as Record<string, string>;
    const message = find(id);
    if (message) react(message, name, 'maren');
    response.redirect(303, '/chat');
  });
  return router;
}

function page(state: Chatted): string {
  const options = (entries: [string, string][]) =>
    entries.map(([id, name]) => `<option value="${id}">${escape(name)}</option>`).join('');
  const lines = [...state.messages]
    .sort((a, b) => Date.parse(b.at) - Date.parse(a.at))
    .slice(0, 60)
    .map((one) => {
      const marks = one.reactions.map((mark) => `[${escape(mark.name)}]`).join(' ');
      return `<li id="${one.id}"><b>${escape(one.by.name)}</b> <span class="soft">${escape(one.channel)}${one.thread ? ', reply' : ''}</span> ${escape(one.text)} ${marks} ${button('/chat/react', 'Maren keeps it', { id: one.id, name: 'keep' })}</li>`;
    });
  return layout(
    'Chat',
    `<p>${sayPresence(state.presence)}</p><p>Corvun reads it at this address + <code>/chat</code>. <code>@maren</code> addresses Maren; the button is Maren marking a message for herself.</p>
<form method="post" action="/chat/post"><label>As<select name="by">${options(Object.entries(PEOPLE).filter(([id]) => id !== 'maren'))}</select></label><label>In<select name="channel">${options(CHANNELS.map((one) => [one.id, one.name]))}</select></label><label>Text<input name="text" required></label><button>Post</button></form><ul>${lines.join('')}</ul>`,
  );
}

/** A folder of before has none. */
const sayPresence = (presence: Presence | undefined): string =>
  presence?.text
    ? `Maren Holt: <b>${escape(presence.text)}</b>${presence.dnd ? ', do not disturb' : ''}`
    : 'Maren Holt does not say how she is.';
