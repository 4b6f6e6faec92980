import type { TaskInfo } from '@corvun/contract';
import { ChevronDown } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { changeTask } from '../data/thingActions';
import { Key } from '../parts/signs';
import type { Moves } from './stepMoves';

const item = 'flex items-center justify-between gap-6 px-3 py-1 outline-none data-[highlighted]:bg-teal-wash';

/** Everything a step can do, for those who do not drag. */
export function StepMenu({ step, moves, open }: { step: TaskInfo; moves: Moves; open: () => void }): ReactNode {
  const rows: [name: string, key: string, run: (() => void) | null][] = [
    ['Move up', 'Alt ↑', moves.up],
    ['Move down', 'Alt ↓', moves.down],
    ['Make it a step of the one above', 'Alt →', moves.in],
    ['Take it out again', 'Alt ←', moves.out],
    ['Make it a task of its own', '', moves.own],
    ['Open it', '', open],
    ['Take it away', '', () => void changeTask(step.id, { status: 'CANCELLED' })],
  ];
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label={`All that step “${step.title}” can do`}
        className="grid size-6 shrink-0 place-items-center text-soft opacity-60 hover:opacity-100 focus-visible:opacity-100"
      >
        <ChevronDown size={13} aria-hidden="true" />
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" collisionPadding={8} className="z-50 border border-ink bg-card py-1 shadow-lg">
          {rows.map(
            ([name, key, run]) =>
              run && (
                <DropdownMenu.Item key={name} className={item} onSelect={run}>
                  {name} {key && <Key>{key}</Key>}
                </DropdownMenu.Item>
              ),
          )}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
