import type { DecideReference } from '@corvun/contract';
import { dayOf, sayDay } from '@corvun/core';
import { badField } from '../base/errors';
import { OF_NO_MEETING } from '../notes/meeting-pages';
import { Note } from '../notes/note.entity';
import type { Work } from '../kernel/work';
import type { Outcome, Plan } from './plan';

/** So much of a message is written into a note; the whole stands in the original. */
const MOST_TEXT = 20_000;
const MOST_NOTE = 500_000;

/** Keeps an incoming for reference; where a note is named, writes it in there, with a link to the original. */
export async function keepReference(work: Work, plan: Plan<DecideReference>): Promise<Outcome> {
  const { incoming, title, input } = plan;
  const wanted = input.note?.trim();
  if (input.note !== undefined && !wanted) throw badField('note', 'Say which note it is written into.');
  const made: Outcome['made'] = [{ kind: 'reference', id: incoming.id, title }];
  if (!wanted) return { made, where: 'is kept for reference' };
  const note =
    (await noteCalled(work, wanted)) ??
    (await work.insert('note', {
      title: wanted,
      text: '',
      parentId: null,
      position: work.now,
      incomingIds: [],
      ...OF_NO_MEETING,
    }));
  const text = `${note.text.trimEnd()}\n\n${sectionOf(plan)}`.trimStart();
  if (text.length > MOST_NOTE) throw badField('note', `“${note.title}” is full. Choose another note.`);
  await work.update('note', note, { text, incomingIds: [...new Set([...note.incomingIds, incoming.id])] });
  return { made: [...made, { kind: 'note', id: note.id, title: note.title }], where: `is in the note “${note.title}”` };
}

/** The note with this id or this title, in any case. */
async function noteCalled(work: Work, wanted: string): Promise<Note | null> {
  const titles = await work.manager.find(Note, { where: { ownerId: work.ownerId }, select: { id: true, title: true } });
  const known = titles.find((one) => one.id === wanted || one.title.toLowerCase() === wanted.toLowerCase());
  return known ? work.find('note', known.id) : null;
}

/** A message as a section of a page, in Markdown. What the sender wrote must not become marks of the page. */
function sectionOf({ incoming, title, input, user, now }: Plan<DecideReference>): string {
  const day = sayDay(dayOf(incoming.received, user.zone), dayOf(now, user.zone));
  const who = incoming.senderName || incoming.senderAddress || 'You';
  const text = (input.notes ?? incoming.text).slice(0, MOST_TEXT).trim();
  const quoted = text.split('\n').map((line) => `> ${plain(line)}`.trimEnd());
  return [`## ${plain(title)}`, '', `${plain(who)}, ${day} · [the original](/sort/${incoming.id})`, '', ...quoted, ''].join('\n');
}

/** Letters that would mark something up, as themselves (CommonMark, 2.4). */
const plain = (line: string) =>
  line
    .replace(/[\\`*_{}[\]<>#|~]/g, '\\$&')
    .replace(/^(\s*)([-+=])/, '$1\\$2')
    .replace(/^(\s*\d{1,9})([.)]\s)/, '$1\\$2');
