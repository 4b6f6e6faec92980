import express, { Router, type Request, type Response } from 'express';
import { join } from 'node:path';
import { iso, workday } from './clock';
import { button, escape, layout } from './layout';
import { Answers, Store } from './store';

interface Card {
  id: string;
  board: string;
  title: string;
  text: string;
  status: string;
  assignee: string | null;
  labels: string[];
  estimate: number | null;
  due: string | null;
  checklist: { id: string; text: string; done: boolean }[];
  comments: { by: string; at: string; text: string }[];
  rev: number;
  changed: string;
  deleted?: boolean;
}

interface Tracked {
  rev: number;
  cards: Card[];
  time: { card: string; entry: string; minutes: number; at: string }[];
  answers: Record<string, unknown>;
  /** How the tracker behaves: well, or not. */
  mood: 'well' | 'error' | 'busy' | 'half' | 'silent';
}

export const BOARDS = [
  {
    id: 'boardwalk',
    name: 'Boardwalk board',
    statuses: [
      { id: 'idea', name: 'Idea' },
      { id: 'ready', name: 'Ready' },
      { id: 'building', name: 'Building' },
      { id: 'built', name: 'Built' },
    ],
  },
  {
    id: 'volunteers',
    name: 'Volunteer board',
    statuses: [
      { id: 'open', name: 'Open' },
      { id: 'asked', name: 'Asked' },
      { id: 'finished', name: 'Finished' },
    ],
  },
];
const MAREN = 'maren';

function seed(size: number): Tracked {
  const card = (id: string, board: string, title: string, more: Partial<Card>): Card => ({
    id,
    board,
    title,
    text: '',
    status: 'ready',
    assignee: MAREN,
    labels: [],
    estimate: null,
    due: null,
    checklist: [],
    comments: [],
    rev: 0,
    changed: iso(),
    ...more,
  });
  const cards = [
    card('BW-12', 'boardwalk', 'Order larch decking, 48 m', {
      text: 'Profile 28 x 145 mm. The north gate is open from 7:00.',
      estimate: 45,
      due: workday(6),
      labels: ['site'],
      checklist: [
        { id: 'a', text: 'Confirm the profile with the contractor', done: false },
        { id: 'b', text: 'Order with delivery to the north gate', done: false },
      ],
    }),
    card('BW-14', 'boardwalk', 'Close section C with fence', {
      text: 'The fence is up, the sign is missing.',
      estimate: 15,
      comments: [{ by: 'Jonas Brandl', at: iso(), text: 'Maren, can you print two signs A3?' }],
    }),
    card('BW-15', 'boardwalk', 'Choose the handrail', { status: 'idea' }),
    card('BW-16', 'boardwalk', 'Set the posts of section B', { assignee: 'jonas', status: 'building' }),
    card('BW-9', 'boardwalk', 'Measure section C', { status: 'built' }),
    card('VB-3', 'volunteers', 'Write to last year’s helpers', {
      status: 'open',
      estimate: 60,
      due: workday(9),
      labels: ['write'],
    }),
    card('VB-4', 'volunteers', 'Borrow tents', { status: 'open', assignee: 'pia' }),
    card('VB-1', 'volunteers', 'Fix the dates', { status: 'finished' }),
  ];
  for (let at = 0; at < size; at += 1)
    cards.push(
      card(`L-${at}`, 'boardwalk', `Check plank ${at + 1}`, {
        status: at % 3 === 0 ? 'ready' : at % 3 === 1 ? 'idea' : 'built',
        assignee: at % 2 ? MAREN : 'jonas',
      }),
    );
  cards.forEach((one, at) => (one.rev = at + 1));
  return { rev: cards.length, cards, time: [], answers: {}, mood: 'well' };
}

/** A team's tracker: its HTTP interface under /tracker/api, and a page on which cards are moved by hand. */
export function tracker(folder: string, address: string): Router {
  const store = new Store<Tracked>(join(folder, 'tracker.json'), () => seed(Number(process.env['OUTSIDE_CARDS'] ?? 0)));
  const { state } = store;
  const answers = new Answers(state.answers);
  const router = Router();
  const shown = (card: Card) => ({ ...card, url: `${address}/tracker/cards/${card.id}` });
  const touch = (card: Card, patch: Partial<Card>) => {
    state.rev += 1;
    Object.assign(card, patch, { rev: state.rev, changed: iso() });
    store.save();
    return shown(card);
  };
  const find = (request: Request, response: Response): Card | null => {
    const card = state.cards.find((one) => one.id === request.params['id'] && !one.deleted);
    if (!card) response.status(404).json({ error: 'no such card' });
    return card ?? null;
  };

  router.use('/api', express.json(), (_request, response, next) => {
    if (state.mood === 'error') response.status(500).json({ error: 'out of order' });
    else if (state.mood === 'busy') response.status(429).set('Retry-After', '2').json({ error: 'too many' });
    else if (state.mood === 'half') response.type('json').send('{"cards": [{"id": "BW-1');
    else if (state.mood === 'well') next();
  });
  router.get('/api/me', (_request, response) => void response.json({ id: MAREN, name: 'Maren Holt' }));
  router.get('/api/boards', (_request, response) => void response.json(BOARDS));
  router.get('/api/cards', (request, response) => {
    const [board, after, limit] = [
      request.query['board'],
      Number(request.query['after'] ?? 0),
      Math.min(500, Number(request.query['limit'] ?? 100)),
    ];
    const all = state.cards.filter((one) => one.board === board && one.rev > after).sort((a, b) => a.rev - b.rev);
    const cards = all.slice(0, limit);
    response.json({ cards: cards.map(shown), next: cards.at(-1)?.rev ?? after, more: all.length > limit, total: all.length });
  });
  router.patch('/api/cards/:id', (request, response) => {
    const card = find(request, response);
    if (!card) return;
    const wanted = Number(/\d+/.exec(request.headers['if-match'] ?? '')?.[0] ?? card.rev);
    const key = request.headers['idempotency-key'] as string | undefined;
    if (wanted !== card.rev && !(key && key in state.answers)) return void response.status(412).json(shown(card));
    const { checklist, ...fields } = request.body as Partial<Card>;
    const answer = answers.once(key, () =>
      touch(card, {
        ...fields,
        ...(checklist
          ? { checklist: card.checklist.map((item) => ({ ...item, ...checklist.find((one) => one.id === item.id) })) }
          : {}),
      }),
    );
    store.save();
    response.json(answer);
  });
  router.put('/api/cards/:id/time/:entry', (request, response) => {
    const card = find(request, response);
    if (!card) return;
    const { minutes, at } = request.body as { minutes: number; at: string };
    const time = { card: card.id, entry: request.params.entry, minutes, at };
    state.time = [...state.time.filter(({ entry }) => entry !== time.entry), time];
    store.save();
    response.json({ minutes });
  });
  router.delete('/api/cards/:id/time/:entry', (request, response) => {
    const card = find(request, response);
    if (!card) return;
    state.time = state.time.filter(({ entry }) => entry !== request.params.entry);
    store.save();
    response.json({ gone: true });
  });

  router.get('/state.json', (_request, response) => void response.json(state));
  router.get('/', (_request, response) => void response.type('html').send(page(state)));
  router.get('/cards/:id', (request, response) => void response.type('html').send(page(state, request.params.id)));
  router.use(express.urlencoded({ extended: false }));
  router.post('/mood', (request, response) => {
    state.mood = (request.body as { mood: Tracked['mood'] }).mood;
    store.save();
    response.redirect(303, '/tracker');
  });
  router.post('/cards', (request, response) => {
    const { title = '', board = 'boardwalk' } = request.body as Record<string, string>;
    const statuses = BOARDS.find((one) => one.id === board)?.statuses;
    const card = {
      ...seed(0).cards[2],
      id: `N-${state.rev + 1}`,
      board,
      title: title.slice(0, 200),
      status: statuses?.[board === 'boardwalk' ? 1 : 0]?.id ?? 'ready',
    } as Card;
    state.cards.push(card);
    touch(card, {});
    response.redirect(303, '/tracker');
  });
  router.post('/cards/:id', (request, response) => {
    const card = find(request, response);
    if (!card) return;
    const { title, status, due, estimate, assignee, item, remove, comment } = request.body as Record<string, string | undefined>;
    touch(card, {
      ...(title ? { title } : {}),
      ...(status ? { status } : {}),
      ...(due === undefined ? {} : { due: due || null }),
      ...(estimate === undefined ? {} : { estimate: Number(estimate) || null }),
      ...(assignee ? { assignee } : {}),
      ...(item ? { checklist: card.checklist.map((one) => (one.id === item ? { ...one, done: !one.done } : one)) } : {}),
      ...(comment ? { comments: [...card.comments, { by: 'Jonas Brandl', at: iso(), text: comment }] } : {}),
      ...(remove ? { deleted: true } : {}),
    });
    response.redirect(303, '/tracker');
  });
  return router;
}

function page(state: Tracked, only?: string): string {
  const rows = state.cards
    .filter((card) => !card.deleted && (!only || card.id === only))
    .slice(0, 60)
    .map((card) => {
      const statuses = BOARDS.find((one) => one.id === card.board)?.statuses ?? [];
      const moves = statuses
        .filter((one) => one.id !== card.status)
        .map((one) => button(`/tracker/cards/${card.id}`, `to ${one.name}`, { status: one.id }));
      const items = card.checklist.map((one) =>
        button(`/tracker/cards/${card.id}`, `${one.done ? '✓' : '○'} ${one.text}`, { item: one.id }),
      );
      const edit = `<form method="post" action="/tracker/cards/${card.id}"><input name="title" aria-label="Title of ${card.id}" value="${escape(card.title)}" size="34"> <input name="estimate" aria-label="Estimate of ${card.id}" value="${card.estimate ?? ''}" size="4"> <input name="due" aria-label="Due date of ${card.id}" value="${card.due ?? ''}" size="11"><button>Save</button></form>`;
      return `<tr><td>${escape(card.id)}<br><span class="soft">${escape(card.status)}, ${escape(card.assignee)}</span></td><td>${edit}${items.join('')}</td><td>${moves.join('')}${button(`/tracker/cards/${card.id}`, 'Delete', { remove: '1' })}</td></tr>`;
    })
    .join('');
  const moods = (['well', 'error', 'busy', 'half', 'silent'] as const).map((mood) =>
    button('/tracker/mood', mood === state.mood ? `[${mood}]` : mood, { mood }),
  );
  const time = state.time.map((one) => `<li>${escape(one.card)}: ${one.minutes} min</li>`).join('');
  return layout(
    'Tracker',
    `<p>Two boards of the trust's team. Corvun reads them at this address + <code>/tracker</code>.</p><p>It behaves: ${moods.join('')}</p>
<form method="post" action="/tracker/cards"><label>New card for Maren<input name="title" required></label><button>Add</button></form><table>${rows}</table><h2>Time written back</h2><ul>${time || '<li>None yet.</li>'}</ul>`,
  );
}
