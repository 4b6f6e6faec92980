import {
  ArrayMaxSize,
  ArrayMinSize,
  IsArray,
  IsBoolean,
  IsEmail,
  IsIn,
  IsInt,
  IsISO8601,
  IsNotEmpty,
  IsOptional,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
  ValidateNested,
} from 'class-validator';
import { Type } from 'class-transformer';
import { IsDay, IsDeadline, IsWeek, Maybe, NotBlank } from './rules';
import { DESTINATION_NAMES, type Destination, type Priority } from '@corvun/core';

const PRIORITIES: Priority[] = ['high', 'normal', 'low'];
const say = {
  time: { message: 'Write the time as YYYY-MM-DDTHH:MM, with or without an offset.' },
  minutes: { message: 'The duration is a whole number of minutes from 1 to 6000.' },
  title: { message: 'The title has 1 to 500 characters.' },
};

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
  @IsISO8601({}, say.time) start: string;
  @IsInt(say.minutes) @Min(1, say.minutes) @Max(1440, say.minutes) minutes: number;
}

/** What an incoming becomes. Absent fields come from the suggestion or stay empty. */
export class DecideInput {
  @IsArray()
  @ArrayMinSize(1)
  @ArrayMaxSize(1000)
  @IsString({ each: true })
  incoming: string[];

  @IsIn(DESTINATION_NAMES, { message: `The destination is one of: ${DESTINATION_NAMES.join(', ')}.` })
  to: Destination;

  @Maybe() @IsString() @Length(1, 500, say.title) @NotBlank('The title') title?: string;
  @Maybe() @IsString() @MaxLength(100_000) notes?: string;
  /** Name or id of a list. */
  @IsOptional() @IsString() @MaxLength(200) list?: string | null;
  @Maybe() @IsDay() day?: string;
  @Maybe() @IsWeek() week?: string;
  @Maybe() @IsISO8601({}, say.time) start?: string;
  @IsOptional() @IsInt(say.minutes) @Min(1, say.minutes) @Max(6000, say.minutes) minutes?: number | null;
  @IsOptional() @IsDeadline() deadline?: string | null;
  @Maybe() @IsBoolean() fixed?: boolean;
  @Maybe() @IsArray() @ArrayMaxSize(50) @IsString({ each: true }) @MaxLength(80, { each: true }) tags?: string[];
  @Maybe() @IsIn(PRIORITIES, { message: 'The priority is high, normal or low.' }) priority?: Priority;
  /** With whom: a name or a mail address (event, person, hand over). */
  @Maybe() @IsString() @MaxLength(320) with?: string;
  @Maybe() @IsDay() lookAgain?: string;
  @Maybe() @IsString() @MaxLength(500) location?: string;
  @Maybe() @IsIn(['yes', 'maybe', 'no']) reply?: 'yes' | 'maybe' | 'no';
  /** Event: the guest gets an invitation by mail with this note; absent: nothing is sent. */
  @Maybe() @IsString() @MaxLength(5000) invite?: string;
  /** More tasks from the same message, each with its own place. */
  @Maybe() @IsArray() @ArrayMaxSize(20) @ValidateNested({ each: true }) @Type(() => AlsoInput) also?: AlsoInput[];
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
  /** Time: several blocks for the same task, instead of one from `start`. */
  @Maybe() @IsArray() @ArrayMaxSize(20) @ValidateNested({ each: true }) @Type(() => SlotInput) slots?: SlotInput[];
  /** Reference: id of the note it is written into, or the title of a new one; absent: it is only kept. */
  @Maybe() @IsString() @Length(1, 200, { message: 'A note is named in 1 to 200 characters.' }) note?: string;
  /** Done already, by a mail: it goes out after a pause in which undo still holds it back. */
  @Maybe() @ValidateNested() @Type(() => MailOutInput) mail?: MailOutInput;
}

export class CaptureInput {
  @IsString() @Length(1, 2000, { message: 'The line has 1 to 2000 characters.' }) @NotBlank('The line') text: string;
  @Maybe() @IsString() @MaxLength(100_000) note?: string;
  @Maybe()
  @IsString()
  @MaxLength(2000)
  @Matches(/^https?:\/\//, { message: 'The address of a page begins with http:// or https://.' })
  url?: string;
  /** When it was written, where it is sent later: words like “tomorrow” are meant from then. */
  @Maybe() @IsISO8601({ strict: true }) at?: string;
  /** Into the inbox, whatever the line says of days and lists: it is only gathered now. */
  @Maybe() @IsBoolean() inbox?: boolean;
  /** Chosen by the sender: the same key is taken once, however often it is sent. */
  @Maybe() @Matches(/^[\w-]{8,64}$/, { message: 'A key has 8 to 64 letters, digits, - or _.' }) key?: string;
}

export class TaskChange {
  @Maybe() @IsInt() version?: number;
  @Maybe() @IsString() @Length(1, 500, say.title) @NotBlank('The title') title?: string;
  @Maybe() @IsString() @MaxLength(100_000) notes?: string;
  @IsOptional() @IsString() @MaxLength(200) list?: string | null;
  @Maybe()
  @IsArray()
  @ArrayMaxSize(50)
  @IsString({ each: true })
  @MaxLength(80, { each: true, message: 'A tag has at most 80 characters.' })
  tags?: string[];
  @Maybe() @IsIn(PRIORITIES) priority?: Priority;
  @IsOptional() @IsInt(say.minutes) @Min(1, say.minutes) @Max(6000, say.minutes) estimate?: number | null;
  @Maybe() @IsIn(['NEEDS-ACTION', 'IN-PROCESS', 'COMPLETED', 'CANCELLED']) status?:
    'NEEDS-ACTION' | 'IN-PROCESS' | 'COMPLETED' | 'CANCELLED';
  @IsOptional() @IsDay() plannedDay?: string | null;
  @IsOptional() @IsWeek() plannedWeek?: string | null;
  @IsOptional() @IsDeadline() deadline?: string | null;
  @Maybe() @IsBoolean() deadlineFixed?: boolean;
  @Maybe() @IsBoolean() shelved?: boolean;
  @IsOptional() @IsDay() lookAgain?: string | null;
}

export class BlockInput {
  @IsString() taskId: string;
  @IsISO8601({}, say.time) start: string;
  @IsInt(say.minutes) @Min(1, say.minutes) @Max(1440, say.minutes) minutes: number;
}

/** New times of a block. */
export class TimesChange {
  @Maybe() @IsInt() version?: number;
  @IsISO8601({}, say.time) start: string;
  @IsInt(say.minutes) @Min(1, say.minutes) @Max(1440, say.minutes) minutes: number;
}

export const SCOPES = ['this', 'following', 'all'] as const;
const OCCURRENCE = /^\d{4}-\d{2}-\d{2}(T\d{2}:\d{2})?$/;

/** Which date of a repeating event is meant, and how much of the series. */
export class SeriesPlace {
  /** Original start of the occurrence (RECURRENCE-ID): wall-clock time or day in the zone of the series. */
  @Maybe()
  @Matches(OCCURRENCE, { message: 'An occurrence is named by its original start: YYYY-MM-DD or YYYY-MM-DDTHH:MM.' })
  occurrence?: string;
  /** That date alone, it and all after it, or all; left out: that date. */
  @Maybe() @IsIn(SCOPES, { message: 'Say this, following or all.' }) scope?: (typeof SCOPES)[number];
}

/** What changes of an event. All-day events take days. */
export class EventChange extends SeriesPlace {
  @Maybe() @IsInt() version?: number;
  @Maybe() @IsISO8601({}, say.time) start?: string;
  /** Left out: as long as it was. */
  @Maybe() @IsInt(say.minutes) @Min(1, say.minutes) @Max(20_160, say.minutes) minutes?: number;
  @Maybe() @IsString() @Length(1, 500, say.title) @NotBlank('The title') title?: string;
  @Maybe() @IsString() @MaxLength(500) location?: string;
  @Maybe() @IsString() @MaxLength(50_000) description?: string;
  @Maybe() @IsIn(['busy', 'free']) showAs?: 'busy' | 'free';
}

export class CalendarChange {
  @Maybe() @IsInt() version?: number;
  @Maybe() @IsBoolean() shown?: boolean;
  @Maybe() @IsBoolean() busy?: boolean;
}

export class NoteInput {
  @IsString() @Length(1, 200, { message: 'The title has 1 to 200 characters.' }) title: string;
}

export class NoteChange {
  @Maybe() @IsInt() version?: number;
  @Maybe() @IsString() @Length(1, 200, { message: 'The title has 1 to 200 characters.' }) title?: string;
  @Maybe() @IsString() @MaxLength(500_000, { message: 'A note holds at most 500 000 characters.' }) text?: string;
}

export class ListInput {
  @IsString() @Length(1, 80, { message: 'The name has 1 to 80 characters.' }) name: string;
  @Maybe() @IsBoolean() project?: boolean;
}

export class SignInInput {
  @IsString() @IsNotEmpty() @MaxLength(320) email: string;
  @IsString() @IsNotEmpty() @MaxLength(200) password: string;
}

export class AccountInput {
  @IsString() @Length(1, 120, { message: 'The name has 1 to 120 characters.' }) @NotBlank('The name') name: string;
  @IsEmail({}, { message: 'This is not a mail address.' }) @MaxLength(320) email: string;
  @IsString() @MinLength(10, { message: 'The password has at least 10 characters.' }) @MaxLength(200) password: string;
  @Maybe() @IsString() @MaxLength(80) zone?: string;
}

export class PasswordInput {
  @IsString() @IsNotEmpty({ message: 'Write the present password.' }) @MaxLength(200) present: string;
  @IsString() @MinLength(10, { message: 'The password has at least 10 characters.' }) @MaxLength(200) wanted: string;
}

export class TokenInput {
  @IsString() @Length(1, 80, { message: 'The name has 1 to 80 characters.' }) @NotBlank('The name') name: string;
}
