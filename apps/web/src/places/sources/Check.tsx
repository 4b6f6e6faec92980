import type { ReactNode } from 'react';

/** One thing that can be ticked. */
export function Check({ label, checked, set }: { label: string; checked: boolean; set: (on: boolean) => void }): ReactNode {
  return (
    <label className="flex items-center gap-2 py-[2px]">
      <input type="checkbox" className="size-4 accent-teal" checked={checked} onChange={(event) => set(event.target.checked)} />
      {label}
    </label>
  );
}
