import type { CheckInAnswerInfo, CheckInInfo, DayLogInfo, Done, FindAnswer } from '@corvun/contract';
import { CheckIn } from '../src/lookback/check-in.entities';
import { Caller, NOW, ServerProcess, clear, database, ownServer, tempFolder, until } from './harness';

// It is Monday, 3 August 2026, 10:50 in Vienna.
const QUESTIONS = [
  { text: 'What went well?', kind: 'words' },
  { text: 'How clear was the day?', kind: 'scale', low: 'muddled', high: 'clear' },
  { text: 'Lunch outside?', kind: 'yes-no' },
  { text: 'Where?', kind: 'choice', choices: ['On site', 'At the desk'] },
];
const EVENING = { name: 'End of the day', weekdays: [5, 1, 2, 3, 4], time: '17:00', questions: QUESTIONS };

describe('check-ins', () => {
  const here = ownServer('test');
  const all = async () => (await here.maren.get<CheckInInfo[]>('/check-ins')).body;
  const add = async (input: object = {}) =>
    (await here.maren.post<{ id: string }>('/check-ins', { ...EVENING, ...input })).body.id;
  const answer = (id: string, day: string, answers: object) =>
    here.maren.post<Done & { error: { message: string } }>(`/check-ins/${id}/answers`, { day, answers });
  const answers = async (id: string) => (await here.maren.get<CheckInAnswerInfo[]>(`/check-ins/${id}/answers`)).body;
  const questions = async (id: string) => (await all()).find((one) => one.id === id)?.questions ?? [];
  const given = async (id: string) => {
    const [words, scale, yes, choice] = (await questions(id)).map((one) => one.id);
    return { [words ?? '']: 'The gauges', [scale ?? '']: 4, [yes ?? '']: false, [choice ?? '']: 'On site' };
  };
  const undo = () => here.maren.post('/decisions/undo');
  /** Lets it have been made long ago. */
  const old = (id: string) => database(here.server).getRepository(CheckIn).update({ id }, { created: 0 });

  it('ask on their days from when they were made on', async () => {
    const id = await add();
    expect(await all()).toMatchObject([
      { id, name: 'End of the day', weekdays: [1, 2, 3, 4, 5], open: null, next: '2026-08-03T17:00:00+02:00', version: 1 },
    ]);
    await old(id);
    expect((await all())[0]).toMatchObject({ open: '2026-07-31' });
    expect((await here.maren.patch<Done>(`/check-ins/${id}`, { paused: true })).body.sentence).toBe(
      '“End of the day” does not ask until it goes on',
    );
    expect((await all())[0]).toMatchObject({ open: null, next: null, paused: true });
    await undo();
    expect((await all())[0]).toMatchObject({ open: '2026-07-31', paused: false });
  });

  it('are answered in words, on a scale, by yes or no and by choosing; answered anew; taken back; left out', async () => {
    const id = await add();
    await old(id);
    expect((await answer(id, '2026-07-31', await given(id))).body.sentence).toBe('“End of the day” is answered for Fri 31 Jul');
    expect((await all())[0]?.open).toBeNull();
    const [words = '', scale = ''] = (await questions(id)).map((one) => one.id);
    await answer(id, '2026-07-31', { [scale]: 2, [words]: 'Fog' });
    expect((await answers(id)).map((one) => [one.day, one.answers.map(({ value }) => value)])).toEqual([
      ['2026-07-31', ['Fog', 2]],
    ]);
    await undo();
    expect((await answers(id))[0]?.answers.map(({ value }) => value)).toEqual(['The gauges', 4, false, 'On site']);
    await undo();
    expect([await answers(id), (await all())[0]?.open]).toEqual([[], '2026-07-31']);
    expect((await answer(id, '2026-07-31', {})).body.sentence).toBe('“End of the day” is left out for Fri 31 Jul');
    expect((await all())[0]?.open).toBeNull();
  });

  it('answers are pages of their day, and are found', async () => {
    const id = await add();
    await answer(id, '2026-08-03', await given(id));
    const { entries } = (await here.maren.get<DayLogInfo>('/log?day=2026-08-03')).body;
    expect(entries).toMatchObject([{ kind: 'check-in', title: 'End of the day', thing: { kind: 'checkIn', id } }]);
    expect(entries[0]?.parts.map(({ title, text }) => [title, text])).toEqual([
      ['What went well?', 'The gauges'],
      ['How clear was the day?', '4 of 5'],
      ['Lunch outside?', 'no'],
      ['Where?', 'On site'],
    ]);
    expect((await here.maren.get<DayLogInfo[]>('/log/find?q=gauges')).body.map(({ day }) => day)).toEqual(['2026-08-03']);
    const { found } = (await here.maren.get<FindAnswer>('/find?q=gauges')).body;
    expect(found.map(({ thing, day }) => [thing, day])).toEqual([['log', '2026-08-03']]);
    expect((await here.maren.get<FindAnswer>('/find?q=gauges+%2Blog')).body.found).toHaveLength(1);
    await here.maren.remove(`/check-ins/${id}`);
    expect((await here.maren.get<DayLogInfo>('/log?day=2026-08-03')).body.entries).toEqual([]);
    await undo();
    expect((await answers(id)).length).toBe(1);
  });

  it('keep their answers when questions change: each with the question as it was asked', async () => {
    const id = await add();
    await answer(id, '2026-08-03', await given(id));
    const [words, scale] = await questions(id);
    await here.maren.patch(`/check-ins/${id}`, {
      questions: [
        { ...scale, text: 'How clear?' },
        { text: 'Rain?', kind: 'yes-no' },
      ],
    });
    const after = await questions(id);
    expect(after.map(({ text }) => text)).toEqual(['How clear?', 'Rain?']);
    expect(after[0]?.id).toBe(scale?.id);
    expect((await answers(id))[0]?.answers.map(({ question }) => question.text)).toEqual(QUESTIONS.map(({ text }) => text));
    // For that day, what was asked then is still asked.
    expect((await answer(id, '2026-08-03', { [words?.id ?? '']: 'Still known' })).status).toBe(200);
    expect((await answer(id, '2026-08-02', { [words?.id ?? '']: 'Not asked' })).status).toBe(422);
  });

  it('that is none is refused, and nothing is kept of it', async () => {
    const wrong: [object, number][] = [
      [{ name: ' ' }, 400],
      [{ weekdays: [] }, 400],
      [{ weekdays: [8] }, 400],
      [{ weekdays: [1, 1] }, 400],
      [{ time: '24:00' }, 400],
      [{ questions: [] }, 400],
      [{ questions: [{ text: 'How?', kind: 'mood' }] }, 400],
      [{ questions: [{ text: 'How?', kind: 'scale', low: 'bad' }] }, 422],
      [{ questions: [{ text: 'Where?', kind: 'choice', choices: ['Here'] }] }, 422],
      [{ questions: Array.from({ length: 9 }, () => QUESTIONS[0]) }, 400],
    ];
    for (const [input, status] of wrong)
      expect([input, (await here.maren.post('/check-ins', { ...EVENING, ...input })).status]).toEqual([input, status]);
    expect(await all()).toEqual([]);
  });

  it('an answer that is none is refused with a sentence, and nothing is kept of it', async () => {
    const id = await add();
    const [words = '', scale = ''] = (await questions(id)).map((one) => one.id);
    const said = async (day: string, sent: object) => {
      const { status, body } = await answer(id, day, sent);
      return [status, body.error.message];
    };
    expect(await said('2026-08-03', { [words]: 'Fog', [scale]: 9 })).toEqual([
      422,
      'How clear was the day? The scale goes from 1 to 5.',
    ]);
    expect(await said('2026-08-03', { nothing: 1 })).toEqual([422, 'There is no such question in this check-in.']);
    expect(await said('2026-08-04', { [words]: 'Fog' })).toEqual([422, 'Tue 4 Aug is still to come.']);
    expect(await answers(id)).toEqual([]);
  });
});

it('ask when it is time, by mail where that is wanted, each day once, also after a kill', async () => {
  const data = tempFolder();
  const mails = async (maren: Caller) =>
    (await maren.get<{ what: string; kind: string }[]>('/outbox')).body.filter(({ what }) => what === 'End of the day').length;
  let server = await ServerProcess.start(data, { CORVUN_NOW: NOW, CORVUN_FOLDERS: '' });
  const maren = new Caller(server.url);
  await maren.post('/account', {
    ...{ name: 'Maren Holt', email: 'maren.holt@alderfen.example', password: 'ten letters at least', zone: 'Europe/Vienna' },
  });
  const { id } = (await maren.post<{ id: string }>('/check-ins', { ...EVENING, byMail: true })).body;
  const restart = async (now: string) => {
    await server.kill();
    server = await ServerProcess.start(data, { CORVUN_NOW: now, CORVUN_FOLDERS: '', ...server.samePorts });
  };
  await restart('2026-08-03T17:00:05+02:00');
  await until(async () => (await mails(maren)) === 1, 'the mail that asks');
  expect((await maren.get<CheckInInfo[]>('/check-ins')).body[0]?.open).toBe('2026-08-03');
  await restart('2026-08-03T17:30:00+02:00');
  // A look of its own has come and gone when what is asked after it is.
  await maren.patch(`/check-ins/${id}`, { name: 'End of the day' });
  await restart('2026-08-04T17:00:05+02:00');
  await until(async () => (await mails(maren)) === 2, 'the mail of the next day');
  expect((await maren.get<CheckInInfo[]>('/check-ins')).body[0]?.open).toBe('2026-08-04');
  await server.kill();
  clear(data);
});
