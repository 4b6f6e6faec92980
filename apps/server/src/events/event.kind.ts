import { kindOf } from '../kernel/kind';
import { Event } from './event.entity';

export const eventKind = kindOf({
  entity: Event,
  exported: { name: 'events', order: 'id' },
  words: 'event with this id',
  told: true,
  undo: 'taken-back',
  find: {
    at: (row) => `${row}."startAt"`,
    watched: ['title', 'description', 'location', 'attendees'],
    columns: (row) => [
      `${row}."title"`,
      `COALESCE((SELECT group_concat(json_extract(value, '$.name') || ' ' || json_extract(value, '$.address'), ' ') FROM json_each(${row}."attendees")), '')`,
      `${row}."location" || ' ' || ${row}."description"`,
    ],
  },
});
