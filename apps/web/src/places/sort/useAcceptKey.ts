import { useLayoutEffect } from 'react';
import { KEYS, isOnControl } from '../../keys';

/** Enter does what is proposed, unless it belongs to a focused control. @param on false while it is not known what there is to choose */
export function useAcceptKey(accept: () => void, on: boolean): void {
  useLayoutEffect(() => {
    if (!on) return undefined;
    const onKey = (event: KeyboardEvent) => {
      const target = event.target instanceof HTMLElement ? event.target : null;
      if (event.key !== KEYS.sort.accept || event.defaultPrevented || event.repeat || isOnControl(event)) return;
      if (target && /^(?:INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) return;
      if (target?.closest('[role="dialog"],[role="menu"],[data-keeps-enter]')) return;
      event.preventDefault();
      accept();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [accept, on]);
}
