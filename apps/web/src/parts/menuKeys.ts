import type { KeyboardEvent } from 'react';

/** The keys that stand in an open menu do what stands beside them; Enter stays with the item that is reached. */
export function menuKeys(event: KeyboardEvent<HTMLElement>): void {
  if (event.key === 'Enter' || event.ctrlKey || event.metaKey || event.altKey) return;
  const items = [...event.currentTarget.querySelectorAll<HTMLElement>('[role^="menuitem"][aria-keyshortcuts]')];
  const meant = items.find((item) => item.getAttribute('aria-keyshortcuts') === event.key);
  if (!meant) return;
  event.preventDefault();
  event.stopPropagation();
  meant.click();
}
