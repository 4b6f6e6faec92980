import { DropdownMenu } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { KEYS, keyName } from '../keys';
import { Key } from '../parts/signs';
import { MENU } from '../parts/menuLooks';

interface MoreProps<N extends string> {
  /** What can be said besides, by name. */
  missing: readonly { name: N; label: string }[];
  ask: (name: N) => void;
}

/** The end of a sentence: what else can be said. */
export function MoreMenu<N extends string>({ missing, ask }: MoreProps<N>): ReactNode {
  const [asked, setAsked] = useState(false);
  return (
    <DropdownMenu.Root modal={false} onOpenChange={(open) => open && setAsked(false)}>
      <DropdownMenu.Trigger id="sheet-more" className="text-teal underline decoration-dotted underline-offset-4">
        and … <Key>{keyName(KEYS.sheet.more)}</Key>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          aria-label="Say more of it"
          className={`${MENU} min-w-[200px]`}
          // What was asked for takes the focus.
          onCloseAutoFocus={(event) => asked && event.preventDefault()}
        >
          {missing.map(({ name, label }) => (
            <DropdownMenu.Item
              key={name}
              className="px-3 py-1 outline-none data-[highlighted]:bg-teal-wash"
              onSelect={() => {
                setAsked(true);
                ask(name);
              }}
            >
              {label}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
