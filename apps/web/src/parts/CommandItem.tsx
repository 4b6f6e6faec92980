import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { inMenu } from '../commands';
import { KEYS, keyName, type Where } from '../keys';
import { Key } from './signs';

interface CommandItemProps<W extends Where> {
  where: W;
  command: keyof (typeof KEYS)[W] & string;
  /** Where it is called otherwise just now. */
  name?: string;
  run: () => void;
}

/** A command in a menu: its name and its key as the registry has them. */
export function CommandItem<W extends Where>({ where, command, name, run }: CommandItemProps<W>): ReactNode {
  return (
    <DropdownMenu.Item
      className="flex items-center justify-between gap-6 px-3 py-1 outline-none data-[highlighted]:bg-teal-wash"
      aria-keyshortcuts={KEYS[where][command]}
      onSelect={run}
    >
      {name ?? inMenu(where, command)} <Key>{keyName(KEYS[where][command])}</Key>
    </DropdownMenu.Item>
  );
}
