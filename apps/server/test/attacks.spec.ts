import type { Added, Done, SourceInfo, SourceLook, TaskInfo } from '@corvun/contract';
import { vevent, vtodo } from '../../../testing/calendar-object';
import { HostileDav, multistatus, response } from '../../../testing/hostile-dav';
import { asProgram } from './calendar-program';
import { database, ownServer, until } from './harness';

const here = ownServer('test', { CORVUN_READ_TIME: '3000', CORVUN_ALLOW_PRIVATE: '1' });
const { program, home, agenda } = asProgram(here);

/** A zone whose clock changes every second since 1970. */
const TRAP = [
  'BEGIN:VTIMEZONE',
  'TZID:Trap',
  'BEGIN:STANDARD',
  'DTSTART:19700101T000000',
  'TZOFFSETFROM:+0100',
  'TZOFFSETTO:+0200',
]
  .concat(['RRULE:FREQ=SECONDLY', 'END:STANDARD', 'END:VTIMEZONE'])
  .join('\r\n');
const trapped = (text: string) => text.replace('BEGIN:VEVENT', `${TRAP}\r\nBEGIN:VEVENT`);

describe('a zone that changes its clock every second', () => {
  it('holds nothing up, by whichever door it comes', async () => {
    const ask = await program();
    const event = trapped(vevent('trap', 'DTSTART;TZID=Trap:20260804T090000', 'DURATION:PT1H', 'SUMMARY:Trap'));
    expect((await ask('PUT', `${await home()}trap.ics`, event)).status).toBe(201);
    const day = trapped(vevent('off', 'DTSTART;VALUE=DATE:20260805', 'SUMMARY:Fen day', 'X-A;TZID=Trap:20260804T090000'));
    expect((await here.maren.post<Done>('/settings/days-off', { ics: day })).body.sentence).toBe('1 day off is added');
    expect((await agenda()).map(({ title }) => title)).toEqual(['Trap']);
  });
});

describe('steps in a ring', () => {
  const ring = async () => {
    await here.maren.post<Added>('/lists', { name: 'Gauges' });
    const { body: lists } = await here.maren.get<{ id: string; name: string }[]>('/lists');
    const path = `/dav/home/list-${lists.find(({ name }) => name === 'Gauges')?.id ?? ''}/`;
    const ask = await program();
    const put = (uid: string, parent: string) =>
      ask('PUT', `${path}${uid}.ics`, vtodo(uid, `SUMMARY:Gauge ${uid}`, ...(parent ? [`RELATED-TO:${parent}`] : [])));
    for (const [uid, parent] of [
      ['a', ''],
      ['b', 'a'],
      ['c', 'b'],
      ['a', 'c'],
    ] as const)
      await put(uid, parent);
    return (await here.maren.get<TaskInfo[]>('/tasks')).body;
  };

  it('are cut where they would close, and what goes over all steps ends', async () => {
    const tasks = await ring();
    const of = (title: string) => tasks.find((one) => one.title === title);
    expect(tasks.map(({ parentId }) => parentId !== null)).toEqual(expect.arrayContaining([true, true, false]));
    expect(of('Gauge a')?.parentId).toBeNull();
    expect((await here.maren.patch(`/tasks/${of('Gauge a')?.id}`, { status: 'COMPLETED', steps: 'done' })).status).toBe(200);
    expect((await here.maren.get<TaskInfo[]>('/tasks?done=1')).status).toBeLessThan(500);
  });

  it('that stand in the database from before harm nothing', async () => {
    const [one, two] = await ring();
    await database(here.server).query('UPDATE task SET parentId = ? WHERE id = ?', [two?.id, one?.id]);
    await database(here.server).query('UPDATE task SET parentId = ? WHERE id = ?', [one?.id, two?.id]);
    await here.maren.post('/lists', { name: 'Bank' });
    const changed = await here.maren.patch(`/tasks/${one?.id}`, { list: 'Bank' });
    expect(changed.status).toBe(200);
    expect((await here.maren.patch(`/tasks/${one?.id}`, { status: 'COMPLETED', steps: 'done' })).status).toBe(200);
  });
});

describe('an account whose server means harm', () => {
  let there: HostileDav;
  let other: HostileDav;
  beforeEach(async () => {
    [there, other] = [await new HostileDav().start(), await new HostileDav().start()];
  });
  afterEach(() => {
    there.stop();
    other.stop();
  });
  const input = () => ({ kind: 'account', name: 'Office', address: `${there.url}/`, account: 'maren', secret: 'fen-water' });
  const one = async () => (await here.maren.get<SourceInfo[]>('/sources')).body[0] as SourceInfo;
  const connect = async () => {
    const { body } = await here.maren.post<SourceLook>('/sources/look', input());
    const collections = body.settings.collections?.filter(({ id }) => id === 'events:/home/fen/');
    await here.maren.post('/sources', { ...input(), settings: { collections } });
    await until(async () => (await one()).lastSuccess !== null, 'a first look');
  };
  const look = async () => {
    const before = (await one()).lastTry;
    await here.maren.post(`/sources/${(await one()).id}/run`);
    await until(async () => (await one()).progress === null && (await one()).lastTry !== before, 'the end of the look');
  };

  it.each([
    ['as its principal', (host: string) => (there.principal = `//${host}/me/`)],
    ['as its principal, hidden in a path', (host: string) => (there.principal = `${there.url}//${host}/me/`)],
    ['as its home', (host: string) => (there.home = `http://${host}/home/`)],
    ['as its home, hidden in a path', (host: string) => (there.home = `${there.url}//${host}/home/`)],
    [
      'as an object, hidden in a path',
      (host: string) => there.objects.set(`${there.url}//${host}/x.ics`, vevent('x', 'DTSTART:20260804T080000Z')),
    ],
    ['as an object, with letters that are passed over', (host: string) => there.objects.set(`/\\${host}/x.ics`, 'x')],
  ])('gets no password sent to another host that it names %s', async (_how, name) => {
    name(new URL(other.url).host);
    await here.maren.post('/sources/look', input());
    const collections = [{ id: 'events:/home/fen/', name: 'Fen' }];
    await here.maren.post('/sources', { ...input(), settings: { collections } });
    await until(async () => (await one())?.lastTry !== null && (await one()).progress === null, 'a first look');
    expect(there.asked.length).toBeGreaterThan(0);
    expect(other.asked).toEqual([]);
  });

  it('says where it sends on to, so that one can write that address oneself', async () => {
    there.principal = `${other.url}/me/`;
    const { body } = await here.maren.post<{ error: { message: string } }>('/sources/look', input());
    expect(body.error.message).toBe(
      `${new URL(there.url).host} sends on to ${other.url}, and your password goes nowhere but to ${new URL(there.url).host}. Write that address in the source if you trust it.`,
    );
  });

  it('one entry that cannot be kept keeps no other out, is said by name, and is not asked for again', async () => {
    const at = (uid: string, title: string, ...more: string[]) =>
      vevent(uid, 'DTSTART:20260804T080000Z', 'DURATION:PT1H', `SUMMARY:${title}`, ...more);
    there.objects.set('/home/fen/a.ics', at('a', 'Ditch'));
    there.objects.set('/home/fen/b.ics', at('a', 'Ditch again'));
    const twice = at('c', 'Sluice', 'RRULE:FREQ=DAILY;COUNT=5');
    const date = twice.replace(/[^]*(BEGIN:VEVENT[^]*END:VEVENT)[^]*/, '$1').replace(/RRULE.*/, 'RECURRENCE-ID:20260805T080000Z');
    there.objects.set('/home/fen/c.ics', twice.replace('END:VCALENDAR', `${date}\r\n${date}\r\nEND:VCALENDAR`));
    there.objects.set('/home/fen/d.ics', at('d', 'Bank'));
    await connect();
    expect([...new Set((await agenda()).map(({ title }) => title))].sort()).toEqual(['Bank', 'Ditch', 'Sluice']);
    expect((await one()).left).toMatch(/1 entry of it is not here.*Another entry there has the same UID \(a\)/);
    const before = there.asked.length;
    there.objects.set('/home/fen/e.ics', at('e', 'Weir'));
    await look();
    expect((await agenda()).some(({ title }) => title === 'Weir')).toBe(true);
    const later = there.asked.slice(before).map(({ url, body }) => `${url} ${body}`);
    expect(later.filter((one) => one.includes('b.ics'))).toEqual([]);
  });

  it('that always says there is more is followed for a while, and once more at the next look', async () => {
    there.objects.set('/home/fen/a.ics', vevent('a', 'DTSTART:20260804T080000Z', 'SUMMARY:Ditch'));
    await connect();
    let round = 1;
    there.instead = ({ method }, body) =>
      method === 'REPORT' && body.includes('sync-collection')
        ? {
            body: multistatus(
              `<d:response><d:href>/home/fen/</d:href><d:status>HTTP/1.1 507 Insufficient Storage</d:status></d:response><d:sync-token>urn:${(round += 1)}</d:sync-token>`,
            ),
          }
        : method === 'PROPFIND' && body.includes('displayname')
          ? {
              body: multistatus(
                response(
                  '/home/fen/',
                  `<d:resourcetype><d:collection/><c:calendar/></d:resourcetype><d:displayname>Fen</d:displayname><d:sync-token>urn:x${round}</d:sync-token>`,
                ),
              ),
            }
          : null;
    await look();
    expect(round).toBe(21);
    await look();
    expect(round).toBe(41);
    expect(there.asked.at(-1)?.body).toContain('urn:40');
  });

  it('that answers with deep, endless or broken XML is said to, and holds nothing up', async () => {
    for (const body of [
      multistatus(`${'<a xmlns:p="u">'.repeat(60_000)}`),
      multistatus(`<!--${' '.repeat(200_000)}`),
      `<d:multistatus xmlns:d="DAV:">${' '.repeat(300_000)}x`,
      `${'<error '.repeat(40_000)}`,
    ]) {
      there.instead = () => ({ body });
      const { status, body: said } = await here.maren.post<{ error: { message: string } }>('/sources/look', input());
      expect([status, said.error.message]).toEqual([502, expect.stringMatching(/cannot be read|broke off/)]);
      there.instead = () => ({ status: 418, body });
      expect((await here.maren.post('/sources/look', input())).status).toBe(502);
    }
  });
});
