import type { Language } from '../time/dateText';
import type { Zone, Instant } from '../time/zones';
import { lineLanguage } from './lineLanguage';

export type Priority = 'high' | 'normal' | 'low';
export type Field =
  'date' | 'endDate' | 'time' | 'endTime' | 'minutes' | 'week' | 'deadline' | 'priority' | 'list' | 'tag' | 'person' | 'repeat';

/** What of a line was understood as what; offsets in characters, end exclusive. */
export interface Span {
  field: Field;
  start: number;
  end: number;
}

/** Something in a line that looked like more than title, but is not; it stays in the title. */
export interface Problem {
  start: number;
  end: number;
  text: string;
  message: string;
}

/** A typed line, read. What was not said is null, empty, or `normal`. */
export interface Draft {
  kind: 'task' | 'event';
  title: string;
  date: string | null;
  /** The last day of a stretch of whole days. */
  endDate: string | null;
  time: string | null;
  endTime: string | null;
  minutes: number | null;
  week: string | null;
  deadline: string | null;
  deadlineFixed: boolean;
  priority: Priority;
  list: string | null;
  tags: string[];
  people: string[];
  /** RRULE without its prefix (RFC 5545, 3.3.10). */
  repeat: string | null;
  /** Whether it is counted from the day on which it was done. */
  repeatFrom: 'schedule' | 'completion';
  spans: Span[];
  problems: Problem[];
}

export interface LineContext {
  now: Instant;
  zone: Zone;
  /** Names the user has; without them a list mark takes the words up to the next mark. */
  lists?: readonly string[];
  people?: readonly string[];
}

/** One reader: looks at what no earlier reader has taken, and says what it takes. */
export type LineReader = (line: Line, context: LineContext) => void;

/** The line while it is read: what is left to read, and the draft so far. */
export class Line {
  readonly draft: Draft = {
    kind: 'task',
    title: '',
    date: null,
    endDate: null,
    time: null,
    endTime: null,
    minutes: null,
    week: null,
    deadline: null,
    deadlineFixed: false,
    priority: 'normal',
    list: null,
    tags: [],
    people: [],
    repeat: null,
    repeatFrom: 'schedule',
    spans: [],
    problems: [],
  };
  /** Whether it is a whole day that is said. */
  allDay = false;
  /** Whether the two clock times are those between which it is to be, not its beginning and its end. */
  isWindow = false;
  readonly language: Language;
  /** The text with everything already taken blanked by a letter no reader reads. */
  rest: string;

  constructor(readonly text: string) {
    this.rest = text;
    this.language = lineLanguage(text);
  }

  take(field: Field, start: number, end: number): void {
    this.draft.spans.push({ field, start, end });
    this.hide(start, end);
  }

  /** Keeps words in the title and from all later readers. */
  refuse(start: number, end: number, message: string): void {
    this.draft.problems.push({ start, end, text: this.text.slice(start, end), message });
    this.hide(start, end);
  }

  /** Keeps words in the title and from all later readers, because they are part of a name. */
  spare(start: number, end: number): void {
    this.hide(start, end);
  }

  private hide(start: number, end: number): void {
    this.rest = this.rest.slice(0, start) + '\u241f'.repeat(end - start) + this.rest.slice(end);
  }
}
