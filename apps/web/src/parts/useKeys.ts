import { useEffect, useLayoutEffect, useRef } from 'react';
import { isOnControl, isTyping } from '../keys';

type Bindings = Record<string, (event: KeyboardEvent) => void>;

/** Binds keys while the component is shown; never while typing in a field. */
export function useKeys(bindings: Bindings): void {
  const latest = useRef(bindings);
  // Before painting: a key pressed at once must act on what is shown, not on what was shown before.
  useLayoutEffect(() => {
    latest.current = bindings;
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.defaultPrevented || isTyping(event)) return;
      const bound = latest.current[event.key];
      if (!bound || (event.key === 'Enter' && isOnControl(event))) return;
      event.preventDefault();
      bound(event);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}

/** Enter does the one thing that is offered, unless it belongs to what has the focus. @param on whether it is offered */
export function useEnter(run: () => void, on: boolean): void {
  useKeys(
    on
      ? {
          Enter: (event) => {
            if (!event.repeat) run();
          },
        }
      : {},
  );
}

/** Leaves a field for the sheet or the pass it stands in, else for the place: never for the page, where no key is at home. */
export function leaveField(field: HTMLElement): void {
  const frame = field.closest<HTMLElement>('[data-sheet]') ?? field.closest('[data-pass]')?.querySelector<HTMLElement>('h2');
  (frame ?? document.getElementById('place'))?.focus({ preventScroll: true });
}

/** Escape leaves a field, where that does nothing else. */
export function useLeavingFields(): void {
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.key !== 'Escape' || event.defaultPrevented || !(event.target instanceof HTMLElement)) return;
      const field = event.target;
      if (!/^(?:INPUT|TEXTAREA|SELECT)$/.test(field.tagName)) return;
      // A browser empties a field for searching.
      event.preventDefault();
      leaveField(field);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}
