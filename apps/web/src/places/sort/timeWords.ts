import { instantOf, type Day, type Instant, type Zone } from '@corvun/core';
import type { DateFound } from '@corvun/core';

/** The moment that words name by a clock time, today where they name no day; null without a time. */
export const momentIn = (found: DateFound | undefined, today: Day, zone: Zone): Instant | null =>
  found?.time ? instantOf(`${found.day ?? today}T${found.time}`, zone) : null;
