import type { DayInfo, ListInfo, TagInfo, TaskChange, TaskFull } from '@corvun/contract';
import type { ReactNode } from 'react';

/** What the parts of a sentence are said with. */
export interface Saying {
  lists: readonly ListInfo[];
  tags: readonly TagInfo[];
  people: readonly { name: string }[];
  /** The next days with what is free in them. */
  days: readonly DayInfo[];
  today: string;
  now: number;
  zone: string;
}

export interface Choice<C = TaskChange> {
  says: ReactNode;
  /** Said beside it, softly. */
  more?: string;
  /** It is so now. */
  on: boolean;
  change: C;
}

/** One part of the sentence: what it says, and how it is changed where it stands. */
export interface Part<C = TaskChange> {
  /** For assistive technology, and in the menu of what can be said besides. */
  label: string;
  /** Null: it says nothing, and is not there. */
  shown: ReactNode | null;
  choices: readonly Choice<C>[];
  /** Words that are typed. */
  words?: {
    text: string;
    placeholder: string;
    /** Typing goes on after what is there instead of replacing it. */
    adds?: boolean;
    /** What is understood, or why nothing is. */
    read: (text: string) => { change: C; says: string } | string;
  };
}

export type Make = (task: TaskFull, saying: Saying) => Part;

/** With a capital letter, as it stands alone. */
export const capital = (text: string) => text.slice(0, 1).toUpperCase() + text.slice(1);
