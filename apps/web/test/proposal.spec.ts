import type { IncomingLine, Undecided } from '@corvun/contract';
import { decisionOf, isChanged, proposalOf, type DecisionDraft } from '../src/places/sort/proposal';

type Suggestion = NonNullable<IncomingLine['suggestion']>;
const suggestion: Suggestion = {
  to: 'day',
  title: 'Send the readings',
  list: 'Permits',
  tags: ['survey'],
  priority: 'high',
  day: '2026-08-10',
  start: null,
  deadline: '2026-08-14',
  deadlineFixed: true,
  minutes: 45,
  reasons: [],
  sure: true,
};
const line = { suggestion, subject: 'Gauge 14' };
const fields = (draft: DecisionDraft) => decisionOf({ to: 'list' }, proposalOf(line, draft), draft);

describe('a proposal', () => {
  it('is what was suggested, and the bare subject where nothing was', () => {
    expect(proposalOf(line)).toMatchObject({ title: 'Send the readings', list: 'Permits', minutes: 45, day: '2026-08-10' });
    expect(proposalOf({ suggestion: null, subject: 'Gauge 14' })).toEqual({
      title: 'Gauge 14',
      deadline: null,
      fixed: false,
      minutes: null,
      tags: [],
      priority: 'normal',
      list: null,
      day: null,
    });
  });

  it('puts nothing on a day after its deadline', () => {
    expect(proposalOf(line, { deadline: '2026-08-07T12:00' }).day).toBe('2026-08-07');
    expect(proposalOf(line, { deadline: null }).day).toBe('2026-08-10');
  });

  it('takes what the user changed, also away', () => {
    const changed = proposalOf(line, { deadline: null, minutes: null, list: '', tags: [] });
    expect(changed).toMatchObject({ deadline: null, minutes: null, list: null, tags: [] });
  });
});

describe('the fields of a decision', () => {
  it('say what is proposed, and leave out what is neither proposed nor said', () => {
    expect(fields({})).toEqual({
      to: 'list',
      title: 'Send the readings',
      deadline: '2026-08-14',
      minutes: 45,
      fixed: true,
      tags: ['survey'],
      priority: 'high',
      list: 'Permits',
    });
    expect(decisionOf({ to: 'list' }, proposalOf({ suggestion: null, subject: 'Gauge' }))).not.toHaveProperty('deadline');
  });

  it('say that something was taken away', () => {
    expect(fields({ deadline: null, minutes: null, list: '' })).toMatchObject({ deadline: null, minutes: null, list: '' });
  });

  it('carry what goes with it: without empty steps, and no file where none is kept', () => {
    const said = fields({
      notes: '  ask Lea ',
      steps: ['measure', '  ', ' order '],
      keep: [],
      repeat: { rule: 'FREQ=WEEKLY', words: 'every week' },
    });
    expect(said).toMatchObject({ notes: 'ask Lea', steps: ['measure', 'order'], keep: [], repeat: 'FREQ=WEEKLY' });
    expect(fields({ steps: [''], repeat: null })).toEqual(fields({}));
    expect(fields({ notes: ' ' })).toEqual({ ...fields({}), notes: '' });
  });

  it('never send an empty title', () => {
    expect(fields({ title: '   ' })).not.toHaveProperty('title');
  });
});

describe('other asks', () => {
  it('come along only where the destination makes tasks', () => {
    const draft = { also: { 1: { title: 'Say who has the key' } } };
    const decided = (to: Undecided['to'], of: DecisionDraft = draft) => decisionOf({ to }, proposalOf(line), of);
    expect(decided('list')).toMatchObject({ also: [{ title: 'Say who has the key' }] });
    expect(decided('done')).toHaveProperty('also');
    for (const to of ['drop', 'reference', 'event', 'answer', 'person'] as const) expect(decided(to)).not.toHaveProperty('also');
    expect(decided('list', { also: {} })).not.toHaveProperty('also');
  });

  it('say nothing that their destination does not take', () => {
    const draft = { notes: 'in the reeds', steps: ['look'], minutes: 20 };
    const keys = (to: Undecided['to']) =>
      Object.keys(decisionOf({ to }, proposalOf(line, draft), draft))
        .sort()
        .join(' ');
    expect(keys('drop')).toBe('title to');
    expect(keys('answer')).toBe('title to');
    expect(keys('reference')).toBe('notes title to');
    expect(keys('event')).toBe('minutes notes title to');
    expect(keys('shelf')).toBe('deadline fixed list minutes notes priority steps tags title to');
  });
});

describe('a draft', () => {
  it.each<[DecisionDraft, boolean]>([
    [{}, false],
    [{ also: {} }, false],
    [{ mail: null }, false],
    [{ title: 'Other' }, true],
    [{ deadline: null }, true],
    [{ also: { 1: { title: 'x' } } }, true],
    [{ mail: { kind: 'reply', text: '', to: '' } }, true],
  ])('%j is changed: %s', (draft, changed) => {
    expect(isChanged(draft)).toBe(changed);
  });
});
