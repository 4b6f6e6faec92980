import type { CalendarInfo, DecisionAnswer } from '@corvun/contract';
import { clear, firstAccount, startServer, type Caller, type Running } from './harness';

const servers: Running[] = [];
async function account(): Promise<Caller> {
  const server = await startServer('empty');
  servers.push(server);
  return firstAccount(server);
}
afterAll(async () => {
  for (const server of servers) {
    await server.stop();
    clear(server.data);
  }
});

const file = async (maren: Caller, path = '/calendars/file') => String((await maren.get<string>(path)).body);
const make = async (maren: Caller, input: object): Promise<string> =>
  (await maren.post<DecisionAnswer>('/events', { minutes: 60, ...input })).body.made[0]?.id ?? '';

/** Events and tasks of a file, each as its lines in order, without when they were written; tasks named by their titles. */
function thingsIn(text: string): string[] {
  const lines = text.replace(/\r\n /g, '').split('\r\n');
  const titles = new Map<string, string>();
  const things: string[][] = [];
  let open: string[] | null = null;
  for (const line of lines) {
    if (/^BEGIN:(?:VEVENT|VTODO)$/.test(line)) open = [];
    if (open && !/^(?:DTSTAMP|CREATED|LAST-MODIFIED|SEQUENCE)/.test(line)) open.push(line);
    if (!open || !/^END:(?:VEVENT|VTODO)$/.test(line)) continue;
    things.push(open);
    const named = (name: string) => open?.find((one) => one.startsWith(name))?.slice(name.length) ?? '';
    if (line === 'END:VTODO') titles.set(named('UID:'), named('SUMMARY:'));
    open = null;
  }
  const byTitle = (line: string) =>
    line.replace(/^(UID|RELATED-TO\S*?):(.*)$/, (_, name: string, uid: string) => `${name}:${titles.get(uid) ?? uid}`);
  return things.map((thing) => thing.map(byTitle).sort().join('\n')).sort();
}

it('calendars and tasks that are read in again go out as they were', async () => {
  const maren = await account();
  await make(maren, {
    ...{ title: 'Weir walk; north, south', start: '2026-08-04T10:00', category: 'field work', location: 'Gate 3' },
    ...{ description: 'Bring **boots**', private: true, showAs: 'tentative' },
    alarms: [{ trigger: '-PT1H' }, { trigger: 'PT5M', related: 'END' }, { trigger: '-P1D', action: 'EMAIL' }],
  });
  await make(maren, { title: 'Away', start: '2026-08-10', end: '2026-08-13', allDay: true, showAs: 'free' });
  await make(maren, { title: 'Night train', start: '2026-08-20T22:00', end: '2026-08-21T06:00', endZone: 'Europe/London' });
  const series = await make(maren, { title: 'Stand-up', start: '2026-08-03T09:15', minutes: 15, repeat: 'FREQ=DAILY;COUNT=9' });
  await maren.patch(`/events/${series}`, { occurrence: '2026-08-05T09:15', start: '2026-08-05T11:00', minutes: 30 });
  await maren.remove(`/events/${series}?occurrence=2026-08-06T09:15&scope=this`);
  await maren.patch(`/events/${series}`, { occurrence: '2026-08-08T09:15', scope: 'following', title: 'Short one' });
  await maren.post('/tasks', {
    lines: [
      'Write the report #write by 14 August 12:00 2h',
      '  Collect the figures',
      '    Ask Ines',
      'Water the reeds every week',
    ],
  });
  const tasks = (await maren.get<{ id: string; title: string }[]>('/tasks')).body;
  const id = (title: string) => tasks.find((task) => task.title.startsWith(title))?.id ?? '';
  await maren.patch(`/tasks/${id('Write')}`, { reminder: '2026-08-13T08:30', priority: 'high', notes: 'Two pages' });
  await maren.patch(`/tasks/${id('Ask')}`, { status: 'COMPLETED' });
  const before = await file(maren);
  expect(before.match(/BEGIN:VALARM/g)).toHaveLength(4);
  expect(before).toContain('RECURRENCE-ID;TZID=Europe/Vienna:20260805T091500');

  const other = await account();
  const form = new FormData();
  form.append('files', new Blob([before]), 'all.ics');
  const report = await other.post<{ refused: unknown[] }>('/import', form);
  expect(report.body.refused).toEqual([]);
  expect(thingsIn(await file(other))).toEqual(thingsIn(before));
  expect((await other.post<{ taken: number }>('/import', again(before))).body.taken).toBe(0);
});

const again = (text: string): FormData => {
  const form = new FormData();
  form.append('files', new Blob([text]), 'all.ics');
  return form;
};

it('one calendar is a file of its own', async () => {
  const maren = await account();
  await make(maren, { title: 'Weir walk', start: '2026-08-04T10:00' });
  const calendars = (await maren.get<CalendarInfo[]>('/calendars')).body;
  const [first] = calendars;
  const text = await file(maren, `/calendars/${first?.id}/file`);
  expect(text).toContain(`X-WR-CALNAME:${first?.name}`);
  expect(text.includes('SUMMARY:Weir walk')).toBe(first?.main);
  expect((await maren.get('/calendars/nothing/file')).status).toBe(404);
});
