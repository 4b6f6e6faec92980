import { useEffect, useState } from 'react';
import type { Me } from '@corvun/contract';

let offset = 0;

/** Takes the server's clock over: in the demo it can stand elsewhere than this machine's. */
export function followServerClock(me: Me): void {
  offset = Date.parse(me.now) - Date.now();
}

export const serverNow = (): number => Date.now() + offset;

/** The server's time, moving on every half minute. */
export function useNow(): number {
  const [now, setNow] = useState(serverNow);
  useEffect(() => {
    const timer = window.setInterval(() => setNow(serverNow()), 30_000);
    return () => window.clearInterval(timer);
  }, []);
  return now;
}
