import fc from 'fast-check';
import { instantOf } from '../time/zones';
import { GROUPINGS, SORTINGS, arrange, type Arranged, type Arranging } from './arrange';
import { fits, readFilter } from './filter';

const task = (id: string, more: Partial<Arranged> = {}): Arranged => ({
  id,
  title: id,
  notes: '',
  listId: null,
  parentId: null,
  position: 0,
  tags: [],
  attachmentList: [],
  priority: 'normal',
  estimate: null,
  plannedDay: null,
  plannedWeek: null,
  deadline: null,
  waitingOn: null,
  assignedTo: null,
  sender: '',
  source: '',
  created: '2026-07-01',
  ...more,
});
const base: Arranging = {
  group: 'none',
  sort: 'hand',
  today: '2026-08-03',
  lists: [
    { id: 'p', name: 'Permits' },
    { id: 'g', name: 'Grant report' },
  ],
};
const shown = (tasks: Arranged[], more: Partial<Arranging>) =>
  arrange(tasks, { ...base, ...more }).map((group) => [group.title, ...group.tasks.map(({ id }) => id)].join(' '));

describe('arrange', () => {
  it('puts steps below their task in their own order, however it is sorted', () => {
    const tasks = [
      task('z', { position: 2, parentId: 'a' }),
      task('a', { position: 9 }),
      task('b', { position: 1 }),
      task('y', { position: 1, parentId: 'a' }),
      task('deep', { parentId: 'z' }),
    ];
    expect(shown(tasks, {})).toEqual([' b a y z deep']);
    expect(shown(tasks, { sort: 'title' })).toEqual([' a y z deep b']);
  });

  it.each<[Partial<Arranging>, string[]]>([
    [{ group: 'list' }, ['Permits c', 'Grant report a', 'Without a list b']],
    [{ group: 'day' }, ['Before today b', 'Today, Mon 3 Aug c', 'This week, any day a']],
    [{ group: 'deadline' }, ['Due before today c', 'Due Tue 4 Aug a', 'No deadline b']],
    [{ group: 'tag' }, ['#call a c', '#site a', 'No tag b']],
    [{ group: 'priority' }, ['High priority b', 'Normal priority a', 'Low priority c']],
    [{ group: 'person' }, ['Anna a', 'Emil b', 'Nobody else c']],
    [{ group: 'source' }, ['From mail b', 'Written down a c']],
    [{ sort: 'estimate' }, [' c a b']],
    [{ sort: 'deadline' }, [' c a b']],
    [{ sort: 'day' }, [' b c a']],
    [{ sort: 'age' }, [' b a c']],
  ])('%j', (more, groups) => {
    const tasks = [
      task('a', {
        position: 1,
        listId: 'g',
        plannedWeek: '2026-W32',
        deadline: '2026-08-04',
        tags: ['call', 'site'],
        estimate: 30,
        waitingOn: 'Anna',
      }),
      task('b', {
        position: 2,
        plannedDay: '2026-08-01',
        priority: 'high',
        sender: 'Emil',
        source: 'mail',
        created: '2026-06-01',
      }),
      task('c', {
        position: 3,
        listId: 'p',
        plannedDay: '2026-08-03',
        deadline: '2026-08-01',
        tags: ['call'],
        priority: 'low',
        estimate: 15,
      }),
    ];
    expect(shown(tasks, more)).toEqual(groups);
  });

  it('loses nothing and shows nothing twice, but for what has several tags', () => {
    const some = fc.array(
      fc.record({
        position: fc.integer(),
        plannedDay: fc.constantFrom(null, '2026-08-01', '2026-08-20'),
        tags: fc.constantFrom(['a'], []),
        parent: fc.option(fc.nat(9)),
      }),
      { maxLength: 10 },
    );
    fc.assert(
      fc.property(some, fc.constantFrom(...GROUPINGS), fc.constantFrom(...SORTINGS), (rows, group, sort) => {
        // Only what comes before can be the task of a step: there are no circles.
        const tasks = rows.map(({ parent, ...row }, at) =>
          task(`t${at}`, { ...row, parentId: parent !== null && parent < at ? `t${parent}` : null }),
        );
        const all = arrange(tasks, { ...base, group, sort }).flatMap((one) => one.tasks.map(({ id }) => id));
        expect(all.sort()).toEqual(tasks.map(({ id }) => id).sort());
      }),
    );
  });
});

describe('a filter', () => {
  const context = {
    now: instantOf('2026-08-03T09:00', 'Europe/Vienna'),
    zone: 'Europe/Vienna',
    lists: ['Permits', 'Grant report'],
  };
  const gate = task('Mend the gate', {
    notes: 'hinges',
    attachmentList: [{ name: 'Plan of the latch.pdf' }],
    tags: ['site'],
    deadline: '2026-08-07',
    estimate: 30,
    waitingOn: 'Anna Reiter',
    plannedDay: '2026-08-04',
    priority: 'high',
  });
  it.each([
    ['gate', true],
    ['HINGES', true],
    ['latch.pdf', true],
    ['permits', true],
    ['gate fence', false],
    ['#site', true],
    ['#call', false],
    ['@Anna', true],
    ['>Permits', true],
    ['>"Grant report"', false],
    ['++', true],
    ['by Friday', true],
    ['by Thursday', false],
    ['tomorrow', true],
    ['today', false],
    ['45 min', true],
    ['15 min', false],
    ['gate #site by Friday', true],
    ['', true],
  ])('“%s”', (text, fit) => expect(fits(gate, readFilter(text, context), 'Permits')).toBe(fit));
});
