import type { ReactNode } from 'react';
import { gather } from '../../data/actions';
import { LineForm } from '../../passes/LineForm';

/** What just came: a line for the inbox, then back to what was left. */
export function CameUp({ close }: { close: () => void }): ReactNode {
  return (
    <div className="mt-4 max-w-[520px] border border-teal bg-card pt-2" role="group" aria-label="Something came up">
      <LineForm
        label="What came up? It waits in the inbox."
        placeholder="Ines asks for the key of the hut"
        kept="came-up"
        empty="Write what came up, or leave it with Escape."
        send={(line) => gather(line)}
        close={close}
      />
    </div>
  );
}
