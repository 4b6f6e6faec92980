import fc from 'fast-check';
import { instantOf } from '../time/zones';
import { dayOutline, outlineText, whatGives, type OutlineInput, type OutlineTask } from './outline';

const at = (time: string) => instantOf(`2026-08-03T${time}`, 'Europe/Vienna');
const task = (id: string, more: Partial<OutlineTask> = {}): OutlineTask => ({
  ...{ id, title: `Task ${id}`, minutes: 60, priority: 'normal', deadline: null, placed: false },
  ...more,
});
const load = { capacity: 510, meetings: 60, buffers: 15, blocks: 60, unplaced: 60, left: 315, over: 0 };
const input = (more: Partial<OutlineInput> = {}): OutlineInput => ({
  ...{ day: '2026-08-03', today: '2026-08-03', zone: 'Europe/Vienna', off: null, load, wholeDay: [], timed: [], tasks: [] },
  ...{ picks: [], risks: [], left: [] },
  ...more,
});

describe('the outline of a day', () => {
  it('says what comes in order, what it needs, what is in danger and what stayed open', () => {
    const timed = { location: '', tentative: false, done: false, before: 0, after: 0, prepare: [] };
    const lines = dayOutline(
      input({
        wholeDay: ['Klara away'],
        timed: [
          { ...timed, kind: 'block', id: 'b', title: 'Grant figures', start: at('14:00'), end: at('15:00') },
          {
            ...{ kind: 'event', id: 'e', title: 'Site walk', start: at('10:00'), end: at('11:00'), location: 'Gate 3' },
            ...{ tentative: true, done: false, before: 15, after: 10, prepare: ['Print the map'] },
          },
        ],
        tasks: [
          task('p', { title: 'Order decking', deadline: '2026-08-04' }),
          task('q', { title: 'Grant figures', placed: true }),
        ],
        picks: ['q'],
        risks: [
          { id: 'r', title: 'Permit', deadline: '2026-08-05', lastSafeStart: at('16:00'), lateMinutes: 0 },
          { id: 's', title: 'Report', deadline: '2026-08-04T12:00', lastSafeStart: null, lateMinutes: 90 },
        ],
        left: [{ id: 'l', title: 'Count posts', day: '2026-07-31' }],
      }),
    );
    expect(outlineText(lines, '2026-08-03', '2026-08-03')).toBe(
      [
        'Mon 3 Aug',
        '1 h with others, 15 min beside it, 2 h of your own work; 5 h 15 of 8 h 30 is left',
        'Klara away',
        '',
        'What matters',
        '- Grant figures (1 h)',
        '',
        'In order',
        '- 10:00 – 11:00  Site walk (not sure yet, Gate 3, begin to prepare or leave at 9:45, before it: Print the map, 10 min after it)',
        '- 14:00 – 15:00  Grant figures',
        '',
        'Without a time yet',
        '- Order decking (1 h, due Tue 4 Aug)',
        '',
        'At risk',
        '- Permit (due Wed 5 Aug, to be begun by 16:00 Mon 3 Aug)',
        '- Report (due Tue 4 Aug 12:00, 1 h 30 do not fit before it)',
        '',
        'Still open from before',
        '- Count posts (since Fri 31 Jul)',
      ].join('\n'),
    );
  });

  it('says when there is nothing, no working time, or a day off', () => {
    const said = (more: Partial<OutlineInput>) => dayOutline(input(more)).map(({ text }) => text);
    const empty = { ...load, meetings: 0, buffers: 0, blocks: 0, unplaced: 0, left: 510 };
    expect(said({ load: empty })).toEqual(['8 h 30, and nothing is promised yet']);
    expect(said({ load: { ...empty, capacity: 0, left: 0 } })).toEqual(['No working time']);
    expect(said({ off: 'Assumption' })).toEqual(['Assumption']);
  });

  it('says what could give on a day that is over-promised: nothing that is due, picked or in danger', () => {
    const over = { ...load, left: 0, over: 90 };
    const tasks = [
      task('due', { deadline: '2026-08-03' }),
      task('picked'),
      task('danger', { deadline: '2026-08-05' }),
      task('high', { priority: 'high' }),
      task('soon', { deadline: '2026-08-06' }),
      task('late', { deadline: '2026-08-20' }),
      task('low', { priority: 'low', minutes: 30 }),
    ];
    const risks = [{ id: 'danger', title: '', deadline: '2026-08-05', lastSafeStart: null, lateMinutes: 5 }];
    const gives = whatGives({ ...input({ load: over, tasks, picks: ['picked'] }), risks });
    expect(gives.map(({ id, reason }) => [id, reason])).toEqual([
      ['low', 'low, no deadline'],
      ['late', 'due Thu 20 Aug'],
    ]);
    const text = outlineText(dayOutline(input({ load: over, tasks, picks: ['picked'] })), '2026-08-03', '2026-08-03');
    expect(text).toContain(
      'Too much\n- 1 h 30 more is promised than there is time for\n- could go to another day: Task low (30 min, low, no deadline)',
    );
  });

  it('lets no more go than is needed, and enough where there is enough', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 5, max: 200 }), { maxLength: 12 }),
        fc.integer({ min: 0, max: 600 }),
        (all, over) => {
          const tasks = all.map((minutes, index) => task(`t${index}`, { minutes }));
          const gives = whatGives(input({ load: { ...load, over }, tasks }));
          const freed = gives.reduce((sum, { minutes }) => sum + minutes, 0);
          expect(freed >= over || gives.length === tasks.length).toBe(true);
          expect(freed - (gives.at(-1)?.minutes ?? 0)).toBeLessThan(Math.max(1, over));
        },
      ),
    );
  });
});
