import { database, Caller, clear, sendMail, startServer, type Line, type Page, type Running } from './harness';

interface Full extends Line {
  text: string;
  facts: { asks: { text: string }[]; dates: { value: string; role: string }[]; minutes: number | null };
  attachmentList: { name: string; url: string }[];
  made: { kind: string; id: string }[];
  state: string;
}

interface Entry {
  kind: string;
  id: string;
  title: string;
  start: string | null;
  end: string | null;
  status: string;
  calendar: string | null;
  showAs?: string;
  occurrence: string | null;
  version: number;
  fixed: boolean;
  taskId: string | null;
}

let server: Running;
let maren: Caller;

beforeAll(async () => {
  server = await startServer('demo');
  maren = new Caller(server.url);
  expect((await maren.post('/session/demo')).status).toBe(204);
});

afterAll(async () => {
  await server.stop();
  clear(server.data);
});

const inbox = async () => (await maren.get<Page>('/incoming?limit=100')).body;
const agenda = async (from: string, days = 1) =>
  (await maren.get<{ entries: Entry[] }>(`/agenda?from=${from}&days=${days}`)).body.entries;

describe('the demo', () => {
  it('has its full size: 240 incoming of which 38 wait, 120 tasks, 90 events in three calendars', async () => {
    expect((await inbox()).total).toBe(38);
    expect((await maren.get<Page>('/incoming?state=decided&limit=1')).body.total).toBe(202);
    expect((await maren.get<unknown[]>('/calendars')).body).toHaveLength(3);
    const counts = await database(server).query<{ tasks: number; events: number }[]>(
      'SELECT (SELECT COUNT(*) FROM task) AS tasks, (SELECT COUNT(*) FROM event) AS events',
    );
    expect(counts[0]).toMatchObject({ events: 90 });
    expect(counts[0]?.tasks).toBe(120);
    const titles = await database(server).query<{ title: string }[]>('SELECT title FROM task');
    expect(new Set(titles.map(({ title }) => title)).size).toBe(120);
  });

  it('is the same every time for the same clock', async () => {
    const lines = (await inbox()).items;
    const other = await startServer('demo');
    const again = new Caller(other.url);
    await again.post('/session/demo');
    expect((await again.get<Page>('/incoming?limit=100')).body.items.map((line) => [line.id, line.subject])).toEqual(
      lines.map((line) => [line.id, line.subject]),
    );
    await other.stop();
    clear(other.data);
  });
});

describe('from a mail to a finished task', () => {
  let id = '';
  let blockId = '';

  it('takes a mail in over SMTP and tells the stream', async () => {
    const abort = new AbortController();
    const signed = (maren as unknown as { headers: Record<string, string> }).headers;
    const stream = await fetch(`${server.url}/api/stream`, { headers: signed, signal: abort.signal });
    const reader = stream.body?.getReader();
    expect(
      await sendMail(server.smtpPort, {
        to: 'maren.holt@capture.example',
        subject: 'Gauge 9',
        text: 'Could you send me the photo by tomorrow? It takes ten minutes.',
      }),
    ).toMatch(/^250/);
    let told = '';
    while (!told.includes('"incoming"')) told += new TextDecoder().decode((await reader?.read())?.value);
    abort.abort();
    const page = await inbox();
    expect(page.total).toBe(39);
    const line = page.items.find((one) => one.subject === 'Gauge 9');
    expect(line?.suggestion).toMatchObject({ title: 'Send the photo', deadline: '2026-08-04' });
    id = line?.id ?? '';
  });

  it('shows it with its evidence, and gives the original back byte for byte', async () => {
    const { body } = await maren.get<Full>(`/incoming/${id}`);
    expect(body.facts.asks).toHaveLength(1);
    expect(body.facts.minutes).toBe(10);
    const original = await maren.get<string>(`/incoming/${id}/original`);
    expect(original.body).toContain('Subject: Gauge 9');
    expect(original.headers.get('content-disposition')).toContain('attachment');
  });

  it('gives it time, and the calendar shows it', async () => {
    const { body } = await maren.post<{ made: { kind: string; id: string }[]; sentence: string }>('/decisions', {
      incoming: [id],
      to: 'time',
      start: '2026-08-04T13:00',
      minutes: 30,
    });
    expect(body.made.map((thing) => thing.kind)).toEqual(['task', 'block']);
    expect(body.sentence).toBe('“Send the photo” has time on Tue 4 Aug at 13:00, 30 min');
    blockId = body.made[1]?.id ?? '';
    expect((await agenda('2026-08-04')).find((one) => one.id === blockId)).toMatchObject({
      kind: 'block',
      title: 'Send the photo',
      start: '2026-08-04T13:00:00+02:00',
      end: '2026-08-04T13:30:00+02:00',
    });
    expect((await inbox()).total).toBe(38);
    expect((await maren.get<Full>(`/incoming/${id}`)).body).toMatchObject({ state: 'decided' });
  });

  it('refuses to decide it again, and says its present state', async () => {
    const { status, body } = await maren.post<{ error: { code: string; present: unknown } }>('/decisions', {
      incoming: [id],
      to: 'drop',
    });
    expect([status, body.error.code]).toEqual([409, 'decided-already']);
  });

  it('moves the block, and refuses a change made on an old version', async () => {
    const [before] = (await agenda('2026-08-04')).filter((one) => one.id === blockId);
    expect(
      (await maren.patch(`/blocks/${blockId}`, { start: '2026-08-05T09:00', minutes: 45, version: before?.version })).status,
    ).toBe(200);
    expect((await agenda('2026-08-05')).find((one) => one.id === blockId)?.end).toBe('2026-08-05T09:45:00+02:00');
    expect(
      (
        await maren.patch<{ error: { code: string } }>(`/blocks/${blockId}`, {
          start: '2026-08-06T09:00',
          minutes: 45,
          version: before?.version,
        })
      ).status,
    ).toBe(409);
  });

  it('ticks it off; the block stays where it was, done', async () => {
    const block = (await agenda('2026-08-05')).find((one) => one.id === blockId);
    expect((await maren.patch(`/tasks/${block?.taskId}`, { status: 'COMPLETED' })).status).toBe(200);
    expect((await agenda('2026-08-05')).find((one) => one.id === blockId)).toMatchObject({
      status: 'COMPLETED',
      start: block?.start,
    });
  });

  it('takes all of it back, step by step and exactly, and does it again', async () => {
    const before = JSON.stringify((await inbox()).items.filter((line) => line.id !== id).map((line) => line.id));
    for (const sentence of [
      '“Send the photo” is done; 45 min of your time is free again',
      '“Send the photo” is on Wed 5 Aug at 9:00',
      '“Send the photo” has time on Tue 4 Aug at 13:00, 30 min',
    ]) {
      expect((await maren.post<{ sentence: string }>('/decisions/undo')).body.sentence).toBe(sentence);
    }
    const page = await inbox();
    expect(page.total).toBe(39);
    expect(JSON.stringify(page.items.filter((line) => line.id !== id).map((line) => line.id))).toBe(before);
    expect((await agenda('2026-08-04')).some((one) => one.id === blockId)).toBe(false);
    expect((await maren.post<{ undone: boolean }>('/decisions/redo')).body.undone).toBe(false);
    expect((await agenda('2026-08-04')).find((one) => one.id === blockId)).toMatchObject({
      start: '2026-08-04T13:00:00+02:00',
      status: 'NEEDS-ACTION',
    });
  });

  it('loses the undone when something else is done, and says when nothing is left', async () => {
    await maren.post('/decisions/undo');
    await maren.post('/captures', { text: 'buy twine' });
    const redo = await maren.post<{ error: { message: string } }>('/decisions/redo');
    expect([redo.status, redo.body.error.message]).toEqual([409, 'There is nothing to do again.']);
  });
});

describe('deciding', () => {
  it.each<[string, object, string[]]>([
    ['list', { list: 'permits' }, ['task']],
    ['day', { day: '2026-08-10' }, ['task']],
    ['week', { week: '2026-W34' }, ['task']],
    ['event', { start: '2026-08-10T10:00' }, ['event']],
    ['hand-over', { with: 'Pia Keller' }, ['task']],
    ['shelf', { lookAgain: '2026-09-01' }, ['task']],
    ['reference', {}, ['reference']],
    ['done', { minutes: 5 }, ['task']],
    ['drop', {}, []],
    ['person', {}, ['person']],
  ])('%s', async (to, fields, kinds) => {
    const { items } = await inbox();
    const line = items.find((one) => one.sender.address);
    const { status, body } = await maren.post<{ made: { kind: string }[] }>('/decisions', {
      incoming: [line?.id],
      to,
      ...fields,
    });
    expect([status, body.made.map((thing) => thing.kind)]).toEqual([200, kinds]);
    // To know who wrote says nothing about what they ask.
    expect((await maren.get<Full>(`/incoming/${line?.id}`)).body.state).toBe(to === 'person' ? 'waiting' : 'decided');
  });

  it.each<[object, string]>([
    [{ to: 'list', list: 'Nowhere' }, 'There is no list “Nowhere”.'],
    [{ to: 'day' }, 'Say on which day, as YYYY-MM-DD.'],
    [{ to: 'day', day: '2026-02-30' }, '2026-02-30 is not a day in the calendar.'],
    [{ to: 'nowhere' }, 'The destination is one of'],
    [{ to: 'time', start: 'soon' }, 'Write the time as'],
    [{ to: 'answer' }, 'This is no invitation that can be answered'],
    [{ to: 'drop', colour: 'red' }, '“Drop” takes no field called “colour”.'],
  ])('refuses %j with a sentence, and changes nothing', async (fields, sentence) => {
    const { items, total } = await inbox();
    const { status, body } = await maren.post<{ error: { message: string } }>('/decisions', {
      incoming: [items[0]?.id],
      ...fields,
    });
    expect(status).toBeGreaterThanOrEqual(400);
    expect(body.error.message).toContain(sentence);
    expect((await inbox()).total).toBe(total);
  });

  it('decides many as one, which one undo takes back', async () => {
    const { items, total } = await inbox();
    const ids = items.slice(0, 5).map((line) => line.id);
    await maren.post('/decisions', { incoming: ids, to: 'drop' });
    expect((await inbox()).total).toBe(total - 5);
    await maren.post('/decisions/undo');
    expect((await inbox()).items.slice(0, 5).map((line) => line.id)).toEqual(ids);
  });

  it('decides all or nothing', async () => {
    const { items, total } = await inbox();
    expect((await maren.post('/decisions', { incoming: [items[0]?.id, 'nosuchthing'], to: 'drop' })).status).toBe(404);
    expect((await inbox()).total).toBe(total);
  });
});

describe('the calendar', () => {
  it('moves one occurrence of a repeating event and leaves the others', async () => {
    const standup = (await agenda('2026-08-10')).find((one) => one.title === 'Stand-up at the hut');
    expect(standup?.occurrence).toBe('2026-08-10T09:00');
    await maren.patch(`/events/${standup?.id}`, { start: '2026-08-11T11:00', minutes: 30, occurrence: standup?.occurrence });
    expect((await agenda('2026-08-10')).some((one) => one.title === 'Stand-up at the hut')).toBe(false);
    expect((await agenda('2026-08-11')).find((one) => one.title === 'Stand-up at the hut')?.start).toBe(
      '2026-08-11T11:00:00+02:00',
    );
    expect((await agenda('2026-08-17')).some((one) => one.title === 'Stand-up at the hut')).toBe(true);
    await maren.post('/decisions/undo');
    expect((await agenda('2026-08-10')).some((one) => one.title === 'Stand-up at the hut')).toBe(true);
  });

  it('refuses to change what comes from outside', async () => {
    const choir = (await agenda('2026-08-03', 7)).find((one) => one.calendar === 'Choir board');
    expect(choir?.fixed).toContain('comes from outside');
    const { status, body } = await maren.patch<{ error: { message: string } }>(`/events/${choir?.id}`, {
      start: '2026-08-08T10:00',
      minutes: 60,
    });
    expect([status, body.error.message]).toEqual([
      403,
      '“Choir board” comes from outside, so its events can only be changed there.',
    ]);
  });

  it('offers only gaps in which nothing is promised, and counts the load', async () => {
    const { days } = (
      await maren.get<{
        days: {
          day: string;
          gaps: { start: string; end: string }[];
          entries: Entry[];
          load: { capacity: number; left: number; over: number };
        }[];
      }>('/days?from=2026-08-03&days=5')
    ).body;
    for (const { gaps, entries, load } of days) {
      const busy = entries.filter(
        (one) => one.kind !== 'task' && one.status !== 'CANCELLED' && one.showAs !== 'free' && one.start && one.end,
      );
      expect(
        gaps.every((gap) =>
          busy.every(
            (one) => Date.parse(one.end ?? '') <= Date.parse(gap.start) || Date.parse(one.start ?? '') >= Date.parse(gap.end),
          ),
        ),
      ).toBe(true);
      expect(load.capacity).toBe(465);
    }
    expect(days[0]?.gaps[0]?.start).toBe('2026-08-03T11:45:00+02:00');
  });
});

describe('the capture line', () => {
  it.each<[string, string]>([
    ['Call the contractor tomorrow 10:00 for 45 min #call >Boardwalk repair', 'block'],
    ['Lunch with Ines Thursday 12:30-13:30', 'event'],
    ['Order seed >In town', 'task'],
    ['Report by Friday', 'task'],
    ['think about fog', 'incoming'],
    ['Water plugs every Monday 9:00', 'block'],
  ])('%s makes a %s', async (text, kind) => {
    const { body } = await maren.post<{ kind: string; id: string; title: string }>('/captures', { text });
    expect(body.kind).toBe(kind);
  });

  it('asks for words when there is nothing but marks', async () => {
    expect((await maren.post<{ error: { fields: object } }>('/captures', { text: 'tomorrow #call' })).body.error.fields).toEqual({
      text: 'The line says when or where, but not what. Add a few words.',
    });
  });
});
