import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const main = join(__dirname, '../dist/main.js');
const folder = mkdtempSync(join(tmpdir(), 'corvun-cli-'));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

function corvun(...args: string[]): { code: number | null; out: string; err: string } {
  const { status, stdout, stderr } = spawnSync(process.execPath, [main, ...args], {
    encoding: 'utf8',
    cwd: folder,
    env: { ...process.env, CORVUN_DATA: folder, CORVUN_TOKEN: '' },
  });
  return { code: status, out: stdout, err: stderr };
}

const file = (name: string, text: string) => {
  writeFileSync(join(folder, name), text);
  return name;
};

const CALENDAR = [
  'BEGIN:VCALENDAR',
  'VERSION:2.0',
  'BEGIN:VEVENT',
  'UID:1',
  'DTSTART;TZID=Europe/Vienna:20260803T100000',
  'DTEND;TZID=Europe/Vienna:20260803T110000',
  'RRULE:FREQ=DAILY;COUNT=3',
  'SUMMARY:Walk',
  'END:VEVENT',
  'BEGIN:VEVENT',
  'UID:2',
  'DTSTART;TZID=Europe/Vienna:20260803T130000',
  'DTEND;TZID=Europe/Vienna:20260803T173000',
  'TRANSP:TRANSPARENT',
  'SUMMARY:Free',
  'END:VEVENT',
  'END:VCALENDAR',
  '',
].join('\r\n');

describe('corvun on the command line', () => {
  it('prints one JSON value for a line, and what is wrong with it on standard error', () => {
    const { code, out, err } = corvun(
      'parse',
      'Call the contractor tomorrow 10:00 for 45 min #call >Boardwalk repair, not 31 June',
      '--now',
      '2026-08-03T09:00',
      '--zone',
      'Europe/Vienna',
      '--json',
    );
    expect([code, err]).toEqual([0, '“31 June” is not a date, so it stays in the title.\n']);
    expect(JSON.parse(out)).toMatchObject({
      kind: 'task',
      date: '2026-08-04',
      time: '10:00',
      endTime: null,
      minutes: 45,
      week: null,
      deadline: null,
      deadlineFixed: false,
      priority: 'normal',
      tags: ['call'],
      people: [],
      repeat: null,
    });
  });

  it('gives free gaps around what is busy', () => {
    const { out } = corvun(
      'free',
      file('a.ics', CALENDAR),
      '--from',
      '2026-08-03T00:00',
      '--to',
      '2026-08-05T00:00',
      '--hours',
      '09:00-12:00',
      '--days',
      '1-5',
      '--minutes',
      '45',
      '--zone',
      'Europe/Vienna',
      '--json',
    );
    expect(JSON.parse(out)).toEqual([
      { start: '2026-08-03T09:00:00+02:00', end: '2026-08-03T10:00:00+02:00' },
      { start: '2026-08-03T11:00:00+02:00', end: '2026-08-03T12:00:00+02:00' },
      { start: '2026-08-04T09:00:00+02:00', end: '2026-08-04T10:00:00+02:00' },
      { start: '2026-08-04T11:00:00+02:00', end: '2026-08-04T12:00:00+02:00' },
    ]);
  });

  it('expands repeats in order', () => {
    const { out } = corvun(
      'expand',
      file('b.ics', CALENDAR),
      '--from',
      '2026-08-03T00:00',
      '--to',
      '2026-08-04T00:00',
      '--zone',
      'Europe/Vienna',
      '--json',
    );
    expect((JSON.parse(out) as { uid: string; title: string }[]).map((one) => [one.uid, one.title])).toEqual([
      ['1', 'Walk'],
      ['2', 'Free'],
    ]);
  });

  it('reads the facts of a message', () => {
    const name = file(
      'm.eml',
      'From: Tomas <t@county.example>\r\nDate: Sun, 2 Aug 2026 18:20:00 +0200\r\n\r\nCould you send it by Friday? It takes half an hour.\r\n',
    );
    const facts = JSON.parse(corvun('facts', name, '--now', '2026-08-03T09:00', '--zone', 'Europe/Vienna', '--json').out) as {
      text: string;
      asks: { text: string; start: number; end: number }[];
      dates: { value: string; role: string }[];
      minutes: number;
    };
    expect(facts.text.slice(facts.asks[0]?.start, facts.asks[0]?.end)).toBe('Could you send it by Friday?');
    expect(facts).toMatchObject({ minutes: 30, dates: [{ value: '2026-08-07', role: 'deadline' }] });
  });

  it('says the last safe start of work, and lays it out', () => {
    const name = file(
      'week.json',
      JSON.stringify({
        ...{ zone: 'Europe/Vienna', from: '2026-08-03T09:00', days: 2, grid: 15, deep: ['09:00-12:00'] },
        hours: { 1: ['09:00-12:00', '13:00-17:30'], 2: ['09:00-12:00'] },
        busy: [['2026-08-03T10:00', '2026-08-03T11:00']],
        tasks: [
          { id: 'a', minutes: 90, minChunk: 30, priority: 'high', deadline: '2026-08-03T17:00', fixed: true, after: ['b'] },
          { id: 'b', minutes: 60, priority: 'low', deadline: '2026-08-03T14:00' },
          { id: 'c', minutes: 600 },
        ],
      }),
    );
    expect(JSON.parse(corvun('safe-start', name, '--json').out)).toEqual([
      { id: 'a', lastSafeStart: '2026-08-03T15:30:00+02:00', lateMinutes: 0 },
      { id: 'b', lastSafeStart: '2026-08-03T13:00:00+02:00', lateMinutes: 0 },
    ]);
    const { blocks, unplaced, cost } = JSON.parse(corvun('plan', name, '--json').out) as {
      blocks: { task: string; start: string; end: string }[];
      unplaced: { task: string; minutes: number; reason: string }[];
      cost: number;
    };
    expect(blocks).toEqual([
      { task: 'b', start: '2026-08-03T09:00:00+02:00', end: '2026-08-03T10:00:00+02:00' },
      { task: 'a', start: '2026-08-03T13:00:00+02:00', end: '2026-08-03T14:30:00+02:00' },
    ]);
    expect(unplaced).toMatchObject([{ task: 'c', minutes: 600, reason: 'There are not 10 h of free working time for it.' }]);
    expect(cost).toBeCloseTo(1 / 24 + (9 * 5.5) / 24 + 3 * 600, 9);
    expect(corvun('plan', name).out).toContain('no place: c. There are not 10 h of free working time for it.');
  });

  it('says what is wrong with a planning problem', () => {
    const [none, broken] = [file('none.json', '{}'), file('broken.json', '{')];
    expect(corvun('plan', none, '--json')).toEqual({ code: 1, out: '', err: 'none.json: zone is missing; it is a text.\n' });
    const { code, err } = corvun('safe-start', broken);
    expect(code).toBe(1);
    expect(err).toMatch(/^broken.json is no JSON/);
  });

  it.each<[string[], number]>([
    [['plan', 'nowhere.json'], 1],
    [['safe-start'], 2],
    [['plan'], 2],
    [['plan', '--week', '2026-W32', '--server', 'http://127.0.0.1:9', '--token', 't'], 1],
    [['parse', 'x', '--zone', 'Fen/Hut'], 2],
    [['parse'], 2],
    [['nonsense'], 2],
    [['free', 'a.ics', '--from', 'soon', '--to', '2026-08-05'], 2],
    [['free', 'a.ics', '--from', '2026-08-05', '--to', '2026-08-03'], 2],
    [['free', 'none.ics', '--from', '2026-08-03', '--to', '2026-08-05'], 1],
    [['facts', 'none.eml'], 1],
    [['inbox', '--server', 'http://127.0.0.1:9', '--token', 't'], 1],
    [['inbox'], 1],
    [['decide', 'x', '--to', 'moon'], 2],
  ])('%j ends with %i and a sentence', (args, code) => {
    const result = corvun(...args, '--json');
    expect([result.code, result.out]).toEqual([code, '']);
    expect(result.err.length).toBeGreaterThan(10);
  });
});
