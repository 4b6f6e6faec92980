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
import type { MeetRules, ShareShows } from './others';
import { AreHours, IsDay, Maybe, NotBlank, say, IsTime } from './rules';

/** A calendar to publish. */
export class ShareInput {
  /** Null: everything that takes time, as busy. */
  @IsOptional() @IsString() @MaxLength(200) calendarId: string | null;
  @IsIn(['busy', 'titles', 'all'], { message: 'An address shows busy, titles or all.' }) shows: ShareShows;
}

const name = { message: 'The name has 1 to 120 characters.' };
const length = { message: 'A length is a whole number of minutes, from 5 to 480.' };
const notice = { message: 'The notice is at most 30 days, in whole minutes.' };
const horizon = { message: 'Times are offered for 1 to 180 days.' };
const buffer = { message: 'What stays free beside is at most 4 hours, in whole minutes.' };
const perDay = { message: 'The most on one day is a number from 1 to 50.' };

export class QuestionInput {
  @IsString() @Length(1, 200, { message: 'A question has 1 to 200 characters.' }) @NotBlank('A question') label: string;
  @IsBoolean() required: boolean;
}

/** What is said of a meet-me page; what is left out stays, or is as usual. */
export class MeetPageFields implements Partial<MeetRules> {
  @Maybe() @IsString() @MaxLength(2000) about?: string;
  @Maybe() @IsString() @MaxLength(500) place?: string;
  @Maybe()
  @IsArray()
  @ArrayMinSize(1, { message: 'Offer at least one length.' })
  @ArrayMaxSize(6, { message: 'At most six lengths.' })
  @IsInt({ each: true, ...length })
  @Min(5, { each: true, ...length })
  @Max(480, { each: true, ...length })
  lengths?: number[];
  @IsOptional() @AreHours() hours?: Record<string, string[]> | null;
  @Maybe() @IsInt(notice) @Min(0, notice) @Max(43_200, notice) notice?: number;
  @Maybe() @IsInt(horizon) @Min(1, horizon) @Max(180, horizon) horizon?: number;
  @Maybe() @IsInt(buffer) @Min(0, buffer) @Max(240, buffer) buffer?: number;
  @IsOptional() @IsInt(perDay) @Min(1, perDay) @Max(50, perDay) perDay?: number | null;
  @IsOptional() @IsDay() from?: string | null;
  @IsOptional() @IsDay() to?: string | null;
  @IsOptional() @IsArray() @ArrayMaxSize(100) @IsString({ each: true }) @MaxLength(200, { each: true }) calendars?:
    string[] | null;
  @Maybe()
  @IsArray()
  @ArrayMaxSize(10, { message: 'At most ten questions.' })
  @ValidateNested({ each: true })
  @Type(() => QuestionInput)
  questions?: QuestionInput[];
  @Maybe() @IsBoolean() firm?: boolean;
  @Maybe() @IsBoolean() open?: boolean;
}

export class MeetPageInput extends MeetPageFields {
  @IsString() @Length(1, 120, name) @NotBlank('The name') name: string;
}

export class MeetPageChange extends MeetPageFields {
  @Maybe() @IsInt() version?: number;
  @Maybe() @IsString() @Length(1, 120, name) @NotBlank('The name') name?: string;
}

/** A time to hold. */
export class OfferedSlot {
  @IsTime() start: string;
  @IsInt(length) @Min(5, length) @Max(480, length) minutes: number;
}

/** Times to offer somebody. */
export class OfferInput {
  @IsString() @Length(1, 200, say.title) @NotBlank('The title') title: string;
  @Maybe() @IsString() @MaxLength(500) place?: string;
  @IsArray()
  @ArrayMinSize(1, { message: 'Mark at least one time.' })
  @ArrayMaxSize(20, { message: 'At most 20 times.' })
  @ValidateNested({ each: true })
  @Type(() => OfferedSlot)
  slots: OfferedSlot[];
  /** For how many days they are held; a week where it is not said. */
  @Maybe()
  @IsInt({ message: 'Times are held for 1 to 60 days.' })
  @Min(1, { message: 'Times are held for 1 to 60 days.' })
  @Max(60, { message: 'Times are held for 1 to 60 days.' })
  days?: number;
}

const ONE_LINE = { message: 'It is written in one line.' };

/** Who a visitor is. */
export class VisitorInput {
  @IsString()
  @Length(1, 120, { message: 'Write your name, in at most 120 characters.' })
  @NotBlank('Your name')
  @Matches(/^[^\r\n]*$/, ONE_LINE)
  name: string;
  @IsEmail({}, { message: 'Write the mail address to which the invitation goes.' })
  @MaxLength(250, { message: 'A mail address has at most 250 characters.' })
  address: string;
  @Maybe() @IsString() @MaxLength(2000, { message: 'A note has at most 2000 characters.' }) note?: string;
}

/** A time of a meet-me page that a visitor takes. */
export class BookingInput extends VisitorInput {
  @IsTime() start: string;
  @IsInt(length) minutes: number;
  /** In the order of the questions. */
  @Maybe()
  @IsArray()
  @ArrayMaxSize(10)
  @IsString({ each: true })
  @MaxLength(1000, { each: true, message: 'An answer has at most 1000 characters.' })
  answers?: string[];
}

/** One of the offered times. */
export class OfferTake extends VisitorInput {
  @IsTime() start: string;
}

/** What stands in the mail to whoever booked. */
export class BookingProof {
  @IsString() @Length(1, 200, { message: 'Open the address in the mail as it is.' }) proof: string;
}

export class BookingMove {
  @IsTime() start: string;
}

export class MeetQuery {
  /** One of the lengths of the page; its first where none is said. */
  @Maybe() @Matches(/^[1-9]\d{0,2}$/, { message: 'A length is a number of minutes.' }) minutes?: string;
}
