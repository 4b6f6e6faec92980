import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsOptional,
  IsString,
  Length,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { Maybe, NotBlank } from './rules';
import type { SourceKind } from './sources';

const KINDS: SourceKind[] = ['mailbox', 'chat', 'tracker', 'notes', 'feed', 'account'];
const COLUMNS = ['title', 'notes', 'list', 'tags', 'priority', 'estimate', 'deadline', 'day', 'status', 'id', 'skip'];
const NAME = { message: 'The name has 1 to 80 characters.' };
const ADDRESS = { message: 'Write the address, with at most 2000 characters.' };

export class BoardInput {
  @IsString() @MaxLength(200) id: string;
  @IsString() @MaxLength(200) name: string;
  @IsArray() @ArrayMaxSize(50) @IsString({ each: true }) ready: string[];
  @IsString() @MaxLength(200) done: string;
  @IsString() @MaxLength(200) reopen: string;
}

export class CollectionInput {
  @IsString() @MaxLength(2000) id: string;
  @IsString() @MaxLength(200) name: string;
  @IsOptional() @IsString() @MaxLength(200) calendarId?: string | null;
  @Maybe() @IsBoolean() readOnly?: boolean;
  @IsOptional() @IsString() @MaxLength(200) listId?: string | null;
  @Maybe() @IsString() @MaxLength(320) address?: string;
}

export class SettingsInput {
  @Maybe() @IsArray() @ArrayMaxSize(200) @IsString({ each: true }) folders?: string[];
  @Maybe() @IsBoolean() unreadOnly?: boolean;
  @Maybe() @IsInt() @Min(1) @Max(36_500) days?: number;
  @IsOptional() @IsString() @MaxLength(500) moveTo?: string | null;
  @Maybe() @IsString() @MaxLength(60) mark?: string;
  @Maybe() @IsBoolean() direct?: boolean;
  @Maybe() @IsArray() @ArrayMaxSize(100) @IsString({ each: true }) words?: string[];
  @Maybe() @IsArray() @ArrayMaxSize(100) @IsString({ each: true }) labels?: string[];
  @Maybe() @IsArray() @ArrayMaxSize(500) @IsString({ each: true }) channels?: string[];
  @Maybe() @IsString() @MaxLength(60) decidedMark?: string;
  @Maybe() @IsBoolean() presence?: boolean;
  @Maybe() @IsArray() @ArrayMaxSize(100) @ValidateNested({ each: true }) @Type(() => BoardInput) boards?: BoardInput[];
  @Maybe() @IsIn(['fixed', 'flexible', 'none']) due?: 'fixed' | 'flexible' | 'none';
  @Maybe() @IsBoolean() writeTime?: boolean;
  @IsOptional() @IsString() @MaxLength(80) tag?: string | null;
  @Maybe() @IsArray() @ArrayMaxSize(200) @IsString({ each: true }) leaveOut?: string[];
  @IsOptional() @IsInt() @Min(1) @Max(36_500) untouchedDays?: number | null;
  @IsOptional() @IsString() @MaxLength(200) list?: string | null;
  @Maybe() @IsBoolean() busy?: boolean;
  @Maybe()
  @IsArray()
  @ArrayMaxSize(100)
  @ValidateNested({ each: true })
  @Type(() => CollectionInput)
  collections?: CollectionInput[];
}

/** How to reach a source, and what to bring in. */
export class SourceInput {
  @IsIn(KINDS, { message: `The kind is one of: ${KINDS.join(', ')}.` }) kind: SourceKind;
  @IsString() @Length(1, 80, NAME) @NotBlank('The name') name: string;
  @IsString() @Length(1, 2000, ADDRESS) address: string;
  @Maybe() @IsString() @MaxLength(320) account?: string;
  /** Password or token; kept encrypted and never given out again. */
  @Maybe() @IsString() @MaxLength(4000) secret?: string;
  @Maybe() @ValidateNested() @Type(() => SettingsInput) settings?: SettingsInput;
}

export class SourceChange {
  @Maybe() @IsInt() version?: number;
  @Maybe() @IsString() @Length(1, 80, NAME) @NotBlank('The name') name?: string;
  @Maybe() @IsString() @Length(1, 2000, ADDRESS) address?: string;
  @Maybe() @IsString() @MaxLength(320) account?: string;
  @Maybe() @IsString() @MaxLength(4000) secret?: string;
  @Maybe() @ValidateNested() @Type(() => SettingsInput) settings?: SettingsInput;
  @Maybe() @IsIn(['active', 'paused']) state?: 'active' | 'paused';
}

export class SettleInput {
  @IsIn(['here', 'there'], { message: 'Say which version to keep: here or there.' }) keep: 'here' | 'there';
}

export class ColumnsInput {
  @IsArray()
  @ArrayMaxSize(200)
  @IsIn(COLUMNS, { each: true, message: `A column is one of: ${COLUMNS.join(', ')}.` })
  columns: string[];
}

export class ReplyInput {
  @IsString() @Length(1, 20_000, { message: 'The reply has 1 to 20000 characters.' }) text: string;
}
