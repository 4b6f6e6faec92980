import type { BoardChoice, SourceSettings } from '@corvun/contract';
import { NO_FACTS, READER_VERSION, sayMinutes, type DateFact, type Value } from '@corvun/core';
import type { Incoming } from '../incoming/incoming.entity';
import type { Row } from '../base/row';
import type { Counterpart, Source } from './source.entity';
import type { Board, Card } from './tracker.types';

/** What an incoming shows of a card. */
export function face(
  card: Card,
  source: Source,
): Pick<Incoming, 'subject' | 'text' | 'originalSize' | 'facts' | 'readTitle' | 'readerVersion'> {
  const takesDue = card.due && source.settings.due !== 'none';
  const lines = [
    card.text,
    card.checklist.length ? card.checklist.map((item) => `${item.done ? '✓' : '·'} ${item.text}`).join('\n') : '',
    [
      takesDue ? `Due ${card.due}` : '',
      card.estimate ? `Estimate ${sayMinutes(card.estimate)}` : '',
      card.labels.length ? `Labels ${card.labels.join(', ')}` : '',
    ]
      .filter(Boolean)
      .join('\n'),
    ...card.comments.map((one) => `${one.by}: ${one.text}`),
  ];
  const text = lines.filter(Boolean).join('\n\n').slice(0, 100_000);
  const at = takesDue ? text.indexOf(`Due ${card.due}`) : -1;
  const dates: DateFact[] =
    at < 0 || !card.due
      ? []
      : [
          {
            text: card.due,
            value: card.due,
            endValue: null,
            role: 'deadline',
            fixed: source.settings.due === 'fixed',
            saidIn: null,
            start: at + 4,
            end: at + 4 + card.due.length,
          },
        ];
  const says = card.estimate ? text.indexOf(`Estimate ${sayMinutes(card.estimate)}`) + 9 : -1;
  const durations = card.estimate
    ? [{ text: sayMinutes(card.estimate), minutes: card.estimate, start: says, end: says + sayMinutes(card.estimate).length }]
    : [];
  return {
    subject: card.title,
    text,
    originalSize: text.length,
    facts: { ...NO_FACTS, dates, durations, minutes: card.estimate },
    readTitle: card.title,
    readerVersion: READER_VERSION,
  };
}

/** Whether a card comes in: the user's own, ready, and with one of the labels and words that are asked for. */
export function wanted(card: Card, board: BoardChoice, me: string, { labels = [], words = [] }: SourceSettings): boolean {
  if (card.deleted || card.assignee !== me || !board.ready.includes(card.status)) return false;
  const lower = (text: string) => text.toLowerCase();
  const has = new Set(card.labels.map(lower));
  const says = lower(`${card.title}\n${card.text}`);
  const asked = words.map(lower).filter((word) => word.trim());
  return (
    (!labels.length || labels.some((label) => has.has(lower(label)))) &&
    (!asked.length || asked.some((word) => says.includes(word)))
  );
}

/** What of a card is merged with its task. */
export function stateThere(card: Card, board: BoardChoice, source: Source): Record<string, Value> {
  return {
    title: card.title,
    estimate: card.estimate,
    ...(source.settings.due === 'none' ? {} : { due: card.due }),
    done: card.status === board.done,
  };
}

/** Statuses by the names people give them; the user sees and corrects the guess. */
export function guess({ id, name, statuses }: Board): BoardChoice {
  const find = (pattern: RegExp) => statuses.find((one) => pattern.test(one.name))?.id;
  const ready = find(/ready|to ?do|next|open/i) ?? statuses[0]?.id ?? '';
  const done = find(/done|finished|closed|built/i) ?? statuses.at(-1)?.id ?? '';
  return { id, name, ready: ready ? [ready] : [], done, reopen: ready };
}

/** Whether an answer has the form of a card. */
export function isCard(value: unknown): value is Card {
  const card = value as Partial<Card> | null;
  return (
    typeof card?.id === 'string' &&
    typeof card.title === 'string' &&
    typeof card.rev === 'number' &&
    typeof card.status === 'string' &&
    Array.isArray(card.checklist) &&
    Array.isArray(card.labels) &&
    Array.isArray(card.comments)
  );
}

/** A line of a card's checklist, as a counterpart of its own below that of the card. */
export const itemOf = (
  parent: Counterpart,
  card: Card,
  item: Card['checklist'][number],
  at: number,
): Omit<Counterpart, keyof Row> => ({
  sourceId: parent.sourceId,
  externalId: `card:${card.id}#${item.id}`,
  parentId: parent.id,
  incomingId: null,
  taskId: null,
  base: { title: item.text, done: item.done },
  sending: {},
  place: { item: item.id, at },
  gone: false,
});
