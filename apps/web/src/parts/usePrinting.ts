import { useEffect } from 'react';

/** Prints what is shown with it, as soon as that stands there. @param over the dialog of the browser was closed */
export function usePrinting(over: () => void): void {
  useEffect(() => {
    window.addEventListener('afterprint', over, { once: true });
    const frame = window.requestAnimationFrame(() => window.print());
    return () => {
      window.cancelAnimationFrame(frame);
      window.removeEventListener('afterprint', over);
    };
  }, [over]);
}
