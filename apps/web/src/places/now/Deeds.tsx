import type { ReactNode } from 'react';
import { keyName } from '../../keys';
import { Key } from '../../parts/signs';
import { useKeys } from '../../parts/useKeys';

/** Something that can be done here, with one key. */
export interface NowDeed {
  key: string;
  name: string;
  run: () => unknown;
  /** The one thing to do. */
  first?: boolean;
  /** Stands at the other end. */
  apart?: boolean;
  expanded?: boolean;
}

/** What can be done, each as a button and with its key; what cannot be is not there. */
export function Deeds({ deeds, label }: { deeds: readonly NowDeed[]; label: string }): ReactNode {
  useKeys(Object.fromEntries(deeds.map(({ key, run }) => [key, () => void run()])));
  return (
    <div role="group" aria-label={label} className="mt-6 flex flex-wrap items-center gap-x-[14px] gap-y-2">
      {deeds.map(({ key, name, run, first, apart, expanded }) => (
        <button
          key={key}
          type="button"
          aria-expanded={expanded}
          className={
            first
              ? 'flex min-h-9 items-center gap-3 bg-teal px-3 font-semibold text-on-teal'
              : `flex min-h-7 items-center gap-[6px] hover:text-teal ${apart ? 'ml-auto max-lg:ml-0' : ''}`
          }
          onClick={() => void run()}
        >
          <Key>{keyName(key)}</Key> {name}
        </button>
      ))}
    </div>
  );
}
