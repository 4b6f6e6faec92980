import { ArrayMaxSize, IsArray, IsIn, IsObject, IsOptional, IsString, MaxLength, ValidateBy } from 'class-validator';
import type { OutlineLine, StaysWhy } from '@corvun/core';
import type { Done } from './answers';
import type { IsoTime } from './things';
import { IsDay, Maybe } from './rules';

/** The guided sequences. */
export const PASSES = ['open-day', 'close-day', 'week-review', 'clear-decks'] as const;
export type PassKind = (typeof PASSES)[number];

/** A guided sequence that is or was gone through. */
export interface PassInfo {
  id: string;
  kind: PassKind;
  /** The day it is about. */
  day: string;
  /** The step one stands at, by its name; empty at the beginning. */
  step: string;
  state: 'running' | 'done' | 'left';
  begun: IsoTime;
  ended: IsoTime | null;
  /** What was written down or chosen on the way, by step. */
  notes: Record<string, unknown>;
  version: number;
}

/** What was settled for a day. */
export interface DayPlanInfo {
  day: string;
  opened: IsoTime | null;
  closed: IsoTime | null;
  /** Ids of the tasks that matter most, in order. */
  picks: string[];
}

export interface PassState {
  /** The one that is gone through just now; null: none. */
  running: PassInfo | null;
  /** Today. */
  today: DayPlanInfo;
  /** The day on which a week was looked back on last; null: never. */
  reviewed: string | null;
  /** What was picked when the decks were cleared last; null: they never were. */
  shortlist: ShortlistInfo | null;
}

/** The few things that are in sight after the decks were cleared. */
export interface ShortlistInfo {
  /** Ids of tasks, in order. */
  picks: string[];
  /** Ids of lists that are projects, in order. */
  projects: string[];
  /** The last day of the quiet time, in which what is new only goes to the inbox; null: there is none. */
  quietUntil: string | null;
}

/** A day in words. */
export interface DayOutline {
  day: string;
  lines: OutlineLine[];
  /** The same as plain text. */
  text: string;
  /** Minutes that are promised beyond what there is time for. */
  over: number;
}

export class OutlineQuery {
  /** Today when left out. */
  @Maybe() @IsDay() day?: string;
}

export class PassInput {
  @IsIn(PASSES, { message: `A pass is ${PASSES.join(' or ')}.` }) kind: PassKind;
}

const MOST_NOTES = 20_000;
const areNotes = (value: unknown) =>
  typeof value === 'object' && value !== null && !Array.isArray(value) && JSON.stringify(value).length <= MOST_NOTES;

export class PassChange {
  @Maybe() @IsString() @MaxLength(40) step?: string;
  /** `done`: it is gone through; `left`: it is not gone on with. */
  @Maybe() @IsIn(['done', 'left'], { message: 'A pass is done or left.' }) state?: 'done' | 'left';
  @Maybe()
  @IsObject()
  @ValidateBy({ name: 'areNotes', validator: { validate: areNotes, defaultMessage: () => 'There is too much in its notes.' } })
  notes?: Record<string, unknown>;
}

export class DayPlanChange {
  @IsDay() day: string;
  @IsArray()
  @ArrayMaxSize(20, { message: 'At most 20 things can matter most on a day.' })
  @IsString({ each: true })
  @MaxLength(100, { each: true })
  picks: string[];
}

const few = { message: 'At most 50 at once.' };

export class ShortlistChange {
  @Maybe() @IsArray() @ArrayMaxSize(50, few) @IsString({ each: true }) @MaxLength(100, { each: true }) picks?: string[];
  /** The first three steps that can be done now of one that is added come off the shelf. */
  @Maybe() @IsArray() @ArrayMaxSize(50, few) @IsString({ each: true }) @MaxLength(100, { each: true }) projects?: string[];
  @IsOptional() @IsDay() quietUntil?: string | null;
}

/** What would go to the shelf, and what would stay in sight. */
export interface DecksPreview {
  stays: { taskId: string; title: string; why: StaysWhy }[];
  /** How many tasks would go, without their steps. */
  goes: number;
}

export class DecksInput {
  /** When what is shelved is to be looked at again; left out: on no day. */
  @Maybe() @IsDay() lookAgain?: string;
}

/** The routes of the guided passes; a part of the table in `routes.ts`. */
export interface PassRoutes {
  /** A day in words: what comes in order and what it needs, what is at risk, what stayed open, what could give. */
  'GET /days/outline': { query: OutlineQuery; answer: DayOutline };
  /** Which pass is under way, and what was settled for today. */
  'GET /passes': { answer: PassState };
  /** Begins a pass, or goes on with the one of its kind that is under way. */
  'POST /passes': { status: 200; body: PassInput; answer: PassInfo };
  /** Goes on to a step, or ends it. */
  'PATCH /passes/:id': { body: PassChange; answer: PassInfo; errors: 'not-running' };
  /** Takes everything back that was done since it began, until it ended, as one. */
  'POST /passes/:id/undo': { status: 200; answer: Done; errors: 'nothing-to-undo' };
  /** Says what matters most on a day. */
  'PATCH /days': { body: DayPlanChange; answer: Done; errors: 'not-found' };
  /** Says what is on the shortlist, and how long it is to be quiet. */
  'PATCH /shortlist': { body: ShortlistChange; answer: Done; errors: 'bad-field' | 'not-found' };
  /** What shelving the rest would do. */
  'GET /shortlist/rest': { answer: DecksPreview };
  /** Shelves all open tasks but those on the shortlist, promised to others by a date, waited for, repeating or pinned. */
  'POST /shortlist/rest': { status: 200; body: DecksInput; answer: Done; errors: 'bad-field' | 'nothing-to-shelve' };
}
