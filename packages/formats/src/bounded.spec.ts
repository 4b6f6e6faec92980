import fc from 'fast-check';
import { Steps, readRule, walk } from '@corvun/core';
import { changeNote, readTaskLine } from '.';
import { shapeOf } from './mail/shape';
import { soup } from './soup.fixture';

describe('work is bounded in steps, whatever the size', () => {
  it('any rule, over any stretch: no more steps than it is given', () => {
    const parts = soup(
      'FREQ=',
      'SECONDLY',
      'HOURLY',
      'DAILY',
      'YEARLY',
      ';',
      'INTERVAL=',
      '24',
      '1000000',
      'BYHOUR=5',
      'BYMONTH=2',
      'BYMONTHDAY=30',
      'BYDAY=5MO,-53SU',
      'BYSETPOS=-366',
      'COUNT=99999',
      'BYSECOND=0,59',
    );
    fc.assert(
      fc.property(parts, fc.integer({ min: 0, max: 4e12 }), (text, near) => {
        let rule;
        try {
          rule = readRule(text);
        } catch (problem) {
          expect(problem).toBeInstanceOf(RangeError);
          return;
        }
        const steps = new Steps(3000);
        let given = 0;
        for (const _time of walk(rule, Date.UTC(2026, 7, 3, 9), near, steps)) given += 1;
        expect(given).toBeLessThanOrEqual(3000);
        // One turn of a frequency may overdraw by its own days.
        expect(steps.left).toBeGreaterThan(-400);
      }),
      { numRuns: 400 },
    );
  });

  it('HTML: no more elements are looked at than the limit, in 2 MB of any of them', () => {
    for (const piece of ['<b>', '<table><tr><td>', '<i></i>', '<p>'])
      expect(shapeOf(piece.repeat(2_000_000 / piece.length), { maxDepth: 200, maxElements: 1000 }).elements).toBeLessThanOrEqual(
        1001,
      );
  });

  it('a task line with runs of spaces is cut in one look: its pieces give it back', () => {
    for (const line of [
      `- [ ] a${' '.repeat(50_000)}`,
      `- [ ]${' '.repeat(3000)}a${' '.repeat(900)}`,
      `${'>'.repeat(3000)} - [ ] a`,
      `- [ ] ${'{'.repeat(3900)}`,
    ]) {
      const task = readTaskLine(line);
      if (task) expect(changeNote(line, new Map([[0, { id: 'k3f9x2ab' }]]))).toContain('<!--corvun:k3f9x2ab-->');
      expect(changeNote(line, new Map())).toBe(line);
    }
  });
});
