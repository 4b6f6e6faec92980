import type { DESTINATIONS, Destination, Priority } from '@corvun/core';
import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsEmail,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { BlockMove } from './yes-cost';
import { IsDay, IsDeadline, IsWeek, Maybe, NotBlank, PRIORITIES, say, IsTime } from './rules';

/** A mail that goes out with a decision: a reply to the sender, or the message passed on. */
export class MailOutInput {
  @IsIn(['reply', 'forward'], { message: 'A mail is a reply or a forward.' }) kind: 'reply' | 'forward';
  @IsString() @MaxLength(50_000) text: string;
  /** To whom it is forwarded; a reply goes to the sender. */
  @Maybe() @IsEmail({}, { message: 'That is not a mail address.' }) to?: string;
}

/** Another task from the same message. Without a list or a day it goes where the first goes. */
export class AlsoInput {
  @IsString() @Length(1, 500, say.title) @NotBlank('The title') title: string;
  @Maybe() @IsString() @MaxLength(200) list?: string;
  @Maybe() @IsDay() day?: string;
}

/** One stretch of time that is set aside. */
export class SlotInput {
  @IsTime() start: string;
  @IsInt(say.minutes) @Min(1, say.minutes) @Max(1440, say.minutes) minutes: number;
}

/** What every decision says: on which incoming things, and what they are called from then on. */
export class Deciding {
  @IsArray() @ArrayMinSize(1) @ArrayMaxSize(1000) @IsString({ each: true }) incoming: string[];
  /** Absent: as proposed. Many that are decided together keep each its own. */
  @Maybe() @IsString() @Length(1, 500, say.title) @NotBlank('The title') title?: string;
}

/** What every decision says that makes a task. Absent fields come from the suggestion or stay empty. */
export class DecidingTask extends Deciding {
  @Maybe() @IsString() @MaxLength(100_000) notes?: string;
  /** Name or id of a list; empty for none. */
  @IsOptional() @IsString() @MaxLength(200) list?: string | null;
  /** Estimate; of what is done already, the time it took. */
  @IsOptional() @IsInt(say.minutes) @Min(1, say.minutes) @Max(6000, say.minutes) minutes?: number | null;
  @IsOptional() @IsDeadline() deadline?: string | null;
  /** The deadline will not move: others rely on it. */
  @Maybe() @IsBoolean() fixed?: boolean;
  @Maybe() @IsArray() @ArrayMaxSize(50) @IsString({ each: true }) @MaxLength(80, { each: true }) tags?: string[];
  @Maybe() @IsIn(PRIORITIES, { message: 'The priority is high, normal or low.' }) priority?: Priority;
  /** Steps of the task, in order. */
  @Maybe()
  @IsArray()
  @ArrayMaxSize(100)
  @IsString({ each: true })
  @Length(1, 500, { each: true, ...say.title })
  steps?: string[];
  /** Ids of the attachments that the task carries along; absent: all of them. */
  @Maybe() @IsArray() @ArrayMaxSize(200) @IsString({ each: true }) @MaxLength(40, { each: true }) keep?: string[];
  /** RRULE without its prefix (RFC 5545, 3.3.10). */
  @Maybe() @IsString() @MaxLength(300) @Matches(/^FREQ=/, { message: 'A repeat rule begins with FREQ=.' }) repeat?: string;
  /** More tasks from the same message, each with its own place. */
  @Maybe() @IsArray() @ArrayMaxSize(20) @ValidateNested({ each: true }) @Type(() => AlsoInput) also?: AlsoInput[];
}

/** A task on a list. */
export class DecideList extends DecidingTask {
  @IsIn(['list']) to: 'list';
}

/** A task on a day, without a time. */
export class DecideDay extends DecidingTask {
  @IsIn(['day']) to: 'day';
  @Maybe() @IsDay() day?: string;
}

/** A task in a week, on no day yet. */
export class DecideWeek extends DecidingTask {
  @IsIn(['week']) to: 'week';
  @Maybe() @IsWeek() week?: string;
}

/** A task with time set aside for it. */
export class DecideTime extends DecidingTask {
  @IsIn(['time']) to: 'time';
  @Maybe() @IsTime() start?: string;
  /** Several blocks for the same task, instead of one from `start`. */
  @Maybe() @IsArray() @ArrayMaxSize(20) @ValidateNested({ each: true }) @Type(() => SlotInput) slots?: SlotInput[];
}

/** A task that waits on somebody else. */
export class DecideHandOver extends DecidingTask {
  @IsIn(['hand-over']) to: 'hand-over';
  /** A name or a mail address. */
  @Maybe() @IsString() @MaxLength(320) with?: string;
}

/** A task for later, out of sight. */
export class DecideShelf extends DecidingTask {
  @IsIn(['shelf']) to: 'shelf';
  /** When it comes back into sight. */
  @Maybe() @IsDay() lookAgain?: string;
}

/** A task that is done, with the time it took. */
export class DecideDone extends DecidingTask {
  @IsIn(['done']) to: 'done';
  /** Done by a mail: it goes out after a pause in which undo still holds it back. */
  @Maybe() @ValidateNested() @Type(() => MailOutInput) mail?: MailOutInput;
}

/** An event in the main calendar. */
export class DecideEvent extends Deciding {
  @IsIn(['event']) to: 'event';
  @Maybe() @IsTime() start?: string;
  @IsOptional() @IsInt(say.minutes) @Min(1, say.minutes) @Max(6000, say.minutes) minutes?: number | null;
  @Maybe() @IsString() @MaxLength(500) location?: string;
  @Maybe() @IsString() @MaxLength(100_000) notes?: string;
  /** Guests, parted by commas: names, or names with mail addresses. */
  @Maybe() @IsString() @MaxLength(320) with?: string;
  /** The guests get an invitation by mail with this note; absent: nothing is sent. */
  @Maybe() @IsString() @MaxLength(5000) invite?: string;
}

/** An answer to an invitation, or, as its organizer, to a guest's proposal. */
export class DecideAnswer extends Deciding {
  @IsIn(['answer']) to: 'answer';
  @Maybe() @IsIn(['yes', 'maybe', 'no']) reply?: 'yes' | 'maybe' | 'no';
  /** Another time that is proposed. */
  @Maybe() @IsTime() start?: string;
  @IsOptional() @IsInt(say.minutes) @Min(1, say.minutes) @Max(6000, say.minutes) minutes?: number | null;
  /** Own time that gives way to a yes. */
  @Maybe() @IsArray() @ArrayMaxSize(50) @ValidateNested({ each: true }) @Type(() => BlockMove) moves?: BlockMove[];
  /** Goes with the answer. */
  @Maybe() @IsString() @MaxLength(100_000) notes?: string;
}

/** The sender becomes known, or somebody else whom it is about. */
export class DecidePerson extends Deciding {
  @IsIn(['person']) to: 'person';
  /** A name or a mail address; absent: the sender. */
  @Maybe() @IsString() @MaxLength(320) with?: string;
}

/** Kept to be found again; where a note is named, written into it. */
export class DecideReference extends Deciding {
  @IsIn(['reference']) to: 'reference';
  /** Id of the note it is written into, or the title of a new one; absent: it is only kept. */
  @Maybe() @IsString() @Length(1, 200, { message: 'A note is named in 1 to 200 characters.' }) note?: string;
  /** Written there instead of the text of the message. */
  @Maybe() @IsString() @MaxLength(100_000) notes?: string;
}

/** Nothing becomes of it. */
export class DecideDrop extends Deciding {
  @IsIn(['drop']) to: 'drop';
}

/** Each destination has an input of its own. */
export interface DecideInputs {
  list: DecideList;
  day: DecideDay;
  week: DecideWeek;
  time: DecideTime;
  event: DecideEvent;
  answer: DecideAnswer;
  person: DecidePerson;
  'hand-over': DecideHandOver;
  shelf: DecideShelf;
  reference: DecideReference;
  done: DecideDone;
  drop: DecideDrop;
}

export const DECIDE_INPUTS: { [D in Destination]: new () => DecideInputs[D] } = {
  list: DecideList,
  day: DecideDay,
  week: DecideWeek,
  time: DecideTime,
  event: DecideEvent,
  answer: DecideAnswer,
  person: DecidePerson,
  'hand-over': DecideHandOver,
  shelf: DecideShelf,
  reference: DecideReference,
  done: DecideDone,
  drop: DecideDrop,
};

/** What an incoming becomes. */
export type DecideInput = DecideInputs[keyof DecideInputs];

/** A decision that does not say on what yet. */
export type Undecided = { [D in Destination]: Omit<DecideInputs[D], 'incoming'> }[Destination];

/** Destinations that make a task. */
export type TaskDestination = {
  [D in Destination]: (typeof DESTINATIONS)[D]['makesTask'] extends true ? D : never;
}[Destination];

export type TaskInput = DecideInputs[TaskDestination];
