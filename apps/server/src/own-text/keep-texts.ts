import type { OwnText as Text } from '@corvun/formats';
import { createHash } from 'node:crypto';
import type { Work } from '../kernel/work';
import { OwnText } from './own-text.entity';
import { hashOf, type Said } from './state';

/** A text, and what the row says that is read from it. */
export interface TextToKeep {
  own: Text | undefined;
  said: Said;
  /** Whether the same text of another moment is the same: some servers write DTSTAMP and LAST-MODIFIED anew whenever they are asked. */
  loose?: boolean;
}

/** Written with one statement. */
const AT_ONCE = 100;

/** How a text is called: what is kept already is found by what is in it. */
export function textIdOf(ownerId: string, { own, said, loose = false }: TextToKeep): string | null {
  if (!own?.text) return null;
  const text = loose ? own.text.replace(/^(?:DTSTAMP|LAST-MODIFIED)[;:].*$/gim, '') : own.text;
  return createHash('sha256')
    .update([ownerId, text, own.around, hashOf(said)].join('\n'))
    .digest('base64url')
    .slice(0, 32);
}

/** Keeps texts beside the rows that are read from them. @returns the id of each, for its row; null where there is none */
export async function keepTexts(work: Work, all: readonly TextToKeep[]): Promise<(string | null)[]> {
  const ids = all.map((one) => textIdOf(work.ownerId, one));
  const fresh = new Map<string, OwnText>();
  for (const [at, one] of all.entries()) {
    const id = ids[at];
    if (!id || !one.own) continue;
    const { text, around } = one.own;
    fresh.set(id, { id, ownerId: work.ownerId, text, around, said: hashOf(one.said), made: work.now, unusedSince: null });
  }
  const rows = [...fresh.values()];
  for (let from = 0; from < rows.length; from += AT_ONCE) {
    const some = rows.slice(from, from + AT_ONCE);
    await work.manager.query(
      `INSERT INTO "own_text" ("id", "ownerId", "text", "around", "said", "made") VALUES ${some.map(() => '(?, ?, ?, ?, ?, ?)').join(', ')}
       ON CONFLICT ("id") DO UPDATE SET "unusedSince" = NULL`,
      some.flatMap(({ id, ownerId, text, around, said, made }) => [id, ownerId, text, around, said, made]),
    );
  }
  return ids;
}

/** The same for one. */
export const keepText = async (work: Work, one: TextToKeep): Promise<string | null> => (await keepTexts(work, [one]))[0] ?? null;
