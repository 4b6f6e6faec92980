import fc from 'fast-check';
import { readMessage } from '../message/facts';
import { addDays, instantOf, weekdayOf } from '../time/zones';
import { Memory, type Past } from './memory';
import type { Destination } from '../decide/destinations';
import { suggest } from './suggest';

const ZONE = 'Europe/Vienna';
const TODAY = '2026-08-03';
const SENDERS = ['tomas@county-water.example', 'ines@aalto-timber.example', 'letter@fen.example'];
const LISTS = ['Permits', 'Boardwalk repair', null];
const TEXTS = [
  'It rained.',
  'Could you send the readings by Friday?',
  'Shall we meet on Thursday at 14:00?',
  'Please pay 480 € no later than 5 August; it takes ten minutes.',
  'Könnten Sie bis Mittwoch antworten?',
];

const past = fc.record({
  sender: fc.constantFrom(...SENDERS),
  subject: fc.constantFrom('Gauge readings', 'Quote for decking', 'News'),
  asks: fc.integer({ min: 0, max: 2 }),
  bulk: fc.boolean(),
  to: fc.constantFrom<Destination>('list', 'day', 'time', 'drop', 'reference', 'done', 'event', 'shelf'),
  list: fc.constantFrom(...LISTS),
  ahead: fc.integer({ min: 0, max: 20 }),
  minutes: fc.option(fc.integer({ min: 1, max: 600 })),
});

const learnt = (pasts: Omit<Past, 'id' | 'traits' | 'tags' | 'priority'>[]): Past[] =>
  (pasts as unknown as (Past & { sender: string; subject: string; asks: number; bulk: boolean })[]).map((one, at) => ({
    id: String(at),
    traits: { sender: one.sender, kind: 'mail', bulk: one.bulk, asks: one.asks, subject: one.subject },
    to: one.to,
    list: ['list', 'day', 'time'].includes(one.to) ? one.list : null,
    tags: [],
    priority: 'normal',
    minutes: one.minutes ?? null,
    ahead: ['day', 'time'].includes(one.to) ? (one.ahead ?? null) : null,
  }));

const proposed = (memory: Memory, text: string, sender: string, subject: string) => {
  const facts = readMessage({ text, written: instantOf('2026-08-02T18:20', ZONE), zone: ZONE });
  const recalled = memory.size ? memory.recall({ sender, kind: 'mail', bulk: false, asks: facts.asks.length, subject }) : null;
  return { recalled, suggestion: suggest({ title: 't', subject, facts, bulk: false, recalled, today: TODAY }) };
};

const cases = fc.tuple(
  fc.array(past, { maxLength: 40 }),
  fc.constantFrom(...TEXTS),
  fc.constantFrom(...SENDERS, 'new@elsewhere.example'),
  fc.constantFrom('Gauge readings', 'Something else'),
);

describe('whatever was decided before, a proposal', () => {
  it('names no day that is over, no weekend, and none after its deadline', () => {
    fc.assert(
      fc.property(cases, ([pasts, text, sender, subject]) => {
        const memory = new Memory();
        for (const one of learnt(pasts)) memory.learn(one);
        const { suggestion } = proposed(memory, text, sender, subject);
        const { day, deadline } = suggestion;
        if (!day) return;
        const last = deadline?.slice(0, 10);
        expect(day >= TODAY).toBe(true);
        expect(last === undefined || day <= last || day === TODAY).toBe(true);
        expect(weekdayOf(day) <= 5 || day === last).toBe(true);
        expect(day <= addDays(TODAY, 30)).toBe(true);
      }),
    );
  });

  it('names only lists that things went to, and says why when it is sure', () => {
    fc.assert(
      fc.property(cases, ([pasts, text, sender, subject]) => {
        const memory = new Memory();
        const known = learnt(pasts);
        for (const one of known) memory.learn(one);
        const { suggestion, recalled } = proposed(memory, text, sender, subject);
        if (suggestion.list) expect(known.some((one) => one.list === suggestion.list)).toBe(true);
        if (['day', 'time'].includes(suggestion.to)) expect(suggestion.day).not.toBeNull();
        if (suggestion.sure) expect(suggestion.reasons.length).toBeGreaterThan(0);
        const chances = (recalled?.guesses ?? []).map((one) => one.chance);
        expect(chances.every((chance) => chance >= 0 && chance <= 1)).toBe(true);
        expect([...chances].sort((a, b) => b - a)).toEqual(chances);
      }),
    );
  });

  it('is the same after something else was learnt and forgotten again', () => {
    fc.assert(
      fc.property(cases, fc.array(past, { minLength: 1, maxLength: 8 }), ([pasts, text, sender, subject], more) => {
        const memory = new Memory();
        for (const one of learnt(pasts)) memory.learn(one);
        const before = JSON.stringify(proposed(memory, text, sender, subject));
        const others = learnt(more).map((one) => ({ ...one, id: `other ${one.id}` }));
        for (const one of others) memory.learn(one);
        for (const one of others.reverse()) memory.forget(one.id);
        expect(JSON.stringify(proposed(memory, text, sender, subject))).toBe(before);
      }),
    );
  });
});
