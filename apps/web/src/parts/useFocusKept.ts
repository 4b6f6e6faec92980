import { useEffect } from 'react';

const FRAME = '[data-sheet], [data-pass], [role="dialog"], #place';
/** How many things may lie over each other. */
const KNOWN = 4;

/**
 * Where the focus goes on when what had it is gone: to what it stood in, whose keys go on being heard. What opens over the
 * page stands in nothing.
 * @param before what the focus was within, newest first
 */
function frameOf(parents: readonly Element[], before: readonly HTMLElement[]): HTMLElement | null {
  const around = parents.find((one) => one.isConnected)?.closest<HTMLElement>(FRAME);
  const frame = around ?? before.find((one) => one.isConnected) ?? document.getElementById('place');
  return frame?.matches('[data-pass]') ? frame.querySelector('h2') : frame;
}

/** Whatever has the focus and is taken away leaves it to what it stood in, and never to the page. */
export function useFocusKept(): void {
  useEffect(() => {
    let last: Element | null = null;
    let parents: Element[] = [];
    let before: HTMLElement[] = [];
    let asked = 0;
    const onFocus = ({ target }: FocusEvent) => {
      last = target as Element;
      const frame = last.closest<HTMLElement>(FRAME);
      if (frame && frame !== before[0]) before = [frame, ...before.filter((one) => one !== frame)].slice(0, KNOWN);
      parents = [];
      for (let one = last.parentElement; one; one = one.parentElement) parents.push(one);
    };
    const look = () => {
      asked = 0;
      const isLost = last && !last.isConnected && (!document.activeElement || document.activeElement === document.body);
      if (!isLost) return;
      last = null;
      frameOf(parents, before)?.focus({ preventScroll: true });
    };
    // Whoever knows better where it goes on has said so by the second frame.
    const observer = new MutationObserver(() => {
      if (!asked && last && !last.isConnected) asked = requestAnimationFrame(() => (asked = requestAnimationFrame(look)));
    });
    document.addEventListener('focusin', onFocus);
    observer.observe(document.body, { childList: true, subtree: true });
    return () => {
      document.removeEventListener('focusin', onFocus);
      observer.disconnect();
      cancelAnimationFrame(asked);
    };
  }, []);
}
