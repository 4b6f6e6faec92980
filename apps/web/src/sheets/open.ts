import { useCallback } from 'react';
import { useLocation, useNavigate, useSearchParams } from 'react-router';
import { create } from 'zustand';

/** The tasks that can be gone through from the sheet of one of them, in their order; the place that shows them says so. */
export const useBeside = create<{ ids: readonly string[]; set: (ids: readonly string[]) => void }>((set) => ({
  ids: [],
  set: (ids) => set({ ids }),
}));

/** What opened a sheet: it gets the focus back. */
let opener: { element: HTMLElement | null; id: string } | null = null;

/** What can be open as a sheet, by its name in the address. */
type SheetKind = 'task' | 'person' | 'event';

const KINDS: readonly SheetKind[] = ['task', 'person', 'event'];

/** Opens the sheet of a task over the place that is shown; it stands in the address. */
export const useOpenTask = (): ((id: string, how?: 'beside') => void) => useOpenSheet('task');
/** Opens the card of a person. */
export const useOpenPerson = (): ((id: string) => void) => useOpenSheet('person');
/** Opens the sheet of an event, or of one date of it. */
export const useOpenEvent = (): ((id: string, date: string | null) => void) => {
  const open = useOpenSheet('event');
  return useCallback((id, date) => open(id, undefined, date), [open]);
};
/** Shows an event under another id or date, where the sheet is open already. */
export const useReplaceEvent = (): ((id: string, date: string | null) => void) => {
  const open = useOpenSheet('event');
  return useCallback((id, date) => open(id, 'beside', date), [open]);
};
/** Opens the sheet of a task where its time is chosen. */
export const useGiveTime = (): ((id: string) => void) => {
  const open = useOpenSheet('task');
  return useCallback((id) => open(id, 'time'), [open]);
};

/** Opens the sheet of a task where whom it waits on is asked once more. */
export const useRemind = (): ((id: string) => void) => {
  const open = useOpenSheet('task');
  return useCallback((id) => open(id, 'remind'), [open]);
};

/** Opens the sheet of a task where it is handed over. */
export const useHandOver = (): ((id: string) => void) => {
  const open = useOpenSheet('task');
  return useCallback((id) => open(id, 'handOver'), [open]);
};

function useOpenSheet(
  kind: SheetKind,
): (id: string, how?: 'beside' | 'time' | 'remind' | 'handOver', date?: string | null) => void {
  const navigate = useNavigate();
  const { pathname, search } = useLocation();
  return useCallback(
    (id, how, date) => {
      const query = new URLSearchParams(search);
      for (const one of [...KINDS, 'date']) query.delete(one);
      query.set(kind, id);
      if (date) query.set('date', date);
      if (how !== 'beside') opener = { element: document.activeElement as HTMLElement | null, id };
      void navigate(
        { pathname, search: query.toString() },
        {
          state: { sheet: true, time: how === 'time', remind: how === 'remind', handOver: how === 'handOver' },
          replace: how === 'beside',
        },
      );
    },
    [kind, navigate, pathname, search],
  );
}

/** Whose sheet is open, and how it is closed. */
export function useSheet(kind: SheetKind = 'task'): { id: string | null; close: () => void } {
  const [query, setQuery] = useSearchParams();
  const navigate = useNavigate();
  const { state } = useLocation() as { state: { sheet?: boolean } | null };
  const id = query.get(kind);
  const close = useCallback(() => {
    if (state?.sheet) void navigate(-1);
    else
      setQuery(
        (old) => {
          old.delete(kind);
          old.delete('date');
          return old;
        },
        { replace: true },
      );
  }, [kind, navigate, setQuery, state]);
  return { id, close };
}

/**
 * Whether a sheet that is there at last may take the focus: not from where it was put meanwhile. What has it now gets it
 * back, unless something else is known to have opened the sheet.
 */
export function takesFocus(id: string): boolean {
  const now = document.activeElement as HTMLElement | null;
  const known = opener?.element;
  opener ??= { element: now, id };
  return (
    now === null ||
    now === document.body ||
    now === known ||
    now.matches(`a[href*="=${id}"]`) ||
    now.closest('[data-sheet]') !== null
  );
}

/** Where the message stands that something came from; Escape leads back from there. */
export const originalOf = (incomingId: string) => [`/sort/${incomingId}`, { state: { back: true } }] as const;

/** The entry that the sheet of something was opened from, or that stands for it. */
export const entryOf = (id: string): Element | null =>
  opener?.element?.closest('[data-entry]') ?? document.querySelector(`[data-of="${CSS.escape(id)}"]`);

/** Gives the focus back to what opened the sheet, or to the row of the task that was open last. */
export function giveBack(id: string): void {
  const row = document.querySelector<HTMLElement>(
    `[data-task="${id}"], [data-person="${id}"], [data-of="${id}"] button:not([role])`,
  );
  const from = opener?.element;
  opener = null;
  (row ?? (from?.isConnected ? from : document.getElementById('place')))?.focus();
}
