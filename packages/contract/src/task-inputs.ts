import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsObject,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { WHYS, type LeftWhy, type Priority } from '@corvun/core';
import { IsDay, IsDeadline, IsRule, IsTimeOnDay, IsWeek, Maybe, NotBlank, PRIORITIES, say, IsTime } from './rules';

/** Tasks in one request. */
export const MOST_TOGETHER = 2000;
const together = { message: `At most ${MOST_TOGETHER} at once.` };
const one = { message: 'Say at least one.' };
const name = { message: 'A name has at most 200 characters.' };
const spent = { message: 'The time spent is a whole number of minutes up to 100000.' };

export class LinkInput {
  @IsString()
  @MaxLength(2000)
  @Matches(/^(?:https?:\/\/|mailto:)\S+$/i, { message: 'A link begins with http://, https:// or mailto:.' })
  url: string;
  @IsString() @MaxLength(300) title: string;
}

/** What can be changed of one task, or of many together. */
export class TaskFields {
  @Maybe() @IsString() @Length(1, 500, say.title) @NotBlank('The title') title?: string;
  /** Markdown. */
  @Maybe() @IsString() @MaxLength(100_000) notes?: string;
  /** Id or name of a list; null: none. Its steps go along. */
  @IsOptional() @IsString() @MaxLength(200) list?: string | null;
  @Maybe()
  @IsArray()
  @ArrayMaxSize(50)
  @IsString({ each: true })
  @Length(1, 80, { each: true, message: 'A tag has 1 to 80 characters.' })
  tags?: string[];
  @Maybe() @IsIn(PRIORITIES) priority?: Priority;
  @IsOptional() @IsInt(say.minutes) @Min(1, say.minutes) @Max(6000, say.minutes) estimate?: number | null;
  /** Minutes. */
  @Maybe() @IsInt(spent) @Min(0, spent) @Max(100_000, spent) spent?: number;
  @Maybe() @IsBoolean() billable?: boolean;
  @Maybe() @IsIn(['deep', 'medium', 'light']) concentration?: 'deep' | 'medium' | 'light';
  @Maybe() @IsIn(['NEEDS-ACTION', 'IN-PROCESS', 'COMPLETED', 'CANCELLED']) status?:
    'NEEDS-ACTION' | 'IN-PROCESS' | 'COMPLETED' | 'CANCELLED';
  /** Where it is done now and has open steps: whether those are done, too. Left out: they stay open. */
  @Maybe() @IsIn(['done', 'leave']) steps?: 'done' | 'leave';
  @IsOptional() @IsDay() plannedDay?: string | null;
  @IsOptional() @IsWeek() plannedWeek?: string | null;
  @IsOptional() @IsDeadline() deadline?: string | null;
  @Maybe() @IsBoolean() deadlineFixed?: boolean;
  @IsOptional() @IsDay() notBefore?: string | null;
  /** RRULE without its prefix (RFC 5545, 3.3.10). */
  @IsOptional() @IsRule() repeat?: string | null;
  @Maybe() @IsIn(['schedule', 'completion']) repeatFrom?: 'schedule' | 'completion';
  /** Wall-clock time in the zone of the account. */
  @IsOptional() @IsTimeOnDay() reminder?: string | null;
  @IsOptional() @IsString() @MaxLength(200, name) waitingOn?: string | null;
  @IsOptional() @IsDay() waitingUntil?: string | null;
  @IsOptional() @IsString() @MaxLength(200, name) assignedTo?: string | null;
  @Maybe() @IsBoolean() shelved?: boolean;
  @IsOptional() @IsDay() lookAgain?: string | null;
  /** Why it was not finished in its time, as it was said last; null: it was not said. */
  @IsOptional() @IsIn(WHYS, { message: `Something stays open because it is ${WHYS.join(', ')}.` }) leftOpen?: LeftWhy | null;
  @Maybe() @IsArray() @ArrayMaxSize(50) @ValidateNested({ each: true }) @Type(() => LinkInput) links?: LinkInput[];
  /** Ids of the files it carries along from its message; null: all of them. */
  @IsOptional() @IsArray() @ArrayMaxSize(500) @IsString({ each: true }) attachments?: string[] | null;
}

export class TaskChange extends TaskFields {
  @Maybe() @IsInt() version?: number;
  /**
   * How the fields that change were when the change was made. With it, a change to something that was changed meanwhile
   * is only refused where the same field was.
   */
  @Maybe() @IsObject() was?: Record<string, unknown>;
  /** The task it is a step of; null: a task of its own. */
  @IsOptional() @IsString() @MaxLength(100) parent?: string | null;
  /** The task on the same list, or step of the same task, that it comes right after; null: it is the first. */
  @IsOptional() @IsString() @MaxLength(100) after?: string | null;
}

/** New tasks, or steps of one, a line each. A line says when, how long and where as in the capture line. */
export class TasksInput {
  @IsArray()
  @ArrayMinSize(1, one)
  @ArrayMaxSize(500, { message: 'At most 500 lines at once.' })
  @IsString({ each: true })
  @MaxLength(2000, { each: true, message: 'A line has at most 2000 characters.' })
  lines: string[];
  /** Id or name of a list, where the line names none. */
  @IsOptional() @IsString() @MaxLength(200) list?: string | null;
  /** The task they are steps of. */
  @Maybe() @IsString() @MaxLength(100) parent?: string;
  /** They come right after this one; null: before all others; left out: after them. */
  @IsOptional() @IsString() @MaxLength(100) after?: string | null;
}

/** One change for many tasks; it is taken back as one. */
export class TasksChange {
  @IsArray() @ArrayMinSize(1, one) @ArrayMaxSize(MOST_TOGETHER, together) @IsString({ each: true }) ids: string[];
  @ValidateNested() @Type(() => TaskFields) change: TaskFields;
  @Maybe() @IsArray() @ArrayMaxSize(50) @IsString({ each: true }) @Length(1, 80, { each: true }) addTags?: string[];
  @Maybe() @IsArray() @ArrayMaxSize(50) @IsString({ each: true }) removeTags?: string[];
  /** Their time on this day that has not begun is given back. */
  @Maybe() @IsDay() freeOn?: string;
  /** They come, in the order given, right after this one of the same list; null: before all others. */
  @IsOptional() @IsString() @MaxLength(100) after?: string | null;
}

/** A step of a task that is broken down, and how long it takes. */
export class StepInput {
  @IsString() @Length(1, 500, say.title) @NotBlank('The title') title: string;
  @IsOptional() @IsInt(say.minutes) @Min(1, say.minutes) @Max(6000, say.minutes) minutes: number | null;
}

/** What a task is broken down into; it is taken back as one. */
export class BreakDownInput {
  @IsArray()
  @ArrayMinSize(1, { message: 'Write at least one step.' })
  @ArrayMaxSize(100, { message: 'At most 100 steps at once.' })
  @ValidateNested({ each: true })
  @Type(() => StepInput)
  steps: StepInput[];
  /** When time for the first of them begins; left out: it gets none. */
  @Maybe() @IsTime() start?: string;
  /** Whether they come before the steps it has; else after them. */
  @Maybe() @IsBoolean() before?: boolean;
  /** What is said of the task besides: why it stayed open, for when it is now. */
  @Maybe() @IsObject() @ValidateNested() @Type(() => TaskFields) change?: TaskFields;
}

export class BeginningInput {
  @IsInt(say.minutes) @Min(1, say.minutes) @Max(600, say.minutes) minutes: number;
}

export class NudgeInput {
  /** What the mail says; left out: what was drafted. */
  @Maybe() @IsString() @MaxLength(20_000, { message: 'A mail has at most 20000 characters.' }) text?: string;
}

export class HandOverQuery {
  /** A name, or a mail address. */
  @Maybe() @IsString() @MaxLength(200, name) to?: string;
}

export class HandOverInput {
  /** A name, or a mail address. */
  @IsString() @Length(1, 200, name) @NotBlank('The name') to: string;
  /** Whether they are asked by mail; they are, where it is left out. */
  @Maybe() @IsBoolean() mail?: boolean;
  /** What the mail says; left out: what was drafted. */
  @Maybe() @IsString() @MaxLength(20_000, { message: 'A mail has at most 20000 characters.' }) text?: string;
}

/** Tasks in an open format, in the order given. */
export class TasksOut {
  @IsArray() @ArrayMinSize(1, one) @ArrayMaxSize(100_000) @IsString({ each: true }) ids: string[];
  @IsIn(['csv', 'ics', 'md', 'text'], { message: 'The format is csv, ics, md or text.' }) format: 'csv' | 'ics' | 'md' | 'text';
}

export class FileNameInput {
  @IsString() @Length(1, 200, { message: 'The name has 1 to 200 characters.' }) @NotBlank('The name') name: string;
}
