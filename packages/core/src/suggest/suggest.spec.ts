import fc from 'fast-check';
import { instantOf } from '../time/zones';
import { readMessage } from '../message/facts';
import { Memory, type Past } from './memory';
import { suggest } from './suggest';

const ZONE = 'Europe/Vienna';
const TOMAS = 'tomas.rieger@county-water.example';

let made = 0;
const past = (change: Partial<Past> & { sender?: string; subject?: string; asks?: number; bulk?: boolean }): Past => ({
  id: `p${(made += 1)}`,
  traits: {
    sender: change.sender ?? TOMAS,
    kind: 'mail',
    bulk: change.bulk ?? false,
    asks: change.asks ?? 1,
    subject: change.subject ?? 'Gauge readings',
  },
  to: 'list',
  list: null,
  tags: [],
  priority: 'normal',
  minutes: null,
  ...change,
});
const memoryOf = (...pasts: Past[]) => {
  const memory = new Memory();
  pasts.forEach((one) => memory.learn(one));
  return memory;
};
const many = (count: number, change: Parameters<typeof past>[0]) => Array.from({ length: count }, () => past(change));

const propose = (text: string, memory = new Memory(), { bulk = false, sender = TOMAS, subject = 'A subject' } = {}) => {
  const facts = readMessage({ text, written: instantOf('2026-08-02T18:20', ZONE), zone: ZONE, bulk });
  return suggest({
    title: 'A title',
    subject,
    facts,
    bulk,
    recalled: memory.size ? memory.recall({ sender, kind: 'mail', bulk, asks: facts.asks.length, subject }) : null,
    concentration: new Map([['Permits', 'deep']]),
    today: '2026-08-03',
  });
};

describe('suggest', () => {
  it('proposes a list where this sender’s things usually went, with countable reasons', () => {
    const memory = memoryOf(
      ...many(9, { to: 'drop', asks: 0 }),
      past({ list: 'Reading' }),
      ...many(5, { list: 'Permits' }),
      ...many(2, { to: 'day', list: 'Permits' }),
    );
    const proposed = propose('Could you send it by Friday?', memory);
    expect(proposed).toMatchObject({ to: 'list', list: 'Permits', deadline: '2026-08-07', sure: true, minutes: 90 });
    expect(proposed.reasons.some((reason) => /^7 of \d+ .* went to Permits$/.test(reason))).toBe(true);
  });

  it('proposes what was done with things that ask nothing', () => {
    const memory = memoryOf(...many(4, { to: 'drop', asks: 0, bulk: true }));
    expect(propose('News of the week.', memory, { bulk: true })).toMatchObject({ to: 'drop', sure: true });
  });

  it('knows a new sender by their domain and by the words of the subject', () => {
    const memory = memoryOf(
      ...many(6, { list: 'Permits', subject: 'Hearing on the water level' }),
      ...many(6, { list: 'Boardwalk repair', sender: 'ines@aalto-timber.example', subject: 'Quote for decking' }),
    );
    const from = { sender: 'office@county-water.example', subject: 'Opening hours' };
    expect(propose('Could you call?', memory, from).list).toBe('Permits');
    const about = { sender: 'someone@lower-fen.example', subject: 'Decking quote' };
    expect(propose('Could you call?', memory, about).list).toBe('Boardwalk repair');
  });

  it('follows a habit that changes after a few decisions', () => {
    const memory = memoryOf(...many(40, { list: 'Permits' }), ...many(10, { list: 'Grant report' }));
    expect(propose('Could you send it?', memory).list).toBe('Grant report');
  });

  it('takes duration, tags and priority from like things', () => {
    const memory = memoryOf(
      ...[20, 35, 40, 45, 120].map((minutes) => past({ list: 'Permits', minutes, tags: ['write'], priority: 'high' })),
    );
    const proposed = propose('Could you answer?', memory);
    expect(proposed).toMatchObject({ minutes: 40, tags: ['write'], priority: 'high' });
    expect(proposed.reasons).toContain('things like this took 40 min (median of 5)');
  });

  it('proposes a day where like things got one, and a time on it where they got a time', () => {
    const onDays = memoryOf(...[1, 2, 9].map((ahead) => past({ to: 'day', list: 'Permits', ahead })));
    expect(propose('Could you send it?', onDays)).toMatchObject({ to: 'day', list: 'Permits', day: '2026-08-05' });
    const timed = memoryOf(...[0, 0, 3].map((ahead) => past({ to: 'time', list: 'Permits', ahead })));
    const proposed = propose('Could you send it?', timed);
    expect(proposed).toMatchObject({ to: 'time', list: 'Permits', day: '2026-08-03', start: null });
    expect(proposed.reasons).toContain('things like this usually get the same day (median of 3)');
    const seldom = memoryOf(past({ to: 'day', list: 'Permits', ahead: 1 }), ...many(4, { list: 'Permits' }));
    expect(propose('Could you send it?', seldom)).toMatchObject({ to: 'list', day: null });
  });

  it('takes the deadline of the first ask, which gives the title, before any other', () => {
    const text = 'The report is due on 27 August. Please send an outline by 11 August.';
    expect(propose('The fund closes on 27 August. Could you send an outline by 11 August?').deadline).toBe('2026-08-11');
    expect(propose(text).deadline).toBe('2026-08-27');
    expect(propose('Could you send an outline? The fund closes on 27 August.').deadline).toBe('2026-08-27');
  });

  it('proposes an event for one proposed meeting, under its subject', () => {
    expect(propose('Can we meet on Thursday at 14:00?')).toMatchObject({
      to: 'event',
      start: '2026-08-06T14:00',
      title: 'A subject',
    });
  });

  it('says nothing where it knows nothing, and takes no habit from two cases', () => {
    const memory = memoryOf(...many(2, { to: 'drop', asks: 0 }));
    expect(propose('It rains.', memory)).toMatchObject({ sure: false, reasons: [] });
  });

  it('proposes no deadline that is over', () => {
    expect(propose('Could you have sent it by 1 August 2026?').deadline).toBeNull();
  });
});

describe('the memory of decisions', () => {
  const anyPast = fc.record({
    sender: fc.constantFrom(TOMAS, 'ruth@fund.example', 'pia@alderfen.example'),
    list: fc.constantFrom('Permits', 'Reading', null),
    to: fc.constantFrom('list' as const, 'drop' as const, 'day' as const),
    subject: fc.constantFrom('Gauge readings', 'Interim report', 'Minibus keys'),
  });
  const asked = { sender: TOMAS, kind: 'mail', bulk: false, asks: 1, subject: 'Gauge 14' };

  it('forgets without a trace', () => {
    fc.assert(
      fc.property(fc.array(anyPast, { maxLength: 30 }), fc.array(anyPast, { maxLength: 8 }), (kept, undone) => {
        const memory = memoryOf(...kept.map(past));
        const before = memory.recall(asked);
        const more = undone.map(past);
        more.forEach((one) => memory.learn(one));
        more.reverse().forEach((one) => memory.forget(one.id));
        expect(memory.recall(asked)).toEqual(before);
        expect(memory.size).toBe(kept.length);
      }),
    );
  });

  it('gives chances that add up to one', () => {
    fc.assert(
      fc.property(fc.array(anyPast, { minLength: 1, maxLength: 40 }), (kept) => {
        const { guesses, lists } = memoryOf(...kept.map(past)).recall(asked);
        expect(guesses.reduce((sum, one) => sum + one.chance, 0)).toBeCloseTo(1);
        expect(lists.reduce((sum, one) => sum + one.chance, 0)).toBeCloseTo(1);
      }),
    );
  });

  it('knows a decision once, however often it is learnt', () => {
    const one = past({ list: 'Permits' });
    expect(memoryOf(one, one, { ...one, list: 'Reading' }).size).toBe(1);
  });
});
