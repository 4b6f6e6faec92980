import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { useLocation } from 'react-router';
import { KEYS, keyName, type Where } from '../keys';
import { Key } from './signs';

type Row = [string, string];

/** What each command does; one without words does not compile. */
const DOES: { [W in Where]: Record<keyof (typeof KEYS)[W], string> } = {
  everywhere: {
    sort: 'Go to Sort',
    plan: 'Go to Plan',
    lists: 'Go to Lists',
    notes: 'Go to Notes',
    sources: 'Go to Sources, the ways in',
    data: 'Go to Data: backups, export, checks',
    capture: 'Write in the capture line',
    gather: 'Gather thoughts for five minutes',
    find: 'Find anything that came in or was made of it',
    undo: 'Take the last thing back',
    redo: 'Do it again',
    help: 'Show these keys',
  },
  sort: {
    next: 'Next incoming',
    previous: 'Previous incoming',
    accept: 'Do what is proposed',
    mark: 'Mark, to decide several together',
    markSender: 'Mark all from this sender',
    markShown: 'Mark all that are shown',
    list: 'Put on a list',
    day: 'Put on a day or in a week',
    time: 'Give it time: Enter for the best, 1 to 9 for a gap, + for several blocks',
    event: 'Make it an event',
    answer: 'Answer an invitation',
    writeBack: 'Write back, by mail or in the chat',
    passOn: 'Give a mail on to somebody',
    more: 'Take the other asks as tasks, too',
    handOver: 'Hand over, and wait for it',
    person: 'Keep a new sender as a person, or see the card of a known one',
    shelf: 'Put on the shelf',
    reference: 'Keep for reference, or write it into a note',
    done: 'Done already, and how long it took',
    drop: 'Drop',
    name: 'Change the title',
    beforeItGoes: 'Before it goes: notes, steps, tags, priority, repeat, files',
    turn: 'Turn between text and as sent',
    original: 'Save the original',
  },
  plan: {
    earlier: 'Earlier days',
    later: 'Later days',
    today: 'Back to today',
  },
  entry: {
    move: 'On one of them: move it with the arrow keys',
    tick: 'On a block or task: done',
    original: 'On one of them: open the message it came from',
  },
  notes: {
    next: 'Next note',
    previous: 'Previous note',
    name: 'Write in the note',
  },
  task: {
    next: 'Next task',
    previous: 'Previous task',
    tick: 'On a task: done',
    original: 'On a task: open the message it came from',
  },
};

const rowsOf = (where: Where): Row[] =>
  Object.entries(KEYS[where]).map(([name, key]) => [key, (DOES[where] as Record<string, string>)[name] ?? '']);

/** What is heard in each place, and what the browser itself does there. */
const HERE: Record<string, Row[]> = {
  sort: rowsOf('sort'),
  plan: [
    ...rowsOf('plan'),
    ['Tab', 'Go through events, blocks and tasks'],
    ...rowsOf('entry'),
    ['Enter', 'On one of them: all it can do'],
  ],
  notes: rowsOf('notes'),
  lists: [...rowsOf('task'), ['Enter', 'On a task: all it can do']],
};

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
            <Table title="In this place" rows={HERE[place] ?? []} />
            <Table title="Everywhere" rows={rowsOf('everywhere')} />
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
