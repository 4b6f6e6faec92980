import type { WeatherInfo } from '@corvun/contract';
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { Caller, NOW, ServerProcess, clear, tempFolder } from './harness';

// It is Monday, 3 August 2026, 10:50 in Vienna.
const DAY = '2026-08-06';
const data = tempFolder();
const HOURS = [
  { hour: 9, celsius: 17.5, rain: 0, wind: 12 },
  { hour: 10, celsius: 18.2, rain: 1.2, wind: 14 },
];
let asked: string[] = [];
let answer: unknown = { hours: HOURS };
let service: Server;
let server: ServerProcess;
let maren: Caller;

const on = async (day = DAY) => (await maren.get<{ weather: WeatherInfo | null }>(`/weather?day=${day}`)).body.weather;
const choose = (outside: object) => maren.patch('/settings', { outside });
const event = (input: object) =>
  maren.post('/events', { title: 'Reed zone survey', start: `${DAY}T09:30`, minutes: 150, location: 'Reed zone', ...input });

beforeAll(async () => {
  service = createServer((request, response) => {
    asked.push(decodeURIComponent((request.url ?? '').replaceAll('+', ' ')));
    response.setHeader('Content-Type', 'application/json').end(JSON.stringify(answer));
  });
  await new Promise<void>((done) => service.listen(0, '127.0.0.1', done));
  const { port } = service.address() as AddressInfo;
  server = await ServerProcess.start(data, {
    ...{ CORVUN_NOW: NOW, CORVUN_FOLDERS: '', CORVUN_ALLOW_PRIVATE: '1' },
    CORVUN_WEATHER: `http://127.0.0.1:${port}`,
  });
  maren = new Caller(server.url);
  await maren.post('/account', {
    ...{ name: 'Maren Holt', email: 'maren.holt@alderfen.example', password: 'ten letters at least', zone: 'Europe/Vienna' },
  });
});

beforeEach(() => {
  asked = [];
});

afterAll(async () => {
  await server.kill();
  service.close();
  clear(data);
});

it('asks for nothing where nothing says what work outside is, and on days without it', async () => {
  await event({});
  expect(await on()).toBeNull();
  await choose({ words: ['survey', 'Reed zone'] });
  expect(await on('2026-08-05')).toBeNull();
  expect(asked).toEqual([]);
});

it('tells the weather at the place of the day, and asks for it once', async () => {
  expect(await on()).toEqual({ day: DAY, place: 'Reed zone', outside: ['Reed zone survey'], hours: HOURS, problem: '' });
  await on();
  expect(asked).toEqual([`/days/${DAY}?place=Reed zone`]);
});

it('goes by tags of what is planned and of what was worked on; its place is the one that is said', async () => {
  const [id] = (await maren.post<{ ids: string[] }>('/tasks', { lines: ['Count the orchids #survey'] })).body.ids;
  await maren.patch(`/tasks/${id}`, { plannedDay: '2026-08-04' });
  // Nobody said where.
  expect(await on('2026-08-04')).toBeNull();
  await choose({ place: 'Lower Fen' });
  expect(await on('2026-08-04')).toMatchObject({ place: 'Lower Fen', outside: ['Count the orchids'] });
  await maren.post(`/tasks/${id}/time`, { start: '2026-08-01T09:00', minutes: 30 });
  expect(await on('2026-08-01')).toMatchObject({ place: 'Lower Fen', outside: ['Count the orchids'] });
});

it('says so where the service answers with what is none, and shows nothing of it', async () => {
  const at = async (location: string, wrong: unknown) => {
    answer = wrong;
    await choose({ words: [location] });
    await event({ title: location, location, start: '2026-08-07T09:30' });
    const weather = await on('2026-08-07');
    return [weather?.place, weather?.hours, weather?.problem];
  };
  const cannot = 'The weather service sent what cannot be read.';
  expect(await at('Gate 1', { hours: 'sunny' })).toEqual(['Gate 1', [], cannot]);
  expect(await at('Gate 2', { hours: [{ hour: 25, celsius: 10, rain: 0, wind: 0 }] })).toEqual(['Gate 2', [], cannot]);
  expect(await at('Gate 3', null)).toEqual(['Gate 3', [], cannot]);
  service.close();
  service.closeAllConnections();
  expect((await at('Gate 4', {}))[2]).toMatch(/does not answer/);
});
