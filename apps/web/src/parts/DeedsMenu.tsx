import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { MENU } from './menuLooks';

export interface Deed {
  name: string;
  run: () => void;
}

interface DeedsProps {
  /** What stands on the button, and what it is called where that says too little. */
  label: string;
  called?: string;
  className: string;
  disabled?: boolean;
  deeds: readonly Deed[];
}

/** A word that opens what can be done. */
export function DeedsMenu({ label, called, className, disabled = false, deeds }: DeedsProps): ReactNode {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label={called}
        disabled={disabled}
        className={`min-h-6 text-xs underline underline-offset-2 ${className}`}
      >
        {label}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={2}
          collisionPadding={8}
          className={`${MENU} min-w-[190px]`}
          onCloseAutoFocus={(event) => {
            // A deed may have opened a field, which took the focus.
            if (document.activeElement instanceof HTMLInputElement) event.preventDefault();
          }}
        >
          {deeds.map(({ name, run }) => (
            <DropdownMenu.Item key={name} className="px-3 py-1 outline-none data-[highlighted]:bg-teal-wash" onSelect={run}>
              {name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
