import type { AgendaEntry, Done, IncomingFull, Nudge, TaskChanged, TaskFull, TaskInfo } from '@corvun/contract';
import { ownServer, sendMail, until, type Page } from './harness';

// It is Monday, 3 August 2026, 10:50 in Vienna.
const here = ownServer('test');
const tasks = async () => (await here.maren.get<TaskInfo[]>('/tasks')).body;
const open = async (title: string) => (await tasks()).filter((one) => one.title === title && one.status === 'NEEDS-ACTION');
const full = async (id: string) => (await here.maren.get<TaskFull>(`/tasks/${id}`)).body;
const make = async (line: string, change: object = {}) => {
  const id = (await here.maren.post<{ ids: string[] }>('/tasks', { lines: [line] })).body.ids[0] ?? '';
  if (Object.keys(change).length) await here.maren.patch(`/tasks/${id}`, change);
  return id;
};
const finish = async (id: string, more: object = {}) =>
  (await here.maren.patch<TaskChanged>(`/tasks/${id}`, { status: 'COMPLETED', ...more })).body;
const undo = () => here.maren.post('/decisions/undo');
const blocksOn = async (day: string) =>
  (await here.maren.get<{ entries: AgendaEntry[] }>(`/agenda?from=${day}&days=1`)).body.entries
    .filter(({ kind }) => kind === 'block')
    .map(({ title, start, end }) => `${title} ${start?.slice(11, 16)}-${end?.slice(11, 16)}`);

describe('a repeating task', () => {
  it('comes again when it is done; undo takes both back as one, redo does both again', async () => {
    const id = await make('Water the seedlings every Monday');
    const { sentence } = await finish(id);
    expect(sentence).toBe('“Water the seedlings” is done; the next one is on Mon 10 Aug');
    const [next, ...others] = await open('Water the seedlings');
    expect(others).toEqual([]);
    expect(next).toMatchObject({ plannedDay: '2026-08-10', repeatOn: '2026-08-10', repeat: 'FREQ=WEEKLY;BYDAY=MO', spent: 0 });
    expect(await full(id)).toMatchObject({ status: 'COMPLETED', repeat: null, repeatOn: '2026-08-03' });
    await undo();
    expect((await open('Water the seedlings')).map((one) => [one.id, one.repeat])).toEqual([[id, 'FREQ=WEEKLY;BYDAY=MO']]);
    await here.maren.post('/decisions/redo');
    expect((await open('Water the seedlings')).map((one) => one.id)).toEqual([next?.id]);
  });

  it('opened again and done once more has no second next one', async () => {
    const id = await make('Water the seedlings every day');
    await finish(id);
    await here.maren.patch(`/tasks/${id}`, { status: 'NEEDS-ACTION' });
    await finish(id);
    expect(await open('Water the seedlings')).toHaveLength(1);
  });

  it('keeps its schedule where it was moved, and comes whole: steps, files, time on its day', async () => {
    const id = await make('Walk the boardwalk today 45 min', { repeat: 'FREQ=WEEKLY', tags: ['site'] });
    await here.maren.post('/tasks', { lines: ['Planks', 'Rails', 'Signs'], parent: id });
    const form = new FormData();
    form.append('files', new Blob(['planks and rails']), 'list.txt');
    await here.maren.post(`/tasks/${id}/files`, form);
    await here.maren.patch(`/tasks/${id}`, { plannedDay: '2026-08-05' });
    await here.maren.post('/blocks', { taskId: id, start: '2026-08-05T14:00', minutes: 45 });
    const [planks, , signs] = (await full(id)).steps;
    await finish(planks?.id ?? '');
    await here.maren.patch(`/tasks/${signs?.id}`, { status: 'CANCELLED' });
    expect((await finish(id, { steps: 'done' })).sentence).toContain('; the next one is on Mon 10 Aug, 14:00');
    const [next] = await open('Walk the boardwalk');
    const found = await full(next?.id ?? '');
    expect(found).toMatchObject({
      plannedDay: '2026-08-10',
      estimate: 45,
      tags: ['site'],
      nextDays: ['2026-08-10', '2026-08-17', '2026-08-24', '2026-08-31', '2026-09-07'],
    });
    expect(found.steps.map(({ title, status }) => [title, status])).toEqual([
      ['Planks', 'NEEDS-ACTION'],
      ['Rails', 'NEEDS-ACTION'],
    ]);
    expect(found.attachmentList.map(({ name }) => name)).toEqual(['list.txt']);
    expect(await blocksOn('2026-08-10')).toEqual(['Walk the boardwalk 14:00-14:45']);
    expect((await full(id)).steps.every(({ status }) => status === 'COMPLETED')).toBe(true);
  });

  it('is skipped: the same task is on its next date, with its time and its steps open again', async () => {
    const id = await make('Walk the boardwalk today 45 min', { repeat: 'FREQ=WEEKLY;COUNT=2', deadline: '2026-08-04T12:00' });
    await here.maren.post('/tasks', { lines: ['Planks'], parent: id });
    await finish((await full(id)).steps[0]?.id ?? '');
    await here.maren.post('/blocks', { taskId: id, start: '2026-08-03T15:00', minutes: 45 });
    const { body } = await here.maren.post<Done>(`/tasks/${id}/skipping`);
    expect(body.sentence).toBe('“Walk the boardwalk” is skipped; the next one is on Mon 10 Aug, 15:00');
    expect(await full(id)).toMatchObject({
      ...{ plannedDay: '2026-08-10', deadline: '2026-08-11T12:00', repeat: 'FREQ=WEEKLY;COUNT=1' },
      steps: [{ status: 'NEEDS-ACTION' }],
    });
    expect([await blocksOn('2026-08-03'), await blocksOn('2026-08-10')]).toEqual([[], ['Walk the boardwalk 15:00-15:45']]);
    const last = await here.maren.post(`/tasks/${id}/skipping`);
    expect(last.status).toBe(422);
    expect(last.body).toMatchObject({
      error: { code: 'no-next-date', message: expect.stringContaining('no date after this one') as string },
    });
    await undo();
    expect(await full(id)).toMatchObject({ plannedDay: '2026-08-03', steps: [{ status: 'COMPLETED' }] });
    expect((await finish(id)).sentence).toContain('; the next one is on Mon 10 Aug');
    const [next] = await open('Walk the boardwalk');
    expect((await finish(next?.id ?? '')).sentence).toContain('; that was the last one');
    expect(await open('Walk the boardwalk')).toEqual([]);
  });

  it('done late counts from the schedule or from completion, and says what passed', async () => {
    const late = await make('Read the gauge', { repeat: 'FREQ=DAILY', plannedDay: '2026-07-31' });
    expect((await finish(late)).sentence).toBe(
      '“Read the gauge” is done; the next one is on Mon 3 Aug, 2 dates that passed left out',
    );
    const after = await make('Clean the pump', {
      repeat: 'FREQ=DAILY;INTERVAL=10',
      repeatFrom: 'completion',
      plannedDay: '2026-07-31',
    });
    expect((await finish(after)).sentence).toBe('“Clean the pump” is done; the next one is on Thu 13 Aug');
  });

  it('keeps its time by the clock when the clocks change, and when its owner is in another zone', async () => {
    const id = await make('Call the office', { repeat: 'FREQ=WEEKLY', plannedDay: '2026-10-19', deadline: '2026-10-19T17:00' });
    await here.maren.post('/blocks', { taskId: id, start: '2026-10-19T09:30', minutes: 30 });
    await finish(id);
    const [next] = await open('Call the office');
    expect(next).toMatchObject({ plannedDay: '2026-10-26', deadline: '2026-10-26T17:00' });
    // The clocks went back the night before.
    expect(next?.blocks).toMatchObject([{ start: '2026-10-26T09:30:00+01:00' }]);
    await here.maren.patch('/settings', { zone: 'America/Halifax' });
    await finish(next?.id ?? '');
    const [third] = await open('Call the office');
    // In Halifax that time was 5:30; a week later it still is, although there the clocks went back, too.
    expect(third).toMatchObject({ plannedDay: '2026-11-02', deadline: '2026-11-02T17:00' });
    expect(third?.blocks).toMatchObject([{ start: '2026-11-02T05:30:00-04:00' }]);
  });

  it('many done together come again together', async () => {
    const ids = [await make('Read the gauge every day'), await make('Feed the ducks every day'), await make('Once only')];
    const { body } = await here.maren.post<Done>('/tasks/change', { ids, change: { status: 'COMPLETED' } });
    expect(body.sentence).toBe('3 tasks: done; 2 of them come again');
    expect(
      (await tasks())
        .filter(({ plannedDay }) => plannedDay === '2026-08-04')
        .map(({ title }) => title)
        .sort(),
    ).toEqual([...['Feed the ducks', 'Read the gauge']]);
  });
});

describe('waiting on somebody', () => {
  const TO = 'maren@capture.example';
  const FROM = 'Tomas Rieger <tomas.rieger@county-water.example>';
  const mail = (raw: string) => sendMail(here.server.smtpPort, { to: TO, raw });
  const inbox = async () => (await here.maren.get<Page>('/incoming?limit=50')).body.items;
  const outbox = async () => (await here.maren.get<{ id: string; what: string }[]>('/outbox')).body;
  const arrived = async (subject: string) =>
    until(async () => (await inbox()).find((one) => one.subject === subject)?.id, subject);
  const asked = async () => {
    await mail(`From: ${FROM}\nTo: ${TO}\nSubject: Readings\nMessage-ID: <r1@county-water.example>\n\nWhich gauges do you need?`);
    const incoming = await arrived('Readings');
    const { body } = await here.maren.post<{ made: { id: string }[] }>('/decisions', {
      ...{ incoming: [incoming], to: 'hand-over', with: 'Tomas Rieger', title: 'Readings of July' },
    });
    return body.made[0]?.id ?? '';
  };

  it('they are asked once more by mail in the same thread; undo holds it back', async () => {
    const id = await asked();
    const { body: draft } = await here.maren.get<Nudge>(`/tasks/${id}/nudge`);
    expect(draft).toMatchObject({
      ...{ to: { address: 'tomas.rieger@county-water.example' }, subject: 'Re: Readings', inReplyTo: 'r1@county-water.example' },
      text: expect.stringContaining('“Readings of July”') as string,
    });
    const { body } = await here.maren.post<Done>(`/tasks/${id}/nudge`, { text: 'Any news, Tomas?' });
    expect(body.sentence).toBe('Tomas Rieger is asked again for “Readings of July”');
    expect((await full(id)).nudged).toMatch(/^2026-08-03T10:5/);
    const waiting = async () => (await outbox()).filter(({ what }) => what.startsWith('Ask '));
    expect(await waiting()).toMatchObject([{ what: 'Ask Tomas Rieger again: Readings of July' }]);
    await undo();
    expect(await waiting()).toEqual([]);
    expect((await full(id)).nudged).toBeNull();
  });

  it('their answer ends it, another’s does not; the message says which task waited for it', async () => {
    const id = await asked();
    const reply = (from: string, at: number) =>
      mail(
        `From: ${from}\nTo: ${TO}\nSubject: Re: Readings ${at}\nMessage-ID: <a${at}@x.example>\nReferences: <r1@county-water.example>\n\nAll of July, attached.`,
      );
    await reply('Ida Brandt <ida@alderfen.example>', 1);
    await arrived('Re: Readings 1');
    expect((await full(id)).waitingOn).toBe('Tomas Rieger');
    await reply(FROM, 2);
    const answer = await arrived('Re: Readings 2');
    const task = await full(id);
    expect(task).toMatchObject({ waitingOn: null, waitingSince: null, answeredBy: answer, status: 'NEEDS-ACTION' });
    expect(task.history.at(-1)?.what).toContain('Tomas Rieger answered');
    expect((await here.maren.get<IncomingFull>(`/incoming/${answer}`)).body.answers).toEqual([{ id, title: 'Readings of July' }]);
  });

  it('asked by a mail of its own, the answer to that mail ends it; without an address it says what is missing', async () => {
    const id = await make('Key of the hut', { waitingOn: 'Jonas' });
    const none = await here.maren.get(`/tasks/${id}/nudge`);
    expect(none.body).toMatchObject({ error: { code: 'no-address', message: expect.stringContaining('Jonas') as string } });
    expect((await here.maren.get(`/tasks/${await make('Nobody')}/nudge`)).body).toMatchObject({
      error: { code: 'waits-for-nobody' },
    });
    await here.maren.post('/people', { name: 'Jonas Weber', address: 'jonas@crew.example' });
    await here.maren.post(`/tasks/${id}/nudge`, {});
    const entry = (await outbox()).find(({ what }) => what.startsWith('Ask '));
    const me = (await here.maren.get<{ email: string }>('/me')).body.email;
    await mail(
      `From: Jonas <jonas@crew.example>\nTo: ${TO}\nSubject: Re: Key of the hut\nMessage-ID: <k@crew.example>\nReferences: <${entry?.id}@${me.split('@')[1]}>\n\nUnder the stone.`,
    );
    const answer = await arrived('Re: Key of the hut');
    expect(await full(id)).toMatchObject({ waitingOn: null, answeredBy: answer });
  });

  it('a task is handed over: they are asked by mail, its time to come is free, and their answer ends the waiting', async () => {
    const id = await make('Survey the dyke', { estimate: 90, deadline: '2026-08-07', deadlineFixed: true });
    await here.maren.post('/blocks', { taskId: id, start: '2026-08-04T14:00', minutes: 90 });
    const before = await full(id);
    const ask = async (body: object) => here.maren.post<Done>(`/tasks/${id}/handing-over`, body);
    expect((await here.maren.get(`/tasks/${id}/handing-over`)).status).toBe(422);
    const unknown = await ask({ to: 'Jonas' });
    expect([unknown.status, unknown.body]).toMatchObject([422, { error: { code: 'no-address' } }]);
    expect(await full(id)).toMatchObject({ waitingOn: null, blocks: [{}] });
    await here.maren.post('/people', { name: 'Jonas Weber', address: 'jonas@crew.example' });
    const { body: draft } = await here.maren.get<Nudge>(`/tasks/${id}/handing-over?to=Jonas`);
    expect(draft).toMatchObject({ to: { name: 'Jonas Weber', address: 'jonas@crew.example' }, subject: 'Survey the dyke' });
    expect(draft.text).toContain('It is due Fri 7 Aug, and that will not move. I reckon with 1 h 30 for it.');
    expect((await ask({ to: 'Jonas' })).body.sentence).toBe(
      '“Survey the dyke” is handed over to Jonas Weber; 1 h 30 of your time is free again',
    );
    expect(await full(id)).toMatchObject({ waitingOn: 'Jonas Weber', waitingUntil: '2026-08-07', plannedDay: null, blocks: [] });
    await undo();
    expect(await full(id)).toMatchObject({ waitingOn: null, plannedDay: before.plannedDay, blocks: [{}] });
    expect((await outbox()).filter(({ what }) => what.startsWith('Hand over'))).toEqual([]);
    expect((await ask({ to: 'Nobody Known', mail: false })).body.sentence).toContain('is handed over to Nobody Known');
    await undo();

    await ask({ to: 'jonas@crew.example', text: 'Could you?' });
    const entry = (await outbox()).find(({ what }) => what.startsWith('Hand over'));
    const me = (await here.maren.get<{ email: string }>('/me')).body.email;
    await mail(
      `From: Jonas <jonas@crew.example>\nTo: ${TO}\nSubject: Re: dyke\nMessage-ID: <d@crew.example>\nReferences: <${entry?.id}@${me.split('@')[1]}>\n\nDone.`,
    );
    const answer = await arrived('Re: dyke');
    expect(await full(id)).toMatchObject({ waitingOn: null, answeredBy: answer });
    await finish(id);
    expect((await ask({ to: 'Jonas' })).status).toBe(422);
  });
});

describe('tasks that are put off together', () => {
  it('give back the time of a day that has not begun, as one; that of other days stays', async () => {
    const id = await make('Label the maps', { plannedDay: '2026-08-03' });
    for (const start of ['2026-08-03T10:00', '2026-08-03T15:00', '2026-08-05T15:00'])
      await here.maren.post('/blocks', { taskId: id, start, minutes: 30 });
    const change = { plannedDay: '2026-08-04' };
    const { body } = await here.maren.post<Done>('/tasks/change', { ids: [id], change, freeOn: '2026-08-03' });
    expect(body.sentence).toBe('“Label the maps” is on Tue 4 Aug; 30 min of your time is free again');
    expect(await blocksOn('2026-08-03')).toEqual(['Label the maps 10:00-10:30']);
    expect(await blocksOn('2026-08-05')).toHaveLength(1);
    await undo();
    expect(await blocksOn('2026-08-03')).toHaveLength(2);
    expect(await full(id)).toMatchObject({ plannedDay: '2026-08-03' });
  });
});
