import { IsIn, IsString, Length, Matches, MaxLength } from 'class-validator';
import {
  LEDGER_BY,
  MEASURES,
  type LedgerBy,
  type LedgerEach,
  type LogEntry,
  type LedgerRow,
  type LedgerTime,
  type LedgerTotal,
  type Measure,
} from '@corvun/core';
import type { Added, Done } from './answers';
import { IsDay, Maybe, NotBlank } from './rules';
import type { IsoTime } from './things';

/** Where time went. All lengths are minutes. */
export interface LedgerInfo {
  from: string;
  to: string;
  by: LedgerBy;
  each: LedgerEach;
  times: LedgerTime[];
  /** The most first; what is under nothing is last, with an empty key. `key` is the id of a list or a calendar, or a word. */
  rows: (LedgerRow & { name: string })[];
  total: LedgerTotal;
}

/** One thing of which a figure of the ledger is the sum. */
export interface LedgerPart {
  what: Measure;
  kind: 'event' | 'block' | 'beside' | 'time';
  /** Of the event, the block or the entry. */
  id: string;
  /** The date of a series. */
  occurrence: string | null;
  taskId: string | null;
  title: string;
  start: IsoTime;
  end: IsoTime;
  /** What counts of it in these days; less than its length where something else stood at the same time. */
  minutes: number;
}

export interface LedgerParts {
  parts: LedgerPart[];
  /** How many more there are. */
  more: number;
  /** Minutes of all of them. */
  minutes: number;
}

/** Something of a day. */
export type LogEntryInfo = Omit<LogEntry, 'at'> & { at: IsoTime | null };

export interface DayLogInfo {
  day: string;
  entries: LogEntryInfo[];
}

const by = { message: `Time is told apart by ${LEDGER_BY.join(', ')}.` };

export class LedgerQuery {
  /** The first day. */
  @IsDay() from: string;
  /** The last day, at most ten years after the first. */
  @IsDay() to: string;
  @IsIn(LEDGER_BY, by) by: LedgerBy;
}

export class LedgerPartsQuery extends LedgerQuery {
  @Maybe() @IsIn(MEASURES, { message: 'What is counted is promised, planned or spent.' }) what?: Measure;
  /** Only what is under this key; empty: what is under none. */
  @Maybe() @IsString() @MaxLength(500) key?: string;
}

export class LedgerOutQuery extends LedgerQuery {
  /** Of time by days, weeks or months; by what it was for; or each entry of time that was spent. */
  @IsIn(['times', 'rows', 'entries'], { message: 'The table is times, rows or entries.' }) table: 'times' | 'rows' | 'entries';
}

export class DayLogQuery {
  @IsDay() day: string;
}

export class LogFindQuery {
  @IsString() @Length(1, 500, { message: 'Write what is looked for, at most 500 characters.' }) q: string;
}

export class LogOutQuery {
  @IsDay() from: string;
  /** The last day, at most a year after the first. */
  @IsDay() to: string;
}

const line = { message: 'A line of the day has 1 to 5000 characters.' };
const time = { message: 'Write the time as HH:MM.' };
const CLOCK = /^(?:[01]\d|2[0-3]):[0-5]\d$/;

export class LogLineInput {
  @IsDay() day: string;
  @IsString() @Length(1, 5000, line) @NotBlank('A line of the day') text: string;
  /** `HH:MM`; left out: it is of the whole day. */
  @Maybe() @Matches(CLOCK, time) time?: string;
}

export class LogLineChange {
  @IsString() @Length(1, 5000, line) @NotBlank('A line of the day') text: string;
}

export interface LookbackRoutes {
  /** Where time went: promised, planned and spent, by days and by what it was for. */
  'GET /ledger': { query: LedgerQuery; answer: LedgerInfo; errors: 'bad-field' };
  /** What a figure of it is made of, in order. */
  'GET /ledger/parts': { query: LedgerPartsQuery; answer: LedgerParts; errors: 'bad-field' };
  /** A table of it as CSV. */
  'GET /ledger/out': { query: LedgerOutQuery; answer: null; bytes: 'text/csv'; errors: 'bad-field' };
  /** What was done, attended, decided, written and spent on a day, in order. */
  'GET /log': { query: DayLogQuery; answer: DayLogInfo };
  /** Days on which something with these words was, the latest first. */
  'GET /log/find': { query: LogFindQuery; answer: DayLogInfo[] };
  /** Days as Markdown. */
  'GET /log/out': { query: LogOutQuery; answer: null; bytes: 'text/markdown'; errors: 'bad-field' };
  /** Writes a line of one's own into a day. */
  'POST /log/lines': { body: LogLineInput; answer: Added; errors: 'bad-field' };
  'PATCH /log/lines/:id': { body: LogLineChange; answer: Done; errors: 'bad-field' };
  'DELETE /log/lines/:id': { answer: Done };
}
