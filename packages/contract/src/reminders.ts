import type { ReminderWhy } from '@corvun/core';
import { ArrayMaxSize, ArrayMinSize, IsArray, IsInt, IsString, Max, MaxLength, Min } from 'class-validator';
import type { IsoTime } from './things';

/** Something to be thought of now. */
export interface ReminderInfo {
  id: string;
  kind: 'event' | 'block' | 'task';
  /** Id of the event, the block or the task. */
  thing: string;
  /** The task a block is for; null where there is none. */
  taskId: string | null;
  /** The date of a repeating event by its original start; null where it does not repeat. */
  occurrence: string | null;
  why: ReminderWhy;
  title: string;
  /** When it was due first, and when it begins and ends: with an offset in the user's zone; of whole days the day. */
  at: IsoTime;
  start: IsoTime;
  end: IsoTime;
  location: string;
  meetingLink: string;
  /** Whether a window has told it as a notification of the system. */
  shown: boolean;
}

const LATER = { message: 'It is put off by whole minutes, from 1 to those of a month.' };

/** For how long a reminder is put off. */
export class Snooze {
  /** From now on. */
  @IsInt(LATER) @Min(1, LATER) @Max(31 * 1440, LATER) minutes: number;
}

/** Reminders that were thought of. */
export class RemindersDone {
  @IsArray()
  @ArrayMinSize(1, { message: 'Say at least one.' })
  @ArrayMaxSize(500, { message: 'At most 500 at once.' })
  @IsString({ each: true })
  @MaxLength(200, { each: true })
  ids: string[];
}
