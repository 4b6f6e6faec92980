import type { Booked, OthersInfo, PublicBooking, PublicMeet } from '@corvun/contract';
import { Caller, database, ownServer } from './harness';

const here = ownServer('test');
const stranger = () => new Caller(here.server.url);
const linkOf = (path = '') => path.split('?')[0]?.split('/').at(-1) ?? '';
const page = async (name = 'Gauge talk') => {
  await here.maren.post('/meet-pages', { name, lengths: [30], notice: 0, horizon: 10 });
  return linkOf((await here.maren.get<OthersInfo>('/others')).body.pages.at(-1)?.path);
};
const slots = async (link: string) => (await stranger().get<PublicMeet>(`/public/meet/${link}`)).body.slots;
const book = async (link: string, more: object = {}, headers: Record<string, string> = {}) => {
  const [slot] = await slots(link);
  const body = { name: 'Win a boat at boats.example', address: 'ines@aalto-timber.example', start: slot?.start, minutes: 30 };
  return stranger().call<Booked & { error: { code: string; message: string } }>(
    ...(['POST', `/api/public/meet/${link}`, { ...body, note: 'Cheap boats: https://boats.example', ...more }, headers] as const),
  );
};
/** Everything that goes out to an address. */
const mailsTo = async (address: string) => {
  const rows: { payload: string }[] = await database(here.server).query(
    `SELECT "payload" FROM "outbox" WHERE "kind" = 'mail' ORDER BY rowid`,
  );
  return rows.map(({ payload }) => payload).filter((payload) => payload.includes(`"address":"${address}"`));
};
const wait = (hours: number) =>
  database(here.server).query('UPDATE "booking" SET "created" = "created" - ?, "changed" = "changed" - ?', [
    hours * 3_600_000,
    hours * 3_600_000,
  ]);

it('nothing that a stranger wrote goes to an address that nobody has confirmed, and from then on everything does', async () => {
  const link = await page();
  const { path } = (await book(link)).body;
  const [first = '', ...others] = await mailsTo('ines@aalto-timber.example');
  expect(others).toEqual([]);
  expect(first).toContain('Invitation: Gauge talk');
  expect(first).not.toMatch(/boat/i);
  const proof = /\?mail=([\w-]+)/.exec(first)?.[1] ?? '';
  expect(path).not.toContain(proof);
  const at = `/public/bookings/${linkOf(path)}`;
  expect((await stranger().get<PublicBooking>(at)).body.confirmed).toBe(false);
  expect((await stranger().post<PublicBooking>(at, { proof: 'guessed' })).body.confirmed).toBe(false);
  expect((await stranger().post<PublicBooking>(at, { proof })).body.confirmed).toBe(true);
  expect((await mailsTo('ines@aalto-timber.example')).at(-1)).toContain('https://boats.example');
});

it('an address that nobody confirms gets a few mails a day, from all pages together; cancelled ones count, and cancelling always works', async () => {
  const links = [await page('One'), await page('Two'), await page('Three')];
  const codes: number[] = [];
  for (let at = 0; at < 4; at += 1) {
    const { status, body } = await book(links[at % 3] ?? '');
    codes.push(status);
    if (status === 201) codes.push((await stranger().remove(`/public/bookings/${linkOf(body.path)}`)).status);
  }
  expect(codes).toEqual([201, 200, 201, 200, 201, 200, 429]);
  expect(await mailsTo('ines@aalto-timber.example')).toHaveLength(6);
  expect((await book(links[0] ?? '', { address: 'tomas.rieger@county-water.example' })).status).toBe(201);
  await wait(25);
  const { status, body } = await book(links[0] ?? '');
  expect(status).toBe(201);
  await database(here.server).query('UPDATE "booking" SET "unproven" = 6 WHERE "address" LIKE \'ines@%\'');
  const to = (await slots(links[0] ?? ''))[0]?.start;
  expect((await stranger().patch(`/public/bookings/${linkOf(body.path)}`, { start: to })).status).toBe(429);
  expect((await stranger().remove<PublicBooking>(`/public/bookings/${linkOf(body.path)}`)).body.state).toBe('cancelled');
  expect(await mailsTo('ines@aalto-timber.example')).toHaveLength(7);
});

it('an address holds a few times at one page, and a page gives so many a day', async () => {
  const link = await page();
  const taken: number[] = [];
  for (let at = 0; at < 4; at += 1) taken.push((await book(link)).status);
  expect(taken).toEqual([201, 201, 201, 429]);
  const [{ pageId, ownerId }] = await database(here.server).query<[{ pageId: string; ownerId: string }]>(
    'SELECT "pageId", "ownerId" FROM "booking" LIMIT 1',
  );
  for (let at = 0; at < 40; at += 1)
    await database(here.server).query(
      `INSERT INTO "booking" ("id", "ownerId", "version", "created", "changed", "link", "linkHash", "pageId", "eventId", "name", "address", "state")
       SELECT ?, ?, 1, "created", "changed", '', '', ?, '', 'x', 'x@x.example', 'cancelled' FROM "booking" LIMIT 1`,
      [`many${at}`, ownerId, pageId],
    );
  const { status, body } = await book(link, { address: 'tomas.rieger@county-water.example' });
  expect([status, body.error.message]).toEqual([429, expect.stringMatching(/^So many times were taken here today/)]);
});

it('an address in a mail is that of this server, whatever the request says', async () => {
  const link = await page();
  const { status } = await book(
    link,
    {},
    { Host: '127.0.0.1:9', 'X-Forwarded-Host': 'boats.example', 'X-Forwarded-Proto': 'https' },
  );
  expect(status).toBe(201);
  const [mail = ''] = await mailsTo('ines@aalto-timber.example');
  expect(mail).toContain(`${here.server.url}/meet/${link}/`);
  expect(mail).not.toMatch(/boats\.example|127\.0\.0\.1:9\//);
});
