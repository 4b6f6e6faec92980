import { IsBoolean, IsInt, IsOptional, IsString, Length, Matches, Max, MaxLength, Min } from 'class-validator';
import type { Phase, PresenceKind } from '@corvun/core';
import type { Done } from './answers';
import type { QuietRoutes } from './quiet';
import type { SpentBy } from './tasks';
import type { WeatherRoutes } from './weather';
import type { IsoTime } from './things';
import { Maybe, say, IsTime } from './rules';

/** The timer that runs. */
export interface TimerInfo {
  id: string;
  taskId: string;
  title: string;
  since: IsoTime;
  by: SpentBy;
  note: string;
}

/** One task and nothing else, with an interval timer. */
export interface HeadsDownInfo {
  taskId: string;
  title: string;
  begun: IsoTime;
  phase: Phase;
  from: IsoTime;
  /** When it turns by itself; null: it waits until one goes on. */
  until: IsoTime | null;
  /** Stretches of work that are over. */
  round: number;
  /** After how many of them the pause is a long one. */
  every: number;
  /** How many things came in since it was begun. */
  came: number;
}

/** What is not finished: begun, its time over, waited for, missed, or done without saying how long it took. */
export type LooseKind = 'begun' | 'over' | 'waiting' | 'reminder' | 'took';

export interface LooseEndInfo {
  kind: LooseKind;
  /** The task, or the reminder. */
  id: string;
  taskId: string | null;
  title: string;
  /** When its time ended, since when it is waited for, when one was to be reminded. */
  at: IsoTime;
  /** Minutes that are left of it, or that were planned; null where nothing says. */
  minutes: number | null;
  /** On whom it waits; empty where it waits on nobody. */
  who: string;
}

/** What goes on, besides what stands in the calendar. */
export interface NowState {
  timer: TimerInfo | null;
  /** What was left for something that came up; null: nothing was, or it goes on. */
  paused: { taskId: string; title: string; at: IsoTime } | null;
  headsDown: HeadsDownInfo | null;
  loose: LooseEndInfo[];
}

/** How one is, as others see it. */
export interface PresenceInfo {
  kind: PresenceKind;
  text: string;
  /** Whether messages wait until it is over. */
  dnd: boolean;
  until: IsoTime | null;
  /** Own words, as long as they hold; null: there are none. */
  own: string | null;
  /** Names of the sources that show it. */
  shownIn: string[];
}

/** A task that can be done in the time there is. */
export interface FittingTask {
  taskId: string;
  title: string;
  listId: string | null;
  minutes: number;
  reasons: string[];
}

export class FitsQuery {
  /** From 1 to 600. */
  @Matches(/^(?:[1-9]\d?|[1-5]\d\d|600)$/, { message: 'This is a whole number from 1 to 600.' }) minutes: string;
}

export class StopInput {
  /** Something came up: what ran is gone on with afterwards. */
  @Maybe() @IsBoolean() pause?: boolean;
}

const most = { message: 'Time spent at once is a whole number of minutes, from 1 to 1440.' };

export class TimeInput {
  @IsInt(most) @Min(1, most) @Max(1440, most) minutes: number;
  /** When it began; left out: so many minutes ago. */
  @Maybe() @IsTime() start?: string;
  /** The block it was spent in: it begins where that does. */
  @Maybe() @IsString() @MaxLength(100) block?: string;
}

export class TimeChange {
  @Maybe() @IsInt() version?: number;
  @Maybe() @IsTime() start?: string;
  @Maybe() @IsInt(most) @Min(1, most) @Max(1440, most) minutes?: number;
}

export class LongerInput {
  @IsInt(say.minutes) @Min(1, say.minutes) @Max(600, say.minutes) minutes: number;
}

export class HeadsDownInput {
  @IsString() @Length(1, 100) task: string;
}

export class PresenceChange {
  /** Own words; null or empty: what the day says. */
  @IsOptional() @IsString() @MaxLength(100, { message: 'Own words have at most 100 characters.' }) text?: string | null;
  /** `HH:MM` of today; left out: for the rest of the day. */
  @IsOptional() @Matches(/^(?:[01]\d|2[0-3]):[0-5]\d$/, { message: 'Write the time as HH:MM.' }) until?: string | null;
}

/** The routes of doing the work; a part of the table in `routes.ts`. */
export interface DoingRoutes extends QuietRoutes, WeatherRoutes {
  /** What goes on: the timer, heads-down, what was left for something else, and loose ends. */
  'GET /now': { answer: NowState };
  /** What can be done in so many minutes, the best first. */
  'GET /now/fits': { query: FitsQuery; answer: FittingTask[] };
  /** How one is, as others see it. */
  'GET /presence': { answer: PresenceInfo };
  /** Says it in own words for a while, or not any more. */
  'PATCH /presence': { body: PresenceChange; answer: Done; errors: 'bad-field' };
  /** Starts the timer on a task; one that runs ends. */
  'POST /tasks/:id/timer': { status: 200; answer: Done; errors: 'bad-field' };
  /** Ends the timer that runs. */
  'POST /timer/stop': { status: 200; body: StopInput; answer: Done; errors: 'no-timer' };
  /** Says that time was spent on a task. */
  'POST /tasks/:id/time': { status: 200; body: TimeInput; answer: Done; errors: 'bad-field' };
  /** Corrects time that was spent. */
  'PATCH /time/:id': { body: TimeChange; answer: Done; errors: 'bad-field' };
  /** Takes away time that was not spent. */
  'DELETE /time/:id': { answer: Done; errors: 'bad-field' };
  /** Lets a block that runs take longer; own time that is in the way goes after it. */
  'POST /blocks/:id/longer': { status: 200; body: LongerInput; answer: Done; errors: 'bad-field' };
  /** Begins heads-down on a task, or goes on with another one. */
  'POST /heads-down': { status: 200; body: HeadsDownInput; answer: Done; errors: 'bad-field' | 'not-found' };
  /** Goes on: out of work into a pause, out of a pause into work. */
  'POST /heads-down/turn': { status: 200; answer: Done; errors: 'no-heads-down' };
  /** Ends heads-down. */
  'DELETE /heads-down': { answer: Done; errors: 'no-heads-down' };
}
