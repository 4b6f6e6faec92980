/** How a menu looks, without its width; one that is higher than the room there is scrolls. */
export const MENU =
  'z-50 max-h-(--radix-dropdown-menu-content-available-height) overflow-y-auto border border-ink bg-card py-1 shadow-lg';
