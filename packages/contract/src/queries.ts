import { IsIn, IsString, Matches, MaxLength } from 'class-validator';
import { IsDay, Maybe } from './rules';

const WHOLE = (most: string) => ({ message: `This is a whole number from 1 to ${most}.` });
const IDS = { message: 'Ids are parted by commas.' };

export class AgendaQuery {
  /** Today when left out. */
  @Maybe() @IsDay() from?: string;
  /** From 1 to 62. */
  @Maybe() @Matches(/^\d{1,2}$/, WHOLE('62')) days?: string;
}

export class TasksQuery {
  /** Id of a list: only what is on it. */
  @Maybe() @IsString() @MaxLength(200) list?: string;
  /** Only these, parted by commas. */
  @Maybe() @Matches(/^[\w,-]*$/, IDS) @MaxLength(40_000) ids?: string;
}

export class IncomingQuery {
  @Maybe() @IsIn(['waiting', 'decided'], { message: 'The state is waiting or decided.' }) state?: 'waiting' | 'decided';
  /** Where it came from: mail, chat, tracker, notes, or its kind. */
  @Maybe() @IsString() @MaxLength(200) source?: string;
  /** Only what became this. */
  @Maybe() @IsString() @MaxLength(40) outcome?: string;
  @Maybe() @IsIn(['oldest', 'newest'], { message: 'The order is oldest or newest.' }) order?: 'oldest' | 'newest';
  /** From 1 to 500; 50 when left out. */
  @Maybe() @Matches(/^\d{1,3}$/, WHOLE('500')) limit?: string;
  /** `next` of the page before. */
  @Maybe() @IsString() @MaxLength(200) cursor?: string;
  /** Only these, parted by commas; the rest is left out of account. */
  @Maybe() @Matches(/^[\w,-]*$/, IDS) @MaxLength(40_000) ids?: string;
}

export class FindQuery {
  /** Words, `"a phrase"`, `@sender`, `>list`, `#tag`, `+mail` and the other kinds, `+file`, `since 1 July`, `until Friday`. */
  @Maybe() @IsString() @MaxLength(2000) q?: string;
}

export class StreamQuery {
  /** The last revision that is known; absent: what happens from now on. */
  @Maybe() @IsString() @MaxLength(20) since?: string;
}

export class ListRemoval {
  /** What becomes of its tasks: `keep` (without a list), `drop`, or the id of the list they go to. */
  @Maybe() @IsString() @MaxLength(100) tasks?: string;
}

export class CalendarRemoval {
  /** What becomes of its events: `drop`, or the id of the calendar they go to. */
  @Maybe() @IsString() @MaxLength(100) events?: string;
}

export class BlockRemoval {
  /** Where the task is put instead; absent: it stays on its day. */
  @Maybe() @IsDay() day?: string;
}
