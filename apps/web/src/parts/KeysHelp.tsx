import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { useLocation } from 'react-router';
import { helpFor } from '../commands';
import { keyName } from '../keys';
import { Key } from './signs';

type Row = [string, string];

/** What is heard in each place, and what the browser itself does there. */
const here = (): Record<string, Row[]> => ({
  sort: helpFor('sort'),
  plan: [
    ...helpFor('plan'),
    ['Tab', 'Go through events, blocks and tasks'],
    ...helpFor('entry'),
    ['Enter', 'On one of them: all it can do'],
    ...helpFor('card'),
  ],
  now: document.querySelector('[data-alone]')
    ? helpFor('alone')
    : [...helpFor('now'), ['1 … 9', 'A loose end: the first of what can be done with it'], ...helpFor('entry')],
  notes: helpFor('notes'),
  'look-back': [...helpFor('lookBack'), ['↑ ↓', 'Go through what was on a day']],
  lists: [
    ...helpFor('lists'),
    ...helpFor('task'),
    ['Alt ↑', 'On a task: move it up by hand; Alt ↓ down'],
    ['Ctrl Enter', 'In a title: keep it and go on'],
  ],
});

export function KeysHelp({ open, setOpen }: { open: boolean; setOpen: (open: boolean) => void }): ReactNode {
  const place = useLocation().pathname.split('/')[1] ?? '';
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-[rgb(0_0_0/0.35)]" />
        <Dialog.Content
          aria-describedby={undefined}
          className="fixed top-1/2 left-1/2 z-50 max-h-[86vh] w-[min(720px,92vw)] -translate-x-1/2 -translate-y-1/2 overflow-auto border border-ink bg-card p-6 shadow-lg"
        >
          <Dialog.Title className="font-head text-lg font-semibold">Keys</Dialog.Title>
          <div className="mt-3 grid gap-x-8 gap-y-4 md:grid-cols-2">
            <Table title="In this place" rows={here()[place] ?? []} />
            {document.querySelector('[data-pass]') && <Table title="In a pass" rows={helpFor('pass')} />}
            <Table title="Everywhere" rows={helpFor('everywhere')} />
          </div>
          <Dialog.Close className="mt-5 border border-ink px-3 py-1">Close</Dialog.Close>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Table({ title, rows }: { title: string; rows: Row[] }): ReactNode {
  return (
    <section>
      <h3 className="mb-1 font-head font-semibold">{title}</h3>
      <dl>
        {rows.map(([key, does]) => (
          <div key={key + does} className="flex items-center gap-3 border-t border-rule py-1">
            <dt className="w-14 shrink-0">
              <span className="sr-only">{key}</span>
              <Key>{keyName(key)}</Key>
            </dt>
            <dd>{does}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
