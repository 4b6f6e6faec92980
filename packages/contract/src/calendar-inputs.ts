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
  ValidateBy,
  ValidateNested,
} from 'class-validator';
import { LONGEST_BUFFER, MOST_ALARMS, isTrigger, type Alarm } from '@corvun/core';
import { BlockMove } from './yes-cost';
import { AreSites, IsDay, IsRule, Maybe, NotBlank, say, IsTime } from './rules';

/** What own time can be for. */
export const BLOCK_KINDS = ['work', 'quiet', 'break'] as const;
const blockKind = { message: 'Own time is work, quiet or break.' };

/** Time to set aside: for a task, or for quiet or a break. */
export class BlockInput {
  @Maybe() @IsString() @MaxLength(200) taskId?: string;
  /** A new task it is for instead, as the capture line would read it. */
  @Maybe() @IsString() @Length(1, 2000, { message: 'The line has 1 to 2000 characters.' }) @NotBlank('The line') line?: string;
  /** Work where there is a task, else quiet. */
  @Maybe() @IsIn(BLOCK_KINDS, blockKind) kind?: (typeof BLOCK_KINDS)[number];
  /** What it is called, where it is for no task. */
  @Maybe() @IsString() @MaxLength(500) title?: string;
  @IsTime() start: string;
  @IsInt(say.minutes) @Min(1, say.minutes) @Max(1440, say.minutes) minutes: number;
  /** Whether others see it as taken; they do where nothing is said. */
  @Maybe() @IsBoolean() busy?: boolean;
}

/** Several blocks, set aside together and taken back together. */
export class BlocksInput {
  @IsArray()
  @ArrayMinSize(1, { message: 'Say at least one.' })
  @ArrayMaxSize(100, { message: 'At most 100 at once.' })
  @ValidateNested({ each: true })
  @Type(() => BlockInput)
  blocks: BlockInput[];
}

/** What changes of a block; what is left out stays. */
export class BlockChange {
  @Maybe() @IsInt() version?: number;
  @Maybe() @IsTime() start?: string;
  @Maybe() @IsInt(say.minutes) @Min(1, say.minutes) @Max(1440, say.minutes) minutes?: number;
  @Maybe() @IsBoolean() busy?: boolean;
  @Maybe() @IsIn(BLOCK_KINDS, blockKind) kind?: (typeof BLOCK_KINDS)[number];
  @Maybe() @IsString() @MaxLength(500) title?: string;
  /** Planning does not move it. */
  @Maybe() @IsBoolean() pinned?: boolean;
  /** Sites that are held back in this quiet time; null: those that always are. */
  @IsOptional() @AreSites() sites?: string[] | null;
  /** The event it moves with; null: it stands for itself. */
  @IsOptional() @IsString() @MaxLength(100) beside?: string | null;
}

export const SCOPES = ['this', 'following', 'all'] as const;
const occurrence = { message: 'An occurrence is named by its original start: YYYY-MM-DD or YYYY-MM-DDTHH:MM.' };
const OCCURRENCE = /^\d{4}-\d{2}-\d{2}(T\d{2}:\d{2})?$/;

/** One date of a repeating event. */
export class DateOf {
  /** Original start of the date (RECURRENCE-ID): wall-clock time or day in the zone of the series. */
  @Maybe() @Matches(OCCURRENCE, occurrence) occurrence?: string;
}

/** What stands on the page of a meeting. */
export class MeetingPageInput extends DateOf {
  /** Of the page, where there is one. */
  @Maybe() @IsInt() version?: number;
  @IsString() @MaxLength(500_000, { message: 'A note holds at most 500 000 characters.' }) text: string;
}

/** Which date of a repeating event is meant, and how much of the series. */
export class SeriesPlace extends DateOf {
  /** That date alone, it and all after it, or all; left out: that date. */
  @Maybe() @IsIn(SCOPES, { message: 'Say this, following or all.' }) scope?: (typeof SCOPES)[number];
}

const lasting = { message: 'It lasts a whole number of minutes, from 1 to those of a year.' };
const YEAR = 366 * 1440;
const tell = { message: 'What guests are told has at most 5000 characters.' };

/** Taking an event away. */
export class EventRemoval extends SeriesPlace {
  /** Tells its guests, with this note, which may be empty; left out: nobody is told. */
  @Maybe() @IsString() @MaxLength(5000, tell) tell?: string;
}

/** An alarm (RFC 5545, 3.6.6). */
export class AlarmInput {
  @Maybe() @IsIn(['DISPLAY', 'EMAIL', 'AUDIO'], { message: 'An alarm is DISPLAY, EMAIL or AUDIO.' }) action: Alarm['action'];
  @IsString()
  @ValidateBy({
    name: 'isTrigger',
    validator: {
      validate: (value) => typeof value === 'string' && isTrigger(value),
      defaultMessage: () => 'A trigger is a duration of at most a year, -PT15M, or an instant, 20260803T090000Z.',
    },
  })
  trigger: string;
  @Maybe() @IsIn(['START', 'END'], { message: 'An alarm is counted from START or END.' }) related: Alarm['related'];
}

const beside = { message: 'Time beside an event is at most 8 hours, in whole minutes.' };

/** A task that is done beside an event. */
export class CarriedTask {
  /** One there is, or a new one, as the capture line would read it. */
  @Maybe() @IsString() @MaxLength(200) id?: string;
  @Maybe() @IsString() @Length(1, 2000, { message: 'The line has 1 to 2000 characters.' }) @NotBlank('The line') line?: string;
  @IsIn(['prep', 'follow-up'], { message: 'A task is done before an event (prep) or after it (follow-up).' }) at:
    'prep' | 'follow-up';
}

/** Time beside an event; null: what is so for its like. */
export class BuffersInput {
  @IsOptional() @IsInt(beside) @Min(0, beside) @Max(LONGEST_BUFFER, beside) prep: number | null;
  @IsOptional() @IsInt(beside) @Min(0, beside) @Max(LONGEST_BUFFER, beside) followUp: number | null;
  /** One way, in minutes. */
  @IsOptional() @IsInt(beside) @Min(0, beside) @Max(LONGEST_BUFFER, beside) travel: number | null;
  /** Where the way begins: it is remembered for all events between the two places. */
  @Maybe() @IsString() @MaxLength(500) from?: string;
  /** Left out: those it has. */
  @Maybe()
  @IsArray()
  @ArrayMaxSize(30, { message: 'At most 30 tasks.' })
  @ValidateNested({ each: true })
  @Type(() => CarriedTask)
  tasks?: CarriedTask[];
}

/** What is said of an event. All-day events take days. */
export class EventFields extends SeriesPlace {
  @Maybe() @IsTime() start?: string;
  /** How long; left out: as long as it was. */
  @Maybe() @IsInt(lasting) @Min(1, lasting) @Max(YEAR, lasting) minutes?: number;
  /** Where it ends instead of how long it is; of whole days the day after the last one. */
  @Maybe() @IsTime() end?: string;
  @Maybe() @IsBoolean() allDay?: boolean;
  /** IANA zone in which it begins. */
  @Maybe() @IsString() @MaxLength(80) zone?: string;
  /** IANA zone in which its end is said; null: the same. */
  @IsOptional() @IsString() @MaxLength(80) endZone?: string | null;
  /** RRULE without its prefix; null: it does not repeat. */
  @IsOptional() @IsRule() repeat?: string | null;
  @Maybe() @IsString() @MaxLength(200) calendarId?: string;
  @Maybe() @IsString() @MaxLength(500) location?: string;
  /** Address of the meeting room. */
  @Maybe()
  @Matches(/^(?:https?:\/\/\S+)?$/i, { message: 'The link begins with http:// or https://.' })
  @MaxLength(500)
  meetingLink?: string;
  /** Markdown. */
  @Maybe() @IsString() @MaxLength(50_000) description?: string;
  @Maybe() @IsString() @MaxLength(200, { message: 'A category has at most 200 characters.' }) category?: string;
  @Maybe() @IsIn(['busy', 'free', 'tentative'], { message: 'Say busy, free or tentative.' }) showAs?:
    'busy' | 'free' | 'tentative';
  /** What it is reminded of by; none: by nothing; null: as every other event. */
  @IsOptional()
  @IsArray()
  @ArrayMaxSize(MOST_ALARMS, { message: `At most ${MOST_ALARMS} reminders.` })
  @ValidateNested({ each: true })
  @Type(() => AlarmInput)
  alarms?: AlarmInput[] | null;
  /** Null: as its like. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => BuffersInput) buffers?: BuffersInput | null;
  /** Others see that there is something, and not what. */
  @Maybe() @IsBoolean() private?: boolean;
  /** `Ines Aalto <ines@aalto-timber.example>`, or the address alone. */
  @Maybe()
  @IsArray()
  @ArrayMaxSize(200, { message: 'At most 200 guests.' })
  @IsString({ each: true })
  @Length(1, 400, { each: true, message: 'A guest has 1 to 400 characters.' })
  @Matches(/^[^\r\n]*$/, { each: true, message: 'A guest is written in one line.' })
  guests?: string[];
  /** Own time that gives way to it. */
  @Maybe() @IsArray() @ArrayMaxSize(50) @ValidateNested({ each: true }) @Type(() => BlockMove) moves?: BlockMove[];
  /** Tells its guests, with this note, which may be empty; left out: nobody is told. */
  @Maybe() @IsString() @MaxLength(5000, tell) tell?: string;
}

/** A new event. */
export class EventInput extends EventFields {
  @IsString() @Length(1, 500, say.title) @NotBlank('The title') title: string;
  @IsTime() declare start: string;
}

/** What changes of an event. */
export class EventChange extends EventFields {
  @Maybe() @IsInt() version?: number;
  @Maybe() @IsString() @Length(1, 500, say.title) @NotBlank('The title') title?: string;
}

/** Copies of an event, or of one date of it, on other days. */
export class EventCopies extends DateOf {
  @IsArray()
  @ArrayMinSize(1, { message: 'Say at least one day.' })
  @ArrayMaxSize(60, { message: 'At most 60 days at once.' })
  @IsDay({ each: true })
  days: string[];
  /** Where they go; left out: where it is. */
  @Maybe() @IsString() @MaxLength(200) calendarId?: string;
}

/** One of several entries of the days. */
export class EntryNamed extends DateOf {
  @IsIn(['event', 'block', 'task'], { message: 'An entry is an event, a block or a task.' }) kind: 'event' | 'block' | 'task';
  @IsString() @MaxLength(200) id: string;
}

/** What is to be done on a day without a time, in its order. */
export class DayOrder {
  @IsDay() day: string;
  /** Ids of tasks; those of another day come to this one. */
  @IsArray()
  @ArrayMinSize(1, { message: 'Say at least one.' })
  @ArrayMaxSize(500, { message: 'At most 500 at once.' })
  @IsString({ each: true })
  @MaxLength(200, { each: true })
  tasks: string[];
}

const by = { message: 'They move by whole minutes, at most a year.' };

/** One change for several entries: moved, in another calendar or category, or taken away. */
export class EntriesChange {
  @IsArray()
  @ArrayMinSize(1, { message: 'Say at least one.' })
  @ArrayMaxSize(200, { message: 'At most 200 at once.' })
  @ValidateNested({ each: true })
  @Type(() => EntryNamed)
  entries: EntryNamed[];
  /** By how many minutes of the clock they move; tasks without a time by the whole days of it. */
  @Maybe() @IsInt(by) @Min(-YEAR, by) @Max(YEAR, by) by?: number;
  @Maybe() @IsString() @MaxLength(200) calendarId?: string;
  @Maybe() @IsString() @MaxLength(200) category?: string;
  /** Takes them away: events out of the calendar, blocks back, tasks off their day. */
  @Maybe() @IsBoolean() remove?: boolean;
}
