import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsEmail,
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
import { LONGEST_BUFFER, isZone } from '@corvun/core';
import { AreHours, AreSites, AreStretches, IsDay, Maybe, NotBlank } from './rules';

const IsZoneName = (each = false): PropertyDecorator =>
  ValidateBy(
    {
      name: 'isZoneName',
      validator: {
        validate: (value) => typeof value === 'string' && isZone(value),
        defaultMessage: (about) => `“${String(about?.value).slice(0, 60)}” is no zone. Write one like Europe/Vienna.`,
      },
    },
    { each },
  );

const LENGTH = { message: 'A length is a whole number of minutes from 5 to 600.' };

/** How long deep, medium and light work takes where nothing else is said. */
export class Lengths {
  @Maybe() @IsInt(LENGTH) @Min(5, LENGTH) @Max(600, LENGTH) deep?: number;
  @Maybe() @IsInt(LENGTH) @Min(5, LENGTH) @Max(600, LENGTH) medium?: number;
  @Maybe() @IsInt(LENGTH) @Min(5, LENGTH) @Max(600, LENGTH) light?: number;
}

const AHEAD = { message: 'A reminder comes at most a week before, in whole minutes.' };

/** What one is reminded of, and how. */
export class RemindInput {
  /** Minutes before an event that says nothing itself; null: not at all. */
  @IsOptional() @IsInt(AHEAD) @Min(0, AHEAD) @Max(10_080, AHEAD) before?: number | null;
  /** When time that was set aside begins. */
  @Maybe() @IsBoolean() blocks?: boolean;
  /** As a notification of the system, too. */
  @Maybe() @IsBoolean() system?: boolean;
  /** By mail, too. */
  @Maybe() @IsBoolean() mail?: boolean;
}

const beside = { message: 'Time beside an event is at most 8 hours, in whole minutes.' };

/** Minutes before and after all events that are like this. */
export class BufferRuleInput {
  @IsInt(beside) @Min(0, beside) @Max(LONGEST_BUFFER, beside) prep: number;
  @IsInt(beside) @Min(0, beside) @Max(LONGEST_BUFFER, beside) followUp: number;
  @IsIn(['all', 'others', 'own'], { message: 'A rule is for all events, those of others or your own.' }) of:
    'all' | 'others' | 'own';
  @IsOptional() @IsString() @MaxLength(200) calendarId: string | null;
  @IsString() @MaxLength(200) category: string;
  /** Only for those that are longer than so many minutes. */
  @IsInt(beside) @Min(0, beside) @Max(1440, beside) over: number;
}

const way = { message: 'A way takes a whole number of minutes, from 1 to 480.' };
const place = { message: 'A place has 1 to 500 characters.' };

export class TravelInput {
  @IsString() @Length(1, 500, place) @NotBlank('The place') from: string;
  @IsString() @Length(1, 500, place) @NotBlank('The place') to: string;
  @IsInt(way) @Min(1, way) @Max(LONGEST_BUFFER, way) minutes: number;
}

export class PauseInput {
  @IsInt(beside) @Min(15, beside) @Max(LONGEST_BUFFER, beside) after: number;
  @IsInt(beside) @Min(1, beside) @Max(LONGEST_BUFFER, beside) minutes: number;
}

/** What is kept free beside events. */
export class BuffersChange {
  /** The first rule that is for an event holds. */
  @Maybe()
  @IsArray()
  @ArrayMaxSize(20, { message: 'At most 20 rules.' })
  @ValidateNested({ each: true })
  @Type(() => BufferRuleInput)
  rules?: BufferRuleInput[];
  /** Where one is when nothing else is said. */
  @Maybe() @IsString() @MaxLength(500) base?: string;
  @Maybe()
  @IsArray()
  @ArrayMaxSize(500, { message: 'At most 500 ways.' })
  @ValidateNested({ each: true })
  @Type(() => TravelInput)
  travel?: TravelInput[];
  /** Null: no pauses. */
  @IsOptional() @IsObject() @ValidateNested() @Type(() => PauseInput) pause?: PauseInput | null;
}

export class DayOffInput {
  @IsDay() day: string;
  @IsString() @MaxLength(120, { message: 'The name of a day off has at most 120 characters.' }) name: string;
}

const areKeys = (value: unknown) =>
  typeof value === 'object' &&
  value !== null &&
  Object.entries(value).length <= 200 &&
  Object.entries(value).every(
    ([name, key]) =>
      /^[a-z]{1,20}\.[a-zA-Z]{1,30}$/.test(name) && typeof key === 'string' && /^(?:\S|[A-Z][A-Za-z]{1,11})$/u.test(key),
  );

const parts = { message: 'A part of work is a whole number of minutes, from 5 to 600.' };
const share = { message: 'The share of a day is a whole number of percent from 10 to 100.' };
const limit = { message: 'The most of a day is a whole number of minutes, from 15 to 1440.' };

export class PartsInput {
  /** Work that takes so long may be done in parts. */
  @IsInt(parts) @Min(5, parts) @Max(6000, parts) from: number;
  @IsInt(parts) @Min(5, parts) @Max(600, parts) least: number;
}

/** How days are planned. */
export class PlanningInput {
  /** Hours that suit deep work, `HH:MM-HH:MM`. */
  @Maybe() @IsArray() @ArrayMaxSize(6, { message: 'At most 6 stretches.' }) @AreStretches() deep?: string[];
  /** Most minutes of own work on one day; null: no limit. */
  @IsOptional() @IsInt(limit) @Min(15, limit) @Max(1440, limit) limit?: number | null;
  @Maybe() @IsObject() @ValidateNested() @Type(() => PartsInput) parts?: PartsInput;
  /** Percent of what is free on a day that plans set aside at most. */
  @Maybe() @IsInt(share) @Min(10, share) @Max(100, share) share?: number;
  /** Whether plans leave pauses, and time for lunch. */
  @Maybe() @IsBoolean() pauses?: boolean;
  /** Tags that are places: what has the same one is done together. */
  @Maybe()
  @IsArray()
  @ArrayMaxSize(50, { message: 'At most 50 places.' })
  @IsString({ each: true })
  @MaxLength(100, { each: true })
  places?: string[];
}

const most = { message: 'From 1 to 9 things can matter on a day.' };
const listed = { message: 'A shortlist has from 1 to 15 things.' };
const WEEKDAYS = 'Weekdays are 1, Monday, to 7, Sunday.';
const clock = { message: 'Write the time as HH:MM.' };
const CLOCK = /^(?:[01]\d|2[0-3]):[0-5]\d$/;

/** How days are opened and closed. */
export class DayInput {
  @Maybe() @IsInt(most) @Min(1, most) @Max(9, most) most?: number;
  /** `HH:MM`; null: one is never asked. */
  @IsOptional() @Matches(CLOCK, clock) closeAt?: string | null;
  /** `HH:MM`; null: never. */
  @IsOptional() @Matches(CLOCK, clock) mailAt?: string | null;
  /** ISO weekdays. */
  @Maybe()
  @IsArray()
  @ArrayMaxSize(7)
  @IsIn([1, 2, 3, 4, 5, 6, 7], { each: true, message: WEEKDAYS })
  mailDays?: number[];
  /** ISO weekday; null: one is never asked. */
  @IsOptional() @IsIn([1, 2, 3, 4, 5, 6, 7], { message: WEEKDAYS }) reviewDay?: number | null;
  @Maybe() @IsInt(listed) @Min(1, listed) @Max(15, listed) shortlist?: number;
}

const heads = { message: 'Heads-down lengths are whole minutes, from 1 to 180.' };
const every = { message: 'A long pause comes after 1 to 12 stretches of work.' };

/** How long one works and pauses, heads-down. */
export class HeadsDownRulesInput {
  @Maybe() @IsInt(heads) @Min(1, heads) @Max(180, heads) work?: number;
  @Maybe() @IsInt(heads) @Min(1, heads) @Max(180, heads) short?: number;
  @Maybe() @IsInt(heads) @Min(1, heads) @Max(180, heads) long?: number;
  @Maybe() @IsInt(every) @Min(1, every) @Max(12, every) every?: number;
  /** A sound at each turn. */
  @Maybe() @IsBoolean() sound?: boolean;
}

/** What is held back in quiet time that says nothing else. */
export class QuietRulesInput {
  @Maybe() @AreSites() sites?: string[];
}

/** What work outside is. */
export class OutsideInput {
  /** Tags, categories, or words in the names of places. */
  @Maybe()
  @IsArray()
  @ArrayMaxSize(50, { message: 'At most 50 words.' })
  @IsString({ each: true })
  @Length(1, 100, { each: true, message: 'Each of these has 1 to 100 characters.' })
  words?: string[];
  /** Where it is done when nothing else is said. */
  @Maybe() @IsString() @MaxLength(200, { message: 'The place has at most 200 characters.' }) place?: string;
}

/** Settings to change; what is left out stays, in those that consist of several, too. */
export class SettingsChange {
  @Maybe() @IsString() @Length(1, 120, { message: 'The name has 1 to 120 characters.' }) @NotBlank('The name') name?: string;
  @Maybe()
  @IsArray()
  @ArrayMaxSize(20, { message: 'At most 20 addresses.' })
  @IsEmail({}, { each: true, message: 'One of these is no mail address.' })
  addresses?: string[];
  @Maybe() @IsZoneName() zone?: string;
  @Maybe() @IsArray() @ArrayMaxSize(2, { message: 'At most two further zones.' }) @IsZoneName(true) zones?: string[];
  @Maybe() @AreHours() hours?: Record<string, string[]>;
  @Maybe()
  @IsArray()
  @ArrayMaxSize(1000, { message: 'At most 1000 days off.' })
  @ValidateNested({ each: true })
  @Type(() => DayOffInput)
  daysOff?: DayOffInput[];
  /** ISO weekday: Monday, Saturday or Sunday. */
  @Maybe() @IsIn([1, 6, 7], { message: 'A week begins on Monday, Saturday or Sunday.' }) weekStart?: 1 | 6 | 7;
  @Maybe() @IsObject() @ValidateNested() @Type(() => Lengths) lengths?: Lengths;
  @Maybe() @IsIn([5, 10, 15, 30], { message: 'Plan snaps to 5, 10, 15 or 30 minutes.' }) snap?: 5 | 10 | 15 | 30;
  @Maybe() @IsIn(['normal', 'large', 'larger'], { message: 'Text is normal, large or larger.' }) textSize?:
    'normal' | 'large' | 'larger';
  @Maybe() @IsIn(['normal', 'close'], { message: 'Things stand at a normal distance, or close.' }) density?: 'normal' | 'close';
  @Maybe() @IsIn([24, 12], { message: 'A clock has 24 or 12 hours.' }) clock?: 24 | 12;
  @Maybe() @IsIn(['day-month', 'month-day', 'numbers'], { message: 'Dates are day-month, month-day or numbers.' }) dates?:
    'day-month' | 'month-day' | 'numbers';
  /** The language in which typed lines name their times. */
  @Maybe() @IsIn(['any', 'en', 'de'], { message: 'Lines are read as any, en or de.' }) typed?: 'any' | 'en' | 'de';
  @Maybe() @IsObject() @ValidateNested() @Type(() => RemindInput) remind?: RemindInput;
  @Maybe() @IsObject() @ValidateNested() @Type(() => BuffersChange) buffers?: BuffersChange;
  @Maybe() @IsObject() @ValidateNested() @Type(() => PlanningInput) planning?: PlanningInput;
  @Maybe() @IsObject() @ValidateNested() @Type(() => DayInput) day?: DayInput;
  @Maybe() @IsObject() @ValidateNested() @Type(() => HeadsDownRulesInput) headsDown?: HeadsDownRulesInput;
  @Maybe() @IsObject() @ValidateNested() @Type(() => QuietRulesInput) quiet?: QuietRulesInput;
  @Maybe() @IsObject() @ValidateNested() @Type(() => OutsideInput) outside?: OutsideInput;
  /** Keys by command, `sort.drop`; a command that is not named keeps its first one. */
  @Maybe()
  @ValidateBy({ name: 'areKeys', validator: { validate: areKeys, defaultMessage: () => 'One of these is no key of a command.' } })
  keys?: Record<string, string>;
  @Maybe() @IsBoolean() begun?: boolean;
}

/** Public holidays and other days off, as a calendar. */
export class DaysOffInput {
  @IsString() @Length(1, 2_000_000, { message: 'The calendar has at most 2 MB.' }) ics: string;
}
