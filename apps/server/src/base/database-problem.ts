import { Refusal } from './refusal';

/** The code of the database or of the file system behind an error, wherever a library wrapped it; empty when there is none. */
export function codeOf(problem: unknown): string {
  for (
    let one = problem as Wrapped | null | undefined, depth = 0;
    one && depth < 5;
    one = one.driverError ?? one.cause, depth += 1
  )
    if (typeof one.code === 'string' && /^(?:SQLITE_|E[A-Z]+$)/.test(one.code)) return one.code;
  return '';
}

interface Wrapped {
  code?: unknown;
  driverError?: Wrapped;
  cause?: Wrapped;
}

const FULL = /^(?:SQLITE_FULL|SQLITE_IOERR.*|SQLITE_CANTOPEN|SQLITE_READONLY.*|ENOSPC|EDQUOT|EFBIG|EIO|EROFS)$/;
const BUSY = /^SQLITE_(?:BUSY|LOCKED)/;
const DAMAGED = /^SQLITE_(?:CORRUPT|NOTADB)/;

/** Whether a transaction was refused because something would stand there without what it belongs to. */
export const isStray = (problem: unknown): boolean => codeOf(problem) === 'SQLITE_CONSTRAINT_FOREIGNKEY';

/** Whether a transaction was refused because there would be two of something of which there is one. */
export const isTwice = (problem: unknown): boolean => codeOf(problem) === 'SQLITE_CONSTRAINT_UNIQUE';

export const stillNeeded = () =>
  new Refusal('still-needed', 'Something would be left without what it belongs to. Nothing was changed.');

export const busy = () =>
  new Refusal(
    'database-busy',
    'Another program holds the database, so nothing can be written now. Nothing was changed; try again in a moment.',
  );

/** What an error of the database or the disk means to whoever asked; null when it is neither. */
export function asRefusal(problem: unknown): Refusal | null {
  const code = codeOf(problem);
  if (BUSY.test(code)) return busy();
  if (FULL.test(code))
    return new Refusal(
      'disk-full',
      'The disk of this server is full or cannot be written. Nothing was changed, and nothing that was kept is lost; make room, then try again.',
    );
  if (DAMAGED.test(code))
    return new Refusal(
      'database-damaged',
      'The database is damaged. Whoever runs Corvun restores a backup; see docs/running.md.',
    );
  return null;
}
