import { IsArray, ArrayMaxSize, IsEmail, IsInt, IsString, Length, MaxLength, ValidateIf } from 'class-validator';
import type { PersonLine } from './answers';
import { Maybe, NotBlank } from './rules';
import type { IsoTime } from './things';

/** A message of theirs that waits to be decided. */
export interface PersonAsk {
  id: string;
  subject: string;
  received: IsoTime;
  /** What it asks, in its own words. */
  asks: string[];
}

/** A task that waits on them, or that came from them. */
export interface PersonTask {
  id: string;
  title: string;
  deadline: string | null;
  /** Since when it waits on them; null where it came from them. */
  since: IsoTime | null;
  until: string | null;
}

export interface PersonEvent {
  id: string;
  title: string;
  day: string;
  start: IsoTime | null;
}

/** What came from somebody, went to them, or was with them. */
export interface PersonPast {
  way: 'from' | 'to' | 'with';
  /** Of an incoming or an event; empty where it has no page of its own. */
  id: string;
  title: string;
  at: IsoTime;
}

/** How much is open with somebody; who is not named has nothing open. */
export interface PersonOpen {
  id: string;
  /** Messages of theirs that wait to be decided. */
  asking: number;
  /** Open tasks that wait on them. */
  waiting: number;
  /** Open tasks that came from them. */
  tasks: number;
}

/** Somebody one has to do with, and everything that is open or was with them. */
export interface PersonFull extends PersonLine {
  phone: string;
  note: string;
  version: number;
  asking: PersonAsk[];
  waiting: PersonTask[];
  tasks: PersonTask[];
  events: PersonEvent[];
  past: PersonPast[];
  /** Whether there is more than is told. */
  more: boolean;
}

const address = { message: 'This is not a mail address.' };

class PersonFields {
  @Maybe() @ValidateIf((_, value) => value !== '') @IsEmail({}, address) address?: string;
  /** Further addresses. */
  @Maybe()
  @IsArray()
  @ArrayMaxSize(20, { message: 'At most 20 further addresses.' })
  @IsEmail({}, { each: true, message: 'One of these is no mail address.' })
  addresses?: string[];
  @Maybe() @IsString() @MaxLength(200) organisation?: string;
  @Maybe() @IsString() @MaxLength(100) phone?: string;
  @Maybe() @IsString() @MaxLength(20_000) note?: string;
}

export class PersonInput extends PersonFields {
  @IsString() @Length(1, 200, { message: 'The name has 1 to 200 characters.' }) @NotBlank('The name') name: string;
}

export class PersonChange extends PersonFields {
  @Maybe() @IsInt() version?: number;
  @Maybe() @IsString() @Length(1, 200, { message: 'The name has 1 to 200 characters.' }) @NotBlank('The name') name?: string;
}

/** Who becomes one with somebody: their addresses and what is known of them go over. */
export class PersonMerge {
  @IsString() other: string;
}

export class PersonMail {
  @IsString() @Length(1, 300, { message: 'The subject has 1 to 300 characters.' }) @NotBlank('The subject') subject: string;
  @IsString() @Length(1, 100_000, { message: 'Write a line or two.' }) @NotBlank('The text') text: string;
  /** One of their addresses; left out, the first. */
  @Maybe() @IsEmail({}, address) to?: string;
}
