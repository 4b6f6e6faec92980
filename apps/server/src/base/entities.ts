import { Access, User } from '../accounts/user.entity';
import { About } from './about.entity';
import { Block } from '../blocks/block.entity';
import { Calendar } from '../calendars/calendar.entity';
import { CaptureKey } from '../capture/capture-key.entity';
import { Decision } from '../decisions/decision.entity';
import { EventRow } from '../events/event.entity';
import { Incoming, StoredAttachment } from '../incoming/incoming.entity';
import { List } from '../lists/list.entity';
import { Note } from '../notes/note.entity';
import { PersonRow } from '../people/person.entity';
import { ImportRun } from '../imports/import.entity';
import { OutboxEntry } from '../sources/outbox.entity';
import { Counterpart, Source } from '../sources/source.entity';
import { Tag } from '../tags/tag.entity';
import { Task } from '../tasks/task.entity';

/** Every table. */
export const ENTITIES = [
  About,
  User,
  Access,
  Incoming,
  StoredAttachment,
  Task,
  List,
  Tag,
  PersonRow,
  Calendar,
  EventRow,
  Block,
  Decision,
  Source,
  Counterpart,
  OutboxEntry,
  ImportRun,
  CaptureKey,
  Note,
];
