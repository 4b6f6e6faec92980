import { useEffect, useRef } from 'react';
import { isTyping } from '../keys';

type Bindings = Record<string, (event: KeyboardEvent) => void>;

/** Binds keys while the component is shown; never while typing in a field. */
export function useKeys(bindings: Bindings): void {
  const latest = useRef(bindings);
  useEffect(() => {
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
