import type { CollectionChoice } from '@corvun/contract';
import type { CalendarEvent, CalendarTodo } from '@corvun/formats';
import type { User } from '../../accounts/user.entity';
import type { Source } from '../source.entity';
import type { Seen } from './remote.entity';

/** An object as it was found there, read. */
export interface Read extends Seen {
  events: CalendarEvent[];
  todos: CalendarTodo[];
}

/** Where objects come from and go to. */
export interface Into {
  user: User;
  source: Source;
  choice: CollectionChoice;
  /** Is told what cannot be kept here, with a title and why. */
  left: (href: string, title: string, why: string) => void;
}
