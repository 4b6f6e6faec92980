import fc from 'fast-check';
import { intersect, minutesIn, subtract, union, type Interval } from './intervals';

const interval = fc
  .tuple(fc.integer({ min: 0, max: 400 }), fc.integer({ min: 0, max: 60 }))
  .map(([start, length]): Interval => ({ start, end: start + length }));
const many = fc.array(interval, { maxLength: 20 });
const covers = (all: readonly Interval[], at: number) => all.some((one) => one.start <= at && at < one.end);
const points = Array.from({ length: 470 }, (_, at) => at);

describe('intervals', () => {
  it('joins those that overlap or touch, and drops empty ones', () => {
    expect(
      union([
        { start: 5, end: 7 },
        { start: 1, end: 3 },
        { start: 3, end: 5 },
        { start: 9, end: 9 },
      ]),
    ).toEqual([{ start: 1, end: 7 }]);
  });

  it('covers after union exactly what was covered before', () => {
    fc.assert(fc.property(many, (all) => points.every((at) => covers(union(all), at) === covers(all, at))));
  });

  it('subtracts point by point, and gives maximal stretches in order', () => {
    fc.assert(
      fc.property(many, many, (whole, taken) => {
        const left = subtract(whole, taken);
        expect(points.every((at) => covers(left, at) === (covers(whole, at) && !covers(taken, at)))).toBe(true);
        expect(left.every((one, at) => at === 0 || (left[at - 1]?.end ?? 0) < one.start)).toBe(true);
      }),
    );
  });

  it('intersects point by point', () => {
    fc.assert(
      fc.property(many, many, (one, other) =>
        points.every((at) => covers(intersect(one, other), at) === (covers(one, at) && covers(other, at))),
      ),
    );
  });

  it('counts what is covered twice once', () => {
    expect(
      minutesIn([
        { start: 0, end: 600_000 },
        { start: 300_000, end: 900_000 },
      ]),
    ).toBe(15);
  });
});
