import { MINUTE, instantOf } from '../time/zones';
import {
  dayLogMarkdown,
  inLogOrder,
  readLogLine,
  runsOf,
  tellQuiet,
  tellRun,
  tellSpentOn,
  type LogDecision,
  type LogEntry,
} from './dayLog';

const ZONE = 'Europe/Vienna';
const at = (time: string) => instantOf(`2026-07-29T${time}`, ZONE);
const decision = (time: string, to: LogDecision['to'], title = 'Gate key'): LogDecision => ({
  ...{ id: `${time} ${title}`, at: at(time), title, to },
});
const entry = (own: Partial<LogEntry>): LogEntry => ({
  ...{ kind: 'done', id: 'one', at: at('09:50'), title: 'Read the quote', text: 'done', thing: null, parts: [] },
  ...{ listId: null, calendarId: null },
  ...own,
});

describe('decisions of a day', () => {
  it('are told as they were made in one go', () => {
    const runs = runsOf([
      decision('11:40', 'drop'),
      decision('10:40', 'list'),
      decision('10:59', 'drop'),
      decision('10:50', 'hand-over'),
      decision('10:50', 'list', 'A second one'),
    ]);
    expect(runs.map((run) => run.map((one) => one.to))).toEqual([['list', 'list', 'hand-over', 'drop'], ['drop']]);
    expect(runs.map(tellRun)).toEqual(['2 on a list, 1 handed over, 1 dropped', '1 dropped']);
  });

  it('go on as long as the pause between two is short, however long it takes in all', () => {
    const all = Array.from({ length: 10 }, (_, index) => ({
      ...decision('10:00', 'drop'),
      at: at('10:00') + index * 20 * MINUTE,
    }));
    expect(runsOf(all)).toHaveLength(1);
    expect(runsOf([...all, { ...decision('10:00', 'drop'), at: at('10:00') + 200 * MINUTE + 1 }])).toHaveLength(2);
  });
});

describe('time of a day', () => {
  it.each([
    [{ done: true, spent: 45, took: 45, estimate: 30 }, 'done, planned 30 min, took 45 min'],
    [{ done: true, spent: 20, took: 80, estimate: 60 }, 'done, planned 1 h, took 1 h 20, 20 min of it on this day'],
    [{ done: true, spent: 0, took: 0, estimate: null }, 'done'],
    [{ done: true, spent: 0, took: 50, estimate: null }, 'done, took 50 min'],
    [{ done: false, spent: 90, took: 90, estimate: 240 }, '1 h 30 of 4 h, still open'],
    [{ done: false, spent: 30, took: 90, estimate: null }, '30 min, 1 h 30 in all, still open'],
  ])('%o is told as “%s”', (spent, said) => {
    expect(tellSpentOn(spent)).toBe(said);
  });
});

describe('a day in Markdown', () => {
  const heading = (day: string) => `Day ${day}`;

  it('is a heading and a list in order, and no text of a message is markup', () => {
    const entries = inLogOrder([
      entry({}),
      entry({ id: 'two', kind: 'line', at: at('08:05'), title: '# <b>Fog</b>\n*all* morning', text: '' }),
      entry({ id: 'all', kind: 'attended', at: null, title: 'Volunteer weekend', text: 'all day' }),
      entry({
        ...{ id: 'run', kind: 'sorted', at: at('10:40'), title: 'Sorted 2 incoming', text: '2 dropped' },
        parts: [{ title: 'Gate_key', text: 'dropped', thing: null }],
      }),
    ]);
    expect(dayLogMarkdown([{ day: '2026-07-29', entries }], heading, ZONE).split('\n')).toEqual([
      '# Day 2026-07-29',
      '',
      '- **Volunteer weekend**: all day',
      '- 8:05 \\# \\<b\\>Fog\\</b\\> \\*all\\* morning',
      '- 9:50 **Read the quote**: done',
      '- 10:40 **Sorted 2 incoming**: 2 dropped',
      '  - **Gate\\_key**: dropped',
      '',
    ]);
  });

  it('says so where nothing is', () => {
    expect(dayLogMarkdown([{ day: '2026-07-29', entries: [] }], heading, ZONE)).toContain('Nothing is written down');
  });
});

describe('quiet time that is over', () => {
  const sites = ['fen-news.example', 'marsh-board.example'];
  const held = { start: at('10:00'), sites };
  const look = (site: string, from: string, to: string) => ({ site, start: at(from), end: at(to) });
  const told = (more: Partial<Parameters<typeof tellQuiet>[0]>) =>
    tellQuiet({ start: at('10:00'), end: at('11:30'), held: null, awaited: false, graces: [], ...more }, ZONE);

  it('says what was held back, from when on, and what was looked at all the same', () => {
    expect(told({})).toBe('quiet for 1 h 30');
    expect(told({ held })).toBe('quiet for 1 h 30, 2 sites held back');
    expect(told({ held: { start: at('10:20'), sites: ['fen-news.example'] } })).toBe(
      'quiet for 1 h 30, 1 site held back from 10:20 on',
    );
    expect(told({ held: { ...held, sites: [] } })).toBe('quiet for 1 h 30');
    const graces = [
      look('fen-news.example', '10:10', '10:15'),
      look('marsh-board.example', '10:20', '10:25'),
      look('fen-news.example', '11:28', '11:30'),
    ];
    expect(told({ held, graces })).toBe(
      'quiet for 1 h 30, 2 sites held back, fen-news.example looked at 2 times, 7 min, marsh-board.example looked at for 5 min',
    );
  });

  it('says that nothing was, where something should have been there', () => {
    expect(told({ awaited: true })).toBe('quiet for 1 h 30, nothing was held back: the extension was away');
    expect(told({ awaited: true, held })).toBe('quiet for 1 h 30, 2 sites held back');
  });
});

describe('a line of one’s own', () => {
  it.each([
    ['9:30 Fog until ten', '09:30', 'Fog until ten'],
    ['  23.05 Two lines\nof it ', '23:05', 'Two lines\nof it'],
    ['24:00 is no time', null, '24:00 is no time'],
    ['9:30', null, '9:30'],
    ['9:60 herons', null, '9:60 herons'],
    ['3.5 m of rope', null, '3.5 m of rope'],
    ['Fog at 9:30', null, 'Fog at 9:30'],
  ])('“%s” is of %s', (line, time, text) => {
    expect(readLogLine(line)).toEqual({ time, text });
  });
});
