import { useEffect, useLayoutEffect, useRef } from 'react';
import { isTyping } from '../keys';

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
      if (!bound) return;
      event.preventDefault();
      bound(event);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, []);
}
