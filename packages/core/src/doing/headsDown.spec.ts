import fc from 'fast-check';
import { MINUTE } from '../time/zones';
import { firstTurn, goOn, turnsUntil, type HeadsDownRules } from './headsDown';

const RULES: HeadsDownRules = { work: 25, short: 5, long: 15, every: 3, sound: false };
const NOW = 1_785_000_000_000;
const after = (minutes: number) => NOW + minutes * MINUTE;

describe('the interval timer', () => {
  it('works, then pauses by itself, and waits when the pause is over', () => {
    const begun = firstTurn(RULES, NOW);
    expect(turnsUntil(begun, RULES, after(24))).toEqual([begun]);
    expect(turnsUntil(begun, RULES, after(600))).toEqual([
      begun,
      { phase: 'short', from: after(25), until: after(30), round: 1 },
      { phase: 'over', from: after(30), until: null, round: 1 },
    ]);
  });

  it('pauses long after every third stretch', () => {
    let turn = firstTurn(RULES, NOW);
    const pauses: string[] = [];
    for (let round = 0; round < 6; round += 1) {
      const [, pause, over] = turnsUntil(turn, RULES, turn.from + 60 * MINUTE);
      pauses.push(pause?.phase ?? '');
      turn = goOn(over ?? turn, RULES, (over?.from ?? 0) + MINUTE);
    }
    expect(pauses).toEqual(['short', 'short', 'long', 'short', 'short', 'long']);
  });

  it('goes on early: into a pause that counts as one, and out of it', () => {
    const pause = goOn(firstTurn(RULES, NOW), RULES, after(12));
    expect(pause).toEqual({ phase: 'short', from: after(12), until: after(17), round: 1 });
    expect(goOn(pause, RULES, after(13))).toEqual({ phase: 'work', from: after(13), until: after(38), round: 1 });
  });

  it('turns at the same instants, however often or late one looks', () => {
    const looks = fc.array(fc.integer({ min: 0, max: 90 }), { minLength: 1, maxLength: 20 });
    const rules = fc.record({
      ...{ work: fc.integer({ min: 1, max: 90 }), short: fc.integer({ min: 1, max: 30 }), long: fc.integer({ min: 1, max: 60 }) },
      ...{ every: fc.integer({ min: 1, max: 6 }), sound: fc.boolean() },
    });
    fc.assert(
      fc.property(rules, looks, (one, minutes) => {
        let turn = firstTurn(one, NOW);
        const first = turn;
        const all = [...minutes].sort((a, b) => a - b).map(after);
        for (const look of all) turn = turnsUntil(turn, one, look).at(-1) ?? turn;
        expect(turn).toEqual(turnsUntil(first, one, all.at(-1) ?? NOW).at(-1));
      }),
    );
  });
});
