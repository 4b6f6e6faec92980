import { AccountsService } from '../src/accounts/accounts.service';
import { Caller, clear, firstAccount, sendMail, startServer, until, type Page, type Running } from './harness';

/**
 * Every route of the running server, and what is behind it: `open` to everybody, the caller's `own` things, one `thing`
 * of somebody, or the `keeper`'s alone. A route without a row here fails.
 */
type Kind = 'open' | 'own' | 'thing' | 'keeper';
const ROUTES: Record<string, [kind: Kind, body?: object]> = {
  'GET /api': ['open'],
  'GET /api/health': ['open'],
  'GET /api/session': ['open'],
  'POST /api/session': ['open', { email: 'nobody@alderfen.example', password: 'wrong password' }],
  'POST /api/session/demo': ['open', {}],
  'POST /api/account': ['open', { name: 'Eve', email: 'eve@alderfen.example', password: 'ten letters at least' }],
  'GET /api/openapi.json': ['open'],
  'GET /api/stream': ['own'],
  'GET /api/me': ['own'],
  'DELETE /api/session': ['own'],
  'POST /api/session/everywhere': ['own'],
  'POST /api/password': ['own', { present: 'x', wanted: 'ten letters at least' }],
  'GET /api/settings': ['own'],
  'PATCH /api/settings': ['own', { snap: 15 }],
  'POST /api/settings/days-off': ['own', { ics: 'x' }],
  'POST /api/settings/test-mail': ['own'],
  'GET /api/sessions': ['own'],
  'DELETE /api/sessions/:id': ['thing'],
  'GET /api/tokens': ['own'],
  'POST /api/tokens': ['own', { name: 'x' }],
  'DELETE /api/tokens/:id': ['thing'],
  'GET /api/incoming': ['own'],
  'GET /api/incoming/:id': ['thing'],
  'GET /api/incoming/:id/original': ['thing'],
  'POST /api/incoming/:id/settle': ['thing', { keep: 'here' }],
  'POST /api/incoming/:id/reply': ['thing', { text: 'x' }],
  'POST /api/incoming/:id/reopen': ['thing'],
  'GET /api/attachments/:id': ['thing'],
  'POST /api/decisions': ['own', { incoming: ['incoming'], to: 'drop' }],
  'POST /api/decisions/undo': ['own'],
  'POST /api/decisions/redo': ['own'],
  'GET /api/decisions': ['own'],
  'GET /api/tasks': ['own'],
  'POST /api/tasks': ['own', { lines: ['x'] }],
  'POST /api/tasks/change': ['own', { ids: ['task'], change: { title: 'taken over' } }],
  'POST /api/tasks/out': ['own', { ids: ['task'], format: 'text' }],
  'POST /api/tasks/:id/files': ['thing'],
  'POST /api/events/:id/files': ['thing'],
  'GET /api/files/:id': ['thing'],
  'PATCH /api/files/:id': ['thing', { name: 'taken over' }],
  'DELETE /api/files/:id': ['thing'],
  'GET /api/tasks/:id': ['thing'],
  'POST /api/tasks/:id/beginning': ['thing', { minutes: 25 }],
  'POST /api/tasks/:id/skipping': ['thing'],
  'GET /api/tasks/:id/nudge': ['thing'],
  'POST /api/tasks/:id/nudge': ['thing', { text: 'x' }],
  'GET /api/tasks/:id/handing-over': ['thing'],
  'POST /api/tasks/:id/handing-over': ['thing', { to: 'Jonas', mail: false }],
  'PATCH /api/tasks/:id': ['thing', { title: 'taken over' }],
  'GET /api/lists': ['own'],
  'GET /api/projects': ['own'],
  'POST /api/lists': ['own', { name: 'Reading' }],
  'POST /api/lists/order': ['own', { lists: [] }],
  'PATCH /api/lists/:id': ['thing', { name: 'taken over' }],
  'DELETE /api/lists/:id': ['thing'],
  'GET /api/calendars/file': ['own'],
  'GET /api/calendars/:id/file': ['thing'],
  'GET /api/others': ['own'],
  'GET /api/mirrors': ['own'],
  'POST /api/mirrors': ['own', { from: 'x', to: 'y' }],
  'DELETE /api/mirrors/:id': ['thing'],
  'POST /api/shares': ['own', { calendarId: null, shows: 'busy' }],
  'POST /api/shares/:id/renew': ['thing'],
  'DELETE /api/shares/:id': ['thing'],
  'POST /api/meet-pages': ['own', { name: 'x' }],
  'PATCH /api/meet-pages/:id': ['thing', { name: 'taken over' }],
  'POST /api/meet-pages/:id/renew': ['thing'],
  'DELETE /api/meet-pages/:id': ['thing'],
  'POST /api/offers': ['own', { title: 'x', slots: [{ start: '2026-08-04T10:00', minutes: 30 }] }],
  'DELETE /api/offers/:id': ['thing'],
  'GET /api/public/meet/:link': ['open'],
  'POST /api/public/meet/:link': ['open', { name: 'Eve', address: 'eve@x.example', start: '2026-08-04T10:00', minutes: 30 }],
  'GET /api/public/bookings/:link': ['open'],
  'PATCH /api/public/bookings/:link': ['open', { start: '2026-08-04T10:00' }],
  'DELETE /api/public/bookings/:link': ['open'],
  'GET /api/public/offers/:link': ['open'],
  'POST /api/public/offers/:link': ['open', { name: 'Eve', address: 'eve@x.example', start: '2026-08-04T10:00' }],
  'GET /calendars/:file': ['open'],
  // Behind a password of their own.
  'ALL /.well-known/caldav': ['open'],
  'ALL /dav': ['open'],
  'ALL /dav/*path': ['open'],
  'GET /api/cost': ['own'],
  'GET /api/plan/proposal': ['own'],
  'POST /api/plan/taking': ['own', { blocks: [{ taskId: 'task', start: '2026-08-04T10:00', minutes: 30 }] }],
  'GET /api/plan/risks': ['own'],
  'GET /api/days/outline': ['own'],
  'PATCH /api/shortlist': ['own', { picks: [] }],
  'GET /api/now': ['own'],
  'GET /api/now/fits': ['own'],
  'GET /api/presence': ['own'],
  'PATCH /api/presence': ['own', { text: 'On the boat' }],
  'POST /api/tasks/:id/timer': ['thing'],
  'POST /api/timer/stop': ['own'],
  'POST /api/tasks/:id/time': ['thing', { minutes: 25 }],
  'PATCH /api/time/:id': ['thing', { minutes: 25 }],
  'DELETE /api/time/:id': ['thing'],
  'POST /api/blocks/:id/longer': ['thing', { minutes: 25 }],
  'POST /api/heads-down': ['own', { task: 'task' }],
  'POST /api/heads-down/turn': ['own'],
  'DELETE /api/heads-down': ['own'],
  'GET /api/shortlist/rest': ['own'],
  'POST /api/shortlist/rest': ['own', {}],
  'POST /api/tasks/:id/steps': ['thing', { steps: [{ title: 'Measure', minutes: 30 }] }],
  'PATCH /api/days': ['own', { day: '2026-08-04', picks: [] }],
  'GET /api/passes': ['own'],
  'POST /api/passes': ['own', { kind: 'open-day' }],
  'PATCH /api/passes/:id': ['thing', { step: 'x' }],
  'POST /api/passes/:id/undo': ['thing'],
  'GET /api/reminders': ['own'],
  'POST /api/reminders/:id/shown': ['thing'],
  'POST /api/reminders/:id/snooze': ['thing', { minutes: 5 }],
  'POST /api/reminders/done': ['own', { ids: ['x'] }],
  'GET /api/views': ['own'],
  'POST /api/views': ['own', { name: 'x', query: '' }],
  'PATCH /api/views/:id': ['thing', { name: 'taken over' }],
  'DELETE /api/views/:id': ['thing'],
  'GET /api/tags': ['own'],
  'GET /api/calendars': ['own'],
  'POST /api/calendars': ['own', { name: 'x' }],
  'PATCH /api/calendars/:id': ['thing', { shown: false }],
  'PATCH /api/events/:id': ['thing', { start: '2026-08-04T10:00', minutes: 30 }],
  'DELETE /api/events/:id': ['thing'],
  'POST /api/events': ['own', { title: 'x', start: '2026-08-04T10:00', minutes: 30 }],
  'GET /api/events/:id': ['thing'],
  'POST /api/events/:id/copies': ['thing', { days: ['2026-08-04'] }],
  'POST /api/agenda/change': ['own', { entries: [{ kind: 'task', id: 'task' }], remove: true }],
  'POST /api/agenda/order': ['own', { day: '2026-08-04', tasks: ['task'] }],
  'POST /api/blocks/several': ['own', { blocks: [{ taskId: 'task', start: '2026-08-04T10:00', minutes: 30 }] }],
  'POST /api/blocks': ['own', { taskId: 'task', start: '2026-08-04T10:00', minutes: 30 }],
  'PATCH /api/blocks/:id': ['thing', { start: '2026-08-04T10:00', minutes: 30 }],
  'DELETE /api/blocks/:id': ['thing'],
  'GET /api/agenda': ['own'],
  'GET /api/days': ['own'],
  'POST /api/captures': ['own', { text: 'x' }],
  'GET /api/find': ['own'],
  'GET /api/notes': ['own'],
  'POST /api/notes': ['own', { title: 'x' }],
  'GET /api/notes/:id': ['thing'],
  'PATCH /api/notes/:id': ['thing', { title: 'taken over' }],
  'DELETE /api/notes/:id': ['thing'],
  'GET /api/people': ['own'],
  'POST /api/people': ['own', { name: 'x' }],
  'GET /api/people/open': ['own'],
  'GET /api/people/:id': ['thing'],
  'GET /api/people/:id/card': ['thing'],
  'PATCH /api/people/:id': ['thing', { name: 'taken over' }],
  'DELETE /api/people/:id': ['thing'],
  'POST /api/people/:id/merge': ['thing', { other: 'person' }],
  'POST /api/people/:id/mail': ['thing', { subject: 'x', text: 'x' }],
  'GET /api/sources': ['own'],
  'POST /api/sources': ['own', { kind: 'notes', name: 'x', address: '/nowhere' }],
  'GET /api/sources/near': ['own'],
  'POST /api/sources/look': ['own', { kind: 'notes', name: 'x', address: '/nowhere' }],
  'GET /api/sources/:id': ['thing'],
  'POST /api/sources/:id/look': ['thing', {}],
  'PATCH /api/sources/:id': ['thing', { name: 'taken over' }],
  'POST /api/sources/:id/run': ['thing'],
  'POST /api/sources/:id/stop': ['thing'],
  'DELETE /api/sources/:id': ['thing'],
  'GET /api/outbox': ['own'],
  'POST /api/outbox/:id/now': ['thing'],
  'POST /api/outbox/:id/give-up': ['thing'],
  'POST /api/import': ['own'],
  'POST /api/imports': ['own'],
  'GET /api/imports': ['own'],
  'GET /api/imports/:id': ['thing'],
  'POST /api/imports/:id/columns': ['thing', { columns: ['title'] }],
  'POST /api/imports/:id/stop': ['thing'],
  'POST /api/imports/:id/resume': ['thing'],
  'DELETE /api/imports/:id': ['thing'],
  'GET /api/data': ['own'],
  'GET /api/data/job': ['own'],
  'PATCH /api/data': ['keeper', { keep: 5 }],
  'POST /api/data/backups': ['keeper', {}],
  'GET /api/data/backups/:id': ['keeper'],
  'DELETE /api/data/backups/:id': ['keeper'],
  'POST /api/data/verify': ['keeper'],
  'GET /api/data/export': ['own'],
  'POST /api/data/import': ['own'],
};

interface Layer {
  route?: { path: string; methods: Record<string, boolean> };
}

let server: Running;
let eve: Caller;
/** Ids of Maren's things, by the word before `:id` in a path. */
const things: Record<string, string> = {};

beforeAll(async () => {
  server = await startServer('empty');
  const maren = await firstAccount(server);
  await server.app.get(AccountsService).create({ name: 'Eve', email: 'eve@alderfen.example', password: 'ten letters at least' });
  eve = new Caller(server.url);
  await eve.post('/session', { email: 'eve@alderfen.example', password: 'ten letters at least' });
  const raw =
    'From: T <t@x.example>\r\nSubject: With a file\r\nMIME-Version: 1.0\r\nContent-Type: multipart/mixed; boundary=b\r\n\r\n--b\r\n\r\nText\r\n--b\r\nContent-Disposition: attachment; filename=a.txt\r\n\r\nA\r\n--b--\r\n';
  await sendMail(server.smtpPort, { to: 'maren@alderfen.example', raw });
  const line = await until(async () => (await maren.get<Page>('/incoming')).body.items[0], 'the mail');
  const full = await maren.get<{ attachmentList: { id: string }[] }>(`/incoming/${line.id}`);
  things['incoming'] = line.id;
  things['attachments'] = full.body.attachmentList[0]?.id ?? '';
  const made = async (text: string) =>
    (await maren.post<{ made: { kind: string; id: string }[] }>('/captures', { text })).body.made;
  for (const thing of [
    ...(await made('Count the buoys tomorrow 10:00')),
    ...(await made('Lunch with Ines tomorrow 12:00-13:00')),
  ])
    things[`${thing.kind}s`] = thing.id;
  things['calendars'] = (await maren.get<{ id: string }[]>('/calendars')).body[0]?.id ?? '';
  const form = new FormData();
  form.append('files', new Blob(['x']), 'x.txt');
  await maren.post(`/tasks/${things['tasks']}/files`, form);
  things['files'] =
    (await maren.get<{ attachmentList: { id: string; own: boolean }[] }>(`/tasks/${things['tasks']}`)).body.attachmentList.find(
      ({ own }) => own,
    )?.id ?? '';
  things['lists'] = (await maren.post<{ id: string }>('/lists', { name: 'Gauges' })).body.id;
  things['views'] = (await maren.post<{ id: string }>('/views', { name: 'Calls', query: 'find=%23call' })).body.id;
  things['notes'] = (await maren.post<{ id: string }>('/notes', { title: 'Gauges' })).body.id;
  things['people'] = (await maren.post<{ id: string }>('/people', { name: 'Tomas Rieger' })).body.id;
  things['sessions'] = (await maren.get<{ id: string }[]>('/sessions')).body[0]?.id ?? '';
  things['tokens'] = (await maren.post<{ id: string }>('/tokens', { name: 'x' })).body.id;
  const now = Date.parse((await maren.get<{ now: string }>('/me')).body.now);
  const trigger = `${new Date(now + 1000).toISOString().slice(0, 19).replace(/[-:]/g, '')}Z`;
  await maren.post('/events', { title: 'Weir', start: '2026-08-20T10:00', minutes: 30, alarms: [{ trigger }] });
  things['reminders'] = (await until(async () => (await maren.get<{ id: string }[]>('/reminders')).body[0], 'the reminder')).id;
  const slots = [{ start: '2027-08-20T10:00', minutes: 30 }];
  things['shares'] = (await maren.post<{ id: string }>('/shares', { calendarId: null, shows: 'busy' })).body.id;
  things['meet-pages'] = (await maren.post<{ id: string }>('/meet-pages', { name: 'Gauge talk' })).body.id;
  const other = (await maren.post<{ id: string }>('/calendars', { name: 'Other' })).body.id;
  const pair = { from: things['calendars'], to: other };
  things['mirrors'] = (await maren.post<{ id: string }>('/mirrors', pair)).body.id;
  things['passes'] = (await maren.post<{ id: string }>('/passes', { kind: 'open-day' })).body.id;
  await maren.post(`/tasks/${things['tasks']}/time`, { minutes: 5 });
  things['time'] = (await maren.get<{ time: { id: string }[] }>(`/tasks/${things['tasks']}`)).body.time[0]?.id ?? '';
  things['offers'] = (await maren.post<{ id: string }>('/offers', { title: 'Gauge talk', slots })).body.id;
  things['sources'] = (await maren.post<{ id: string }>('/sources', { kind: 'notes', name: 'N', address: server.data })).body.id;
}, 40_000);
afterAll(async () => {
  await server.stop();
  clear(server.data);
});

const pathOf = (route: string) => {
  const [method = '', path = ''] = route.split(' ');
  const kind = path.split('/')[2] ?? '';
  return { method, path: path.replace(/:(?:id|name)/, things[kind] || 'aaaaaaaaaaaaaaaaaaaa') };
};
const bodyOf = (body: object | undefined) =>
  JSON.parse(
    JSON.stringify(body ?? {})
      .replace('"incoming"]', `"${things['incoming']}"]`)
      .replace(/(?<=[:[])"task"/, `"${things['tasks']}"`),
  ) as object;
const callBy = async (caller: Caller, route: string, more: Record<string, string> = {}) => {
  const { method, path } = pathOf(route);
  const stop = new AbortController();
  const response = await fetch(`${server.url}${path}`, {
    method,
    signal: stop.signal,
    headers: { ...caller.signedHeaders(), ...more, ...(method === 'GET' ? {} : { 'Content-Type': 'application/json' }) },
    ...(method === 'GET' ? {} : { body: JSON.stringify(bodyOf(ROUTES[route]?.[1])) }),
  });
  stop.abort();
  return response.status;
};

it('every route of the running server has a row, and every row a route', () => {
  const { stack } = (server.app.getHttpAdapter().getInstance() as { router: { stack: Layer[] } }).router;
  const named = stack.flatMap(({ route }) =>
    route ? Object.keys(route.methods).map((method) => `${method.toUpperCase()} ${route.path}`) : [],
  );
  const found = [...new Set(named.map((one) => one.replace(/^\S+ (?=\/dav|\/\.well-known)/, 'ALL ')))];
  expect(found.sort()).toEqual(Object.keys(ROUTES).sort());
  expect(Object.values(things).filter((id) => !id)).toEqual([]);
});

const closed = Object.entries(ROUTES).filter(([, [kind]]) => kind !== 'open');

it.each(closed)('%s is closed to nobody, to a worthless token and to a foreign page', async (route) => {
  const nobody = new Caller(server.url);
  expect(await callBy(nobody, route)).toBe(401);
  expect(await callBy(nobody, route, { Authorization: 'Bearer worthless' })).toBe(401);
  // A worthless token does not let the cookie beside it in.
  expect(await callBy(eve, route, { Authorization: 'Bearer worthless' })).toBe(401);
  if (!route.startsWith('GET')) expect(await callBy(eve, route, { Origin: 'https://evil.example' })).toBe(403);
});

it.each(closed.filter(([, [kind]]) => kind === 'thing'))('%s does not exist for another user', async (route) => {
  expect(await callBy(eve, route)).toBe(404);
});

it.each(closed.filter(([, [kind]]) => kind === 'keeper'))('%s is the first account’s alone', async (route) => {
  expect(await callBy(eve, route)).toBe(403);
});

it('what names somebody else’s thing in its body does not find it', async () => {
  expect(await callBy(eve, 'POST /api/decisions')).toBe(404);
  expect(await callBy(eve, 'POST /api/blocks')).toBe(404);
  expect(await callBy(eve, 'POST /api/heads-down')).toBe(404);
});
