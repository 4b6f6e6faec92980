import type { SourceLook } from '@corvun/contract';
import type { ReactNode } from 'react';

/** What would come in: a count, and the first few. */
export function Preview({ look }: { look: SourceLook }): ReactNode {
  return (
    <div role="status" className="border border-teal bg-teal-wash px-3 py-2">
      <p className="font-semibold">{look.sentence}</p>
      {look.sample.length > 0 && (
        <ul className="mt-1 text-xs text-soft">
          {look.sample.map((one, at) => (
            <li key={at} className="truncate">
              – {one}
            </li>
          ))}
          {look.matching > look.sample.length && <li>– and {look.matching - look.sample.length} more</li>}
        </ul>
      )}
    </div>
  );
}
