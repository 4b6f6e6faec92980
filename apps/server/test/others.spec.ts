import type {
  Added,
  AgendaEntry,
  Booked,
  OthersInfo,
  OutboxInfo,
  PublicBooking,
  PublicMeet,
  PublicOffer,
} from '@corvun/contract';
import { readCalendar } from '@corvun/formats';
import { Caller, ownServer, startServer, until } from './harness';

const here = ownServer('test');
const all = async () => (await here.maren.get<OthersInfo>('/others')).body;
const stranger = () => new Caller(here.server.url);
const event = (title: string, start: string, minutes: number, more: object = {}) =>
  here.maren.post('/events', { title, start, minutes, ...more });
const agenda = async (from: string, days = 1) =>
  (await here.maren.get<{ entries: AgendaEntry[] }>(`/agenda?from=${from}&days=${days}`)).body.entries.map(
    ({ title, start, status }) => `${start?.slice(5, 16)} ${title} ${status}`,
  );
const linkOf = (path = '') => path.split('/').at(-1) ?? '';
const PAGE = { name: 'Gauge talk', lengths: [30, 60], notice: 0, horizon: 3 };
const page = async (more: object = {}) => {
  await here.maren.post('/meet-pages', { ...PAGE, ...more });
  return linkOf((await all()).pages.at(-1)?.path);
};
const INES = { name: 'Ines Aalto', address: 'ines@aalto-timber.example' };
const meet = async (link: string, query = '') => (await stranger().get<PublicMeet>(`/public/meet/${link}${query}`)).body;
const times = ({ slots }: Pick<PublicMeet, 'slots'>) => slots.map(({ start }) => start.slice(5, 16));

describe('a calendar at a secret address', () => {
  const file = (path = '', headers: Record<string, string> = {}) => fetch(`${here.server.url}${path}`, { headers });

  it('has in it what was chosen and nothing else, knows who has it already, and is renewed and withdrawn', async () => {
    const secret = {
      location: 'Gate 3',
      description: 'Bring the keys',
      category: 'field work',
      guests: ['Ines <ines@x.example>'],
    };
    await event('Site walk', '2026-08-04T10:00', 60, secret);
    await event('Dentist', '2026-08-04T11:00', 30, { private: true });
    const { calendarId } = (await here.maren.get<{ entries: AgendaEntry[] }>('/agenda?from=2026-08-04')).body.entries[0] ?? {};
    for (const shows of ['busy', 'titles', 'all']) await here.maren.post('/shares', { calendarId, shows });
    const texts: string[] = [];
    for (const { path } of (await all()).shares) {
      const answer = await file(path);
      expect([answer.status, answer.headers.get('content-type')]).toEqual([200, 'text/calendar; charset=utf-8']);
      texts.push(await answer.text());
    }
    const [busy = '', titles = '', whole = ''] = texts;
    const said = (text: string) => readCalendar(text, 'Europe/Vienna').map(({ title, start, end }) => [title, start, end]);
    expect(said(busy)).toEqual([['Busy', '2026-08-04T08:00', '2026-08-04T09:30']]);
    expect(
      said(titles)
        .map(([title]) => title)
        .sort(),
    ).toEqual(['Busy', 'Site walk']);
    for (const text of texts) expect(text).not.toMatch(/Dentist|ATTENDEE|ORGANIZER|ines@|maren@|VALARM/);
    expect(`${busy}${titles}`).not.toMatch(/Gate 3|keys|field work/);
    for (const detail of ['Gate 3', 'Bring the keys', 'field work']) expect(whole).toContain(detail);

    const [first] = (await all()).shares;
    const tag = (await file(first?.path)).headers.get('etag') ?? '';
    expect((await file(first?.path, { 'If-None-Match': tag })).status).toBe(304);
    await event('One more', '2026-08-05T10:00', 30);
    expect((await file(first?.path, { 'If-None-Match': tag })).status).toBe(200);
    await here.maren.post(`/shares/${first?.id}/renew`);
    expect((await file(first?.path)).status).toBe(404);
    const [renewed] = (await all()).shares;
    expect((await file(renewed?.path)).status).toBe(200);
    await here.maren.remove(`/shares/${renewed?.id}`);
    expect((await file(renewed?.path)).status).toBe(404);
    await here.maren.post('/decisions/undo');
    expect((await file(renewed?.path)).status).toBe(200);
    expect((await file('/calendars/nothing.ics')).status).toBe(404);
  });

  it('of all calendars together shows busy time only, own time with it', async () => {
    await here.maren.post('/blocks', { kind: 'quiet', start: '2026-08-04T13:00', minutes: 60 });
    expect((await here.maren.post('/shares', { calendarId: null, shows: 'all' })).status).toBe(422);
    await here.maren.post('/shares', { calendarId: null, shows: 'busy' });
    const [share] = (await all()).shares;
    const text = await (await file(share?.path)).text();
    expect(readCalendar(text, 'Europe/Vienna').map(({ title, start }) => [title, start])).toEqual([['Busy', '2026-08-04T11:00']]);
  });
});

describe('a meet-me page', () => {
  it('shows free times under its rules, and no more', async () => {
    await event('Site walk', '2026-08-04T09:30', 420, { location: 'Gate 3' });
    const link = await page({ hours: { 2: ['09:00-12:00', '16:00-17:30'] }, buffer: 15, about: 'On the gauges', place: 'Hut' });
    const found = await meet(link);
    expect(found).toMatchObject({
      name: 'Gauge talk',
      host: 'Maren Holt',
      zone: 'Europe/Vienna',
      minutes: 30,
      lengths: [30, 60],
    });
    expect(times(found)).toEqual(['08-04T17:00']);
    expect(times(await meet(link, '?minutes=60'))).toEqual([]);
    expect(JSON.stringify(found)).not.toMatch(/Site walk|Gate 3|maren@/);
    expect((await stranger().get(`/public/meet/${link}?minutes=45`)).status).toBe(422);
    expect((await stranger().get('/public/meet/guessed')).status).toBe(404);
    const { id = '', version } = (await all()).pages[0] ?? {};
    await here.maren.patch(`/meet-pages/${id}`, { open: false, version });
    expect(times(await meet(link))).toEqual([]);
  });

  it('gives a time to the first of two who want it; the other sees what is left', async () => {
    const link = await page({ questions: [{ label: 'What about?', required: true }] });
    const [slot] = (await meet(link)).slots;
    const book = (more: object) =>
      stranger().post<Booked & { error: { code: string; message: string; present: { slots: object[] } } }>(
        `/public/meet/${link}`,
        { ...INES, start: slot?.start, minutes: 30, answers: ['The gauge'], ...more },
      );
    expect((await book({ answers: [' '] })).status).toBe(422);
    expect((await book({ address: 'ines@x.example\nBcc: all@x.example' })).status).toBe(400);
    const both = await Promise.all([book({}), book({ name: 'Tomas Rieger', address: 'tomas.rieger@county-water.example' })]);
    expect(both.map(({ status }) => status).sort()).toEqual([201, 409]);
    const lost = both.find(({ status }) => status === 409)?.body.error;
    expect([lost?.code, lost?.message]).toEqual(['slot-taken', expect.stringMatching(/^Somebody was quicker/)]);
    expect(lost?.present.slots.length).toBeGreaterThan(3);
    expect((await agenda('2026-08-03', 4)).filter((one) => one.includes('Gauge talk'))).toHaveLength(1);
    const mails = (await here.maren.get<OutboxInfo[]>('/outbox')).body.map(({ what }) => what);
    expect(mails.filter((one) => one.includes('Invitation: Gauge talk'))).toHaveLength(1);
    expect(mails.filter((one) => one.includes('took a time'))).toHaveLength(1);
  });

  it('lets whoever booked move and cancel it; its own time is no obstacle', async () => {
    const link = await page({ perDay: 1, firm: false });
    const [slot, next] = (await meet(link)).slots;
    const booked = (await stranger().post<Booked>(`/public/meet/${link}`, { ...INES, start: slot?.start, minutes: 30 })).body;
    expect(times(await meet(link)).filter((one) => one.slice(0, 5) === slot?.start.slice(5, 10))).toEqual([]);
    const at = `/public/bookings/${linkOf(booked.path)}`;
    expect((await stranger().get<PublicBooking>(at)).body).toMatchObject({ state: 'booked', start: slot?.start });
    const moved = await stranger().patch<PublicBooking>(at, { start: next?.start });
    expect(moved.body).toMatchObject({ state: 'booked', start: next?.start });
    expect(await agenda(next?.start.slice(0, 10) ?? '')).toEqual([
      `${next?.start.slice(5, 16)} Gauge talk: Ines Aalto TENTATIVE`,
    ]);
    expect((await stranger().patch(at, { start: '2026-08-04T03:00' })).status).toBe(409);
    expect((await stranger().remove<PublicBooking>(at)).body.state).toBe('cancelled');
    expect((await stranger().remove<PublicBooking>(at)).body.state).toBe('cancelled');
    expect(await agenda(next?.start.slice(0, 10) ?? '')).toEqual([]);
    const mails = (await here.maren.get<OutboxInfo[]>('/outbox')).body.map(({ what }) => what);
    expect(mails.some((one) => one.includes('Cancelled: Gauge talk'))).toBe(true);
  });

  it('is closed for a while to whoever asks again and again, and the rest goes on', async () => {
    const link = await page();
    const codes = new Map<number, number>();
    for (let at = 0; at < 200; at += 1) {
      const { status } = await stranger().get(`/public/meet/${link}?minutes=${at % 2 ? 30 : 60}`);
      codes.set(status, (codes.get(status) ?? 0) + 1);
    }
    expect([codes.get(200), codes.get(429)]).toEqual([120, 80]);
    expect((await here.maren.get('/me')).status).toBe(200);
  });
});

describe('offered times', () => {
  const slots = [
    { start: '2026-08-04T10:00', minutes: 60 },
    { start: '2026-08-05T14:00', minutes: 60 },
  ];
  const offer = async (more: object = {}) => {
    const answer = await here.maren.post<Added>('/offers', { title: 'Boardwalk talk', slots, ...more });
    return { answer, link: linkOf((await all()).offers[0]?.path) };
  };
  const see = async (link: string) => (await stranger().get<PublicOffer>(`/public/offers/${link}`)).body;

  it('are held until one is taken; of two at once one gets it, the other is told, and the rest is free again', async () => {
    const { link } = await offer({ place: 'Hut' });
    expect(await agenda('2026-08-04', 2)).toEqual([
      '08-04T10:00 Offered: Boardwalk talk TENTATIVE',
      '08-05T14:00 Offered: Boardwalk talk TENTATIVE',
    ]);
    const seen = await see(link);
    expect(seen).toMatchObject({ title: 'Boardwalk talk', host: 'Maren Holt', place: 'Hut', state: 'open' });
    const take = (name: string) => stranger().post(`/public/offers/${link}`, { ...INES, name, start: seen.slots[0]?.start });
    const both = await Promise.all([take('Ines Aalto'), take('Tomas Rieger')]);
    expect(both.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect(await agenda('2026-08-04', 2)).toEqual(['08-04T10:00 Boardwalk talk CONFIRMED']);
    expect(await see(link)).toMatchObject({ state: 'taken', slots: [] });
  });

  it('can be withdrawn, come back with undo, and end by themselves', async () => {
    const { link, answer } = await offer({ days: 1 });
    await here.maren.remove(`/offers/${answer.body.id}`);
    expect([await agenda('2026-08-04', 2), (await stranger().get(`/public/offers/${link}`)).status]).toEqual([[], 404]);
    await here.maren.post('/decisions/undo');
    expect((await see(link)).slots).toHaveLength(2);
    const { data } = here.server;
    await here.server.stop();
    here.server = await startServer('empty', data, { CORVUN_NOW: '2026-08-04T12:00:00+02:00' });
    here.maren = new Caller(here.server.url, here.maren.signedHeaders());
    await until(async () => ((await all()).offers[0]?.state === 'expired' ? true : undefined), 'the offer ends');
    expect(await agenda('2026-08-04', 2)).toEqual([]);
    expect((await see(link)).state).toBe('expired');
  });

  it('are refused where they are over or stand twice', async () => {
    const twice = await here.maren.post('/offers', { title: 'x', slots: [slots[0], slots[0]] });
    const over = await here.maren.post('/offers', { title: 'x', slots: [{ start: '2026-08-01T10:00', minutes: 30 }] });
    expect([twice.status, over.status, await agenda('2026-08-04', 2)]).toEqual([422, 422, []]);
  });
});
