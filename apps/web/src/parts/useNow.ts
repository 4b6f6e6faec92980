import { useEffect, useState } from 'react';
import type { Me } from '@corvun/contract';

let offset = 0;

/** Takes the server's clock over, just when it was told: in the demo it can stand elsewhere than this machine's. */
export function followServerClock(me: Me): void {
  offset = Date.parse(me.now) - Date.now();
}

export const serverNow = (): number => Date.now() + offset;

/** The server's time, moving on every half minute, or as often as is said. */
export function useNow(every = 30_000): number {
  const [now, setNow] = useState(serverNow);
  useEffect(() => {
    const timer = window.setInterval(() => setNow(serverNow()), every);
    return () => window.clearInterval(timer);
  }, [every]);
  return now;
}
