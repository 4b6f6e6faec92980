import {
  IsBoolean,
  IsEmail,
  IsIn,
  IsInt,
  IsISO8601,
  IsNotEmpty,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
} from 'class-validator';
import { Maybe, NotBlank, say } from './rules';

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
  @Maybe() @IsString() @Length(1, 80, { message: 'The name has 1 to 80 characters.' }) @NotBlank('The name') name?: string;
  /** Two letters or digits that no other calendar has. */
  @Maybe() @Matches(/^[\p{L}\d]{2}$/u, { message: 'The code is two letters or digits.' }) code?: string;
  /** One of ten, 0 to 9. */
  @Maybe() @IsInt() @Min(0) @Max(9) hue?: number;
}

export class NoteInput {
  @IsString() @Length(1, 200, { message: 'The title has 1 to 200 characters.' }) title: string;
}

export class NoteChange {
  @Maybe() @IsInt() version?: number;
  @Maybe() @IsString() @Length(1, 200, { message: 'The title has 1 to 200 characters.' }) title?: string;
  @Maybe() @IsString() @MaxLength(500_000, { message: 'A note holds at most 500 000 characters.' }) text?: string;
}

export class SignInInput {
  @IsString() @IsNotEmpty({ message: 'Write your mail address.' }) @MaxLength(320) email: string;
  @IsString() @IsNotEmpty({ message: 'Write your password.' }) @MaxLength(200) password: string;
}

export class AccountInput {
  @IsString() @Length(1, 120, { message: 'Write your name, with at most 120 characters.' }) @NotBlank('The name') name: string;
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
