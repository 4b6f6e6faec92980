import { kindOf } from '../kernel/kind';
import { CheckIn, CheckInAnswer } from './check-in.entities';
import { LogLine } from './log-line.entity';

export const logLineKind = kindOf({
  entity: LogLine,
  exported: { name: 'log-lines', order: 'id', later: true },
  words: 'line of a day with this id',
  told: true,
  undo: 'taken-back',
  find: {
    at: (row) => `${row}."created"`,
    watched: ['text'],
    columns: (row) => [`${row}."text"`, `''`, `''`],
  },
});

export const checkInKind = kindOf({
  entity: CheckIn,
  exported: { name: 'check-ins', order: 'id', later: true },
  words: 'check-in with this id',
  told: true,
  undo: 'taken-back',
});

export const checkInAnswerKind = kindOf({
  entity: CheckInAnswer,
  exported: { name: 'check-in-answers', order: 'id', later: true },
  words: 'answer for this day',
  told: true,
  undo: 'taken-back',
  find: {
    at: (row) => `${row}."answeredAt"`,
    watched: ['words'],
    columns: (row) => [`(SELECT "name" FROM "check_in" WHERE "id" = ${row}."checkInId")`, `''`, `${row}."words"`],
  },
});
