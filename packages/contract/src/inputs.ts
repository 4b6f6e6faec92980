import {
  IsBoolean,
  IsEmail,
  IsIn,
  IsInt,
  IsNotEmpty,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  MinLength,
} from 'class-validator';
import { Maybe, NotBlank, IsTime } from './rules';

export class CaptureInput {
  @IsString() @Length(1, 2000, { message: 'The line has 1 to 2000 characters.' }) @NotBlank('The line') text: string;
  @Maybe() @IsString() @MaxLength(100_000) note?: string;
  @Maybe()
  @IsString()
  @MaxLength(2000)
  @Matches(/^https?:\/\//, { message: 'The address of a page begins with http:// or https://.' })
  url?: string;
  /** When it was written, where it is sent later: words like “tomorrow” are meant from then. */
  @Maybe() @IsTime() at?: string;
  /** Into the inbox, whatever the line says of days and lists: it is only gathered now. */
  @Maybe() @IsBoolean() inbox?: boolean;
  /** Chosen by the sender: the same key is taken once, however often it is sent. */
  @Maybe() @Matches(/^[\w-]{8,64}$/, { message: 'A key has 8 to 64 letters, digits, - or _.' }) key?: string;
}

export class CalendarInput {
  @IsString() @Length(1, 80, { message: 'The name has 1 to 80 characters.' }) @NotBlank('The name') name: string;
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
  /** New things go there, and others are shown its free and busy; the one that was it is it no more. */
  @Maybe() @IsIn([true], { message: 'Make another calendar the main one instead.' }) main?: true;
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

/** What a token may do, the least first. */
export const MAY = ['calendars', 'read', 'write', 'account'] as const;

export class TokenInput {
  @IsString() @Length(1, 80, { message: 'The name has 1 to 80 characters.' }) @NotBlank('The name') name: string;
  /** To read and write where it is not said. */
  @Maybe() @IsIn([...MAY], { message: `A token may be for ${MAY.join(', ')}.` }) may?: (typeof MAY)[number];
}
