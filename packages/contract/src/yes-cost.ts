import { IsString, Matches, MaxLength } from 'class-validator';
import { Maybe, IsTime } from './rules';
import type { BufferInfo } from './agenda';
import type { IsoTime } from './things';

/** A stretch of time. */
export interface TimeStretch {
  start: IsoTime;
  end: IsoTime;
}

/** Something that stands where the event would be. */
export interface Overlap extends TimeStretch {
  kind: 'event' | 'block';
  id: string;
  /** The task a block is for. */
  taskId: string | null;
  title: string;
  allDay: boolean;
  /** The calendar of an event. */
  calendar: string | null;
  /** Own time that can give way; what is promised to others cannot, and what has begun does not. */
  movable: boolean;
  /** Where it would go; null where it stays or finds no place. */
  moveTo: TimeStretch | null;
  /** What speaks for that place. */
  reasons: string[];
  /** It would come after the deadline of its task. */
  late: boolean;
}

/** A deadline that gets close, or is missed. */
export interface EndangeredDeadline {
  taskId: string;
  title: string;
  /** Day, or wall-clock time in the user's zone. */
  deadline: string;
  fixed: boolean;
  /** The last moment to begin: as it is now, and after a yes; null: too late. */
  was: IsoTime | null;
  lastSafeStart: IsoTime | null;
  /** Free minutes before that which no other deadline needs. */
  slackMinutes: number;
  /** Minutes of its work that would find no place before it. */
  lateMinutes: number;
}

/** A slip on the strip of the day. */
export interface StripSlip extends TimeStretch {
  kind: 'event' | 'own' | 'this' | 'buffer';
  id: string;
}

/** Somebody who would be there, too. */
export interface GuestTime {
  name: string;
  address: string;
  /** Whether something else stands there with them; null where their time is not known. */
  busy: boolean | null;
}

/** What saying yes to an event costs. */
export interface YesCost extends TimeStretch {
  allDay: boolean;
  /** The date that is counted, where it repeats. */
  occurrence: string | null;
  /** What would belong to it: before, after, on the way. */
  buffers: BufferInfo[];
  /** Where one would come from; empty where it has no place. */
  comesFrom: string;
  overlaps: Overlap[];
  deadlines: EndangeredDeadline[];
  /** Minutes that move. */
  minutes: number;
  /** What is left of the working time of its day: free minutes, and gaps of half an hour or more. */
  left: { minutes: number; gaps: number };
  /** The day as it is, and as it would be. */
  before: StripSlip[];
  after: StripSlip[];
  working: TimeStretch[];
  /** Those who would be there, too. */
  guests: GuestTime[];
  /** Times from tomorrow on at which it would cost nothing and all whose time is known are free, best first. */
  instead: (TimeStretch & { reasons: string[] })[];
}

/** Of an event that is there, or of a time at which one would be. */
export class YesCostQuery {
  @Maybe() @IsString() @MaxLength(200) event?: string;
  /** A date of it by its original start; absent: the next one. */
  @Maybe()
  @Matches(/^\d{4}-\d{2}-\d{2}(T\d{2}:\d{2})?$/, { message: 'An occurrence is named by its original start.' })
  occurrence?: string;
  @Maybe() @IsTime() start?: string;
  /** An hour where it is not said. */
  @Maybe() @Matches(/^[1-9]\d{0,3}$/, { message: 'It lasts a whole number of minutes, from 1 to 9999.' }) minutes?: string;
}

/** Own time that gives way. */
export class BlockMove {
  @IsString() @MaxLength(200) block: string;
  @IsTime() start: string;
}
