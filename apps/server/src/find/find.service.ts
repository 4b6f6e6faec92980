import { Injectable } from '@nestjs/common';
import { InjectDataSource } from '@nestjs/typeorm';
import type { Found, FindAnswer } from '@corvun/contract';
import { addDays, ftsQuery, instantOf, isoInZone, readFind, type Find, type FindKind } from '@corvun/core';
import { DataSource } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';

const SHOWN = 40;
/** Of what the words match, the newest so many are ranked: a common word must not make every key wait. */
const RANKED = 1500;
/** Marks around a hit, as letters that no text has. */
const [OPEN, CLOSE] = ['\u0002', '\u0003'];
const THINGS: Record<FindKind, { thing: string; kind?: string }[]> = {
  mail: [{ thing: 'incoming', kind: 'mail' }],
  chat: [{ thing: 'incoming', kind: 'chat' }],
  invitation: [{ thing: 'incoming', kind: 'invitation' }],
  card: [{ thing: 'incoming', kind: 'card' }],
  note: [{ thing: 'note' }, { thing: 'incoming', kind: 'note-line' }],
  typed: [{ thing: 'incoming', kind: 'typed' }],
  task: [{ thing: 'task' }],
  event: [{ thing: 'event' }],
  person: [{ thing: 'person' }],
  log: [{ thing: 'log_line' }, { thing: 'check_in_answer' }],
};

interface Row {
  id: string;
  thing: Exclude<Found['thing'], 'log'> | 'log_line' | 'check_in_answer';
  at: number;
  title: string;
  snippet: string | null;
  kind: string | null;
  state: string | null;
  who: string | null;
  list: string | null;
  ofThing: 'incoming' | 'task' | null;
  ofId: string | null;
  ofTitle: string | null;
  day: string | null;
}

/** Finds everything that ever came in or was made of it. */
@Injectable()
export class FindService {
  constructor(
    @InjectDataSource() private readonly source: DataSource,
    private readonly clock: Clock,
  ) {}

  async find(user: User, text: string): Promise<FindAnswer> {
    const find = readFind(text, { now: this.clock.now(), zone: user.zone });
    const query = ftsQuery(find);
    const { where, values } = conditions(user, find);
    if (!query && where.length === ALWAYS) return { find, found: [], more: false };
    const rows = query
      ? await this.source.query<Row[]>(ranked(where), [query, user.id, ...values, OPEN, CLOSE, OPEN, CLOSE, query])
      : await this.source.query<Row[]>(
          `SELECT ${FIELDS}, (SELECT "title" FROM search_fts WHERE rowid = d.doc) AS title, NULL AS snippet FROM search_doc d ${JOINS}
           WHERE ${where.join(' AND ')} ORDER BY d.at DESC LIMIT ${SHOWN + 1}`,
          values,
        );
    return { find, found: rows.slice(0, SHOWN).map((row) => foundOf(row, user)), more: rows.length > SHOWN };
  }
}

/** Conditions of whatever is looked for. */
const ALWAYS = 2;

const FIELDS = `d.id, d.thing, d.at, i.kind, i.state, COALESCE(i.senderName, '') AS who, COALESCE(l.name, k.name) AS list,
  CASE d.thing WHEN 'attachment' THEN 'incoming' WHEN 'task_file' THEN 'task' WHEN 'event_file' THEN 'event' END AS ofThing,
  COALESCE(a.incomingId, f.taskId, v.id) AS ofId,
  CASE d.thing WHEN 'attachment' THEN i.subject WHEN 'task_file' THEN t.title WHEN 'event_file' THEN v.title END AS ofTitle,
  COALESCE(g.day, c.day) AS day`;
/** A file is found with what it lies with. */
const JOINS = `LEFT JOIN attachment a ON a.id = d.id LEFT JOIN task_file f ON f.id = d.id
  LEFT JOIN event_file w ON w.id = d.id
  LEFT JOIN event v ON v.id = (SELECT e.id FROM event e WHERE e.ownerId = w.ownerId AND e.uid = w.eventUid ORDER BY e.recurrenceId LIMIT 1)
  LEFT JOIN incoming i ON i.id = COALESCE(a.incomingId, d.id) LEFT JOIN task t ON t.id = COALESCE(f.taskId, d.id)
  LEFT JOIN log_line g ON g.id = d.id LEFT JOIN check_in_answer c ON c.id = d.id
  LEFT JOIN list l ON l.id = i.outcomeListId LEFT JOIN list k ON k.id = t.listId`;

/** Matches first, the newest of them ranked, and marked only where shown: marking all that match takes a second at 100,000. */
const ranked = (where: string[]): string =>
  `WITH hit AS MATERIALIZED (
     SELECT search_fts.rowid AS doc, bm25(search_fts, 8.0, 4.0, 1.0) AS place
     FROM search_fts JOIN search_doc o ON o.doc = search_fts.rowid
     WHERE search_fts MATCH ? AND o.ownerId = ? ORDER BY search_fts.rowid DESC LIMIT ${RANKED}),
   best AS MATERIALIZED (
     SELECT hit.doc, hit.place, ${FIELDS} FROM hit CROSS JOIN search_doc d ON d.doc = hit.doc ${JOINS}
     WHERE ${where.join(' AND ')} ORDER BY hit.place, d.at DESC LIMIT ${SHOWN + 1})
   SELECT best.*, highlight(search_fts, 0, ?, ?) AS title, snippet(search_fts, 2, ?, ?, '…', 18) AS snippet
   FROM best JOIN search_fts ON search_fts.rowid = best.doc WHERE search_fts MATCH ? ORDER BY best.place, best.at DESC`;

function conditions(user: User, find: Find): { where: string[]; values: unknown[] } {
  // A file of an event that was taken away waits until that is there again.
  const where = ['d.ownerId = ?', `(d.thing <> 'event_file' OR v.id IS NOT NULL)`];
  const values: unknown[] = [user.id];
  const add = (condition: string, ...more: unknown[]) => {
    where.push(condition);
    values.push(...more);
  };
  if (find.since) add('d.at >= ?', instantOf(find.since, user.zone));
  if (find.until) add('d.at < ?', instantOf(addDays(find.until, 1), user.zone));
  // COALESCE keeps the outer joins outer, and CROSS JOIN the order: else SQLite begins with all rows instead of what matches.
  if (find.file) add(`(d.thing IN ('attachment', 'task_file', 'event_file') OR COALESCE(i.attachmentCount, 0) > 0)`);
  for (const list of find.lists) add(`LOWER(COALESCE(l.name, k.name)) LIKE LOWER(?) || '%'`, list);
  const tagged = `EXISTS (SELECT 1 FROM task g, json_each(g.tags) j WHERE (g.id = COALESCE(f.taskId, d.id) OR g.incomingId = COALESCE(a.incomingId, d.id)) AND j.value = ?)`;
  for (const tag of find.tags) add(tagged, tag);
  if (find.kinds.length) {
    const kinds = find.kinds.flatMap((kind) => THINGS[kind]);
    add(
      `(${kinds.map(({ kind }) => (kind ? `(d.thing = ? AND COALESCE(i.kind, '') = ?)` : 'd.thing = ?')).join(' OR ')})`,
      ...kinds.flatMap(({ thing, kind }) => (kind ? [thing, kind] : [thing])),
    );
  }
  return { where, values };
}

function foundOf(row: Row, user: User): Found {
  return {
    id: row.id,
    thing: row.day !== null ? 'log' : row.ofId === null ? (row.thing as Found['thing']) : 'file',
    of: row.ofThing && row.ofId !== null ? { thing: row.ofThing, id: row.ofId, title: row.ofTitle || 'No subject' } : null,
    kind: row.day !== null ? 'log' : row.ofId === null ? (row.kind ?? row.thing) : 'file',
    title: pieces(row.title || 'No subject'),
    snippet: pieces(row.snippet ?? ''),
    who: row.who ?? '',
    at: isoInZone(row.at, user.zone),
    list: row.list,
    waiting: row.state === 'waiting',
    day: row.day,
  };
}

/** Text and hits in turn: text, hit, text, hit, … */
const pieces = (marked: string): string[] => marked.replace(/\s+/g, ' ').split(/[\u0002\u0003]/);
