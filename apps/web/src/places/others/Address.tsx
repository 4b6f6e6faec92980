import type { ReactNode } from 'react';
import { useSaid } from '../../state/said';
import { button } from '../sources/common';

/** Puts a text where it can be pasted from. */
export async function copyText(text: string, what: string): Promise<void> {
  try {
    await navigator.clipboard.writeText(text);
    useSaid.getState().say(`${what} is copied`);
  } catch {
    useSaid.getState().complain(new Error('The browser does not let it be copied: mark it and copy it yourself.'));
  }
}

/** The whole address of a path of this server. */
export const addressOf = (path: string): string => `${window.location.origin}${path}`;

/** An address that is given to others; whoever has it is let in. */
export function Address({ path, of }: { path: string; of: string }): ReactNode {
  if (!path) return <p className="text-xs text-amber">It came without its address; renew it to get another.</p>;
  return (
    <p className="flex items-center gap-2">
      <code className="min-w-0 flex-1 truncate bg-card px-2 py-1 text-xs select-all">{addressOf(path)}</code>
      <button
        type="button"
        className={button}
        aria-label={`Copy the address of ${of}`}
        onClick={() => void copyText(addressOf(path), 'The address')}
      >
        Copy
      </button>
    </p>
  );
}
