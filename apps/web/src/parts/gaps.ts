import type { DayInfo } from '@corvun/contract';
import type { Gap } from '@corvun/core';

/** The gaps of some days, as instants. */
export const gapsOf = (days: readonly DayInfo[]): Gap[] =>
  days.flatMap((day) => day.gaps.map((gap) => ({ start: Date.parse(gap.start), end: Date.parse(gap.end) })));
