import { AccountsService } from '../src/accounts/accounts.service';
import { Caller, clear, firstAccount, sendMail, startServer, until, type Page, type Running } from './harness';
import { ROUTES } from './routes-table';

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
  things['log'] = (await maren.post<{ id: string }>('/log/lines', { day: '2026-08-03', text: 'Fog' })).body.id;
  const asks = { name: 'Evening', weekdays: [1], time: '17:00', questions: [{ text: 'Fog?', kind: 'yes-no' }] };
  things['check-ins'] = (await maren.post<{ id: string }>('/check-ins', asks)).body.id;
  things['offers'] = (await maren.post<{ id: string }>('/offers', { title: 'Gauge talk', slots })).body.id;
  things['sources'] = (await maren.post<{ id: string }>('/sources', { kind: 'notes', name: 'N', address: server.data })).body.id;
});
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
