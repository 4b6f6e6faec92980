import { Dialog } from 'radix-ui';
import type { ReactNode } from 'react';
import { useLocation } from 'react-router';
import { KEYS, keyName } from '../keys';
import { Key } from './marks';

type Row = [string, string];

const EVERYWHERE: Row[] = [
  [KEYS.sort, 'Go to Sort'],
  [KEYS.plan, 'Go to Plan'],
  [KEYS.lists, 'Go to Lists'],
  [KEYS.notes, 'Go to Notes'],
  [KEYS.sources, 'Go to Sources, the ways in'],
  [KEYS.data, 'Go to Data: backups, export, checks'],
  [KEYS.capture, 'Write in the capture line'],
  [KEYS.gather, 'Gather thoughts for five minutes'],
  [KEYS.find, 'Find anything that came in or was made of it'],
  [KEYS.undo, 'Take the last thing back'],
  [KEYS.redo, 'Do it again'],
  [KEYS.help, 'Show these keys'],
];

const HERE: Record<string, Row[]> = {
  sort: [
    [KEYS.next, 'Next incoming'],
    [KEYS.previous, 'Previous incoming'],
    [KEYS.accept, 'Do what is proposed'],
    [KEYS.mark, 'Mark, to decide several together'],
    [KEYS.markSender, 'Mark all from this sender'],
    [KEYS.markShown, 'Mark all that are shown'],
    [KEYS.list, 'Put on a list'],
    [KEYS.day, 'Put on a day or in a week'],
    [KEYS.time, 'Give it time: Enter for the best, 1 to 9 for a gap, + for several blocks'],
    [KEYS.event, 'Make it an event'],
    [KEYS.answer, 'Answer an invitation'],
    [KEYS.writeBack, 'Write back, by mail or in the chat'],
    [KEYS.passOn, 'Give a mail on to somebody'],
    [KEYS.more, 'Take the other asks as tasks, too'],
    [KEYS.handOver, 'Hand over, and wait for it'],
    [KEYS.person, 'Keep a new sender as a person, or see the card of a known one'],
    [KEYS.shelf, 'Put on the shelf'],
    [KEYS.reference, 'Keep for reference, or write it into a note'],
    [KEYS.done, 'Done already, and how long it took'],
    [KEYS.drop, 'Drop'],
    [KEYS.name, 'Change the title'],
    [KEYS.extras, 'Before it goes: notes, steps, tags, priority, repeat, files'],
    [KEYS.turn, 'Turn between text and as sent'],
    [KEYS.original, 'Save the original'],
  ],
  plan: [
    [KEYS.earlier, 'Earlier days'],
    [KEYS.later, 'Later days'],
    [KEYS.today, 'Back to today'],
    ['Tab', 'Go through events, blocks and tasks'],
    [KEYS.move, 'On one of them: move it with the arrow keys'],
    [KEYS.tick, 'On a block or task: done'],
    [KEYS.original, 'On one of them: open the message it came from'],
    ['Enter', 'On one of them: all it can do'],
  ],
  notes: [
    [KEYS.next, 'Next note'],
    [KEYS.previous, 'Previous note'],
    [KEYS.name, 'Write in the note'],
  ],
  lists: [
    [KEYS.next, 'Next task'],
    [KEYS.previous, 'Previous task'],
    [KEYS.tick, 'On a task: done'],
    [KEYS.original, 'On a task: open the message it came from'],
    ['Enter', 'On a task: all it can do'],
  ],
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
            <Table title="Everywhere" rows={EVERYWHERE} />
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
