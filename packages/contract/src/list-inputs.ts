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
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import { IsDay, Maybe, NotBlank } from './rules';

const listName = { message: 'The name has 1 to 80 characters.' };
const groupName = { message: 'The name of a group has at most 80 characters.' };

export class ListInput {
  @IsString() @Length(1, 80, listName) name: string;
  @Maybe() @IsBoolean() project?: boolean;
  /** The group it stands in; a name that is new makes one. */
  @Maybe() @IsString() @MaxLength(80, groupName) group?: string;
}

export class ListChange {
  @Maybe() @IsInt() version?: number;
  @Maybe() @IsString() @Length(1, 80, listName) @NotBlank('The name') name?: string;
  @Maybe() @IsString() @MaxLength(80, groupName) group?: string;
  /** Two letters or digits that no other list has. */
  @Maybe() @Matches(/^[\p{L}\d]{2}$/u, { message: 'The code is two letters or digits.' }) code?: string;
  /** One of ten, 0 to 9. */
  @Maybe() @IsInt() @Min(0) @Max(9) hue?: number;
  @Maybe() @IsBoolean() project?: boolean;
  @Maybe() @IsString() @MaxLength(500) outcome?: string;
  @IsOptional() @IsDay() ends?: string | null;
  /** New tasks on it get this tag. */
  @IsOptional() @IsString() @MaxLength(80, { message: 'A tag has at most 80 characters.' }) defaultTag?: string | null;
  @Maybe() @IsIn(['deep', 'medium', 'light']) concentration?: 'deep' | 'medium' | 'light';
  @Maybe() @IsBoolean() archived?: boolean;
  /** New tasks on it are billed, and those that are open on it. */
  @Maybe() @IsBoolean() billable?: boolean;
}

export class ListPlace {
  @IsString() @MaxLength(100) id: string;
  @IsString() @MaxLength(80, groupName) group: string;
}

/** Lists in their order, each with its group: it orders, groups, and renames groups. */
export class ListsOrder {
  @IsArray() @ArrayMaxSize(1000) @ValidateNested({ each: true }) @Type(() => ListPlace) lists: ListPlace[];
}

export class ViewInput {
  @IsString() @Length(1, 80, listName) @NotBlank('The name') name: string;
  /** What stands behind the question mark of its address. */
  @IsString() @MaxLength(2000) query: string;
}

export class ViewChange {
  @Maybe() @IsInt() version?: number;
  @Maybe() @IsString() @Length(1, 80, listName) @NotBlank('The name') name?: string;
  @Maybe() @IsString() @MaxLength(2000) query?: string;
}
