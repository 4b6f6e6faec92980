import type { ReactNode } from 'react';
import { useKnown } from '../data/people';
import { useOpenPerson } from './open';

/** The name of whoever has an address: it opens the card of those who are known. */
export function NameOf({ address, children }: { address: string; children: ReactNode }): ReactNode {
  const known = useKnown(address);
  const open = useOpenPerson();
  if (!known) return children;
  return (
    <button
      type="button"
      data-person={known.id}
      title={`Open the card of ${known.name}`}
      className="underline decoration-rule underline-offset-4 hover:decoration-ink"
      onClick={() => open(known.id)}
    >
      {children}
    </button>
  );
}
