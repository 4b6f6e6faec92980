export { readHeaders, readMail, sha256, unreadMail } from './mail/readMail';
export type { MailAddress } from './mail/fields';
export type { Mail, MailAttachment } from './mail/readMail';
export { MailError, MAIL_LIMITS } from './mail/limits';
export type { MailErrorCode, MailLimits } from './mail/limits';
export { cleanHtml, sayHeldBack } from './mail/html';
export type { HeldBack } from './mail/html';
export { readMbox } from './mail/mbox';
export { readCalendar, CalendarError } from './calendar/readCalendar';
export type { CalendarEvent } from './calendar/readCalendar';
export { expandEvents } from './calendar/expandCalendar';
export type { ExpandedEvent } from './calendar/expandCalendar';
export { readObject } from './calendar/readObject';
export { shapeObject } from './calendar/shapeObject';
export type { Shape, Wanted } from './calendar/shapeObject';
export { readFreeBusy, writeFreeBusy } from './calendar/freeBusy';
export { EVENT_FIELDS, changeComponent, parentSaid } from './calendar/changeComponent';
export { changeObject } from './calendar/changeObject';
export { EMPTY, putTogether, takeApart, withZones, zoneTexts, zonesSince } from './calendar/ownText';
export type { OwnText } from './calendar/ownText';
export type { ObjectChange } from './calendar/changeObject';
export { streamCalendar, CALENDAR_LIMITS } from './calendar/streamCalendar';
export type { CalendarItem } from './calendar/streamCalendar';
export type { CalendarTodo } from './calendar/todo';
export type { Participant } from './calendar/about';
export { answerTo, readItip } from './calendar/itip';
export type { Itip, Method } from './calendar/itip';
export { readVcards } from './people/readVcards';
export type { Vcard, VcardItem } from './people/readVcards';
export { fileWords } from './file/fileWords';
export { readCsv, sampleCsv, TableError, CSV_LIMITS } from './csv/readCsv';
export type { CsvSample, TaskColumn } from './csv/readCsv';
export { changeNote, noteText, tasksInNote, NoteError, NOTE_LIMITS } from './markdown/noteTasks';
export type { DoneRound, NoteChange, NoteTask } from './markdown/noteTasks';
export { changeTaskLine, readTaskLine, writeTaskLine } from './markdown/taskNotation';
export type { LineChange, TaskLine } from './markdown/taskNotation';
export {
  calendarCalled,
  schedulingOf,
  schedulingPart,
  writeCalendar,
  writeEvent,
  writeScheduling,
  writeTodo,
} from './calendar/writeCalendar';
export type { Organizer, Scheduling, WrittenEvent, WrittenTodo } from './calendar/writeCalendar';
export { writeVcards } from './people/writeVcards';
export { writeCsv } from './csv/writeCsv';
export { XmlError, XML_LIMITS, childOf, childrenOf, readXml } from './xml/readXml';
export type { XmlElement, XmlLimits } from './xml/readXml';
export { conditionOf, propOf, readMultistatus } from './xml/readMultistatus';
export type { DavResponse, Multistatus } from './xml/readMultistatus';
