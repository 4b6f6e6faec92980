import { useSyncExternalStore } from 'react';

/** What of Sort stands side by side: all of it, the message and its decision, or one at a time with a bar at the thumb. */
export type Room = 'all' | 'two' | 'one';

/** Pixels from which there is room for the stack, too, and for a message beside its decision. */
const ALL = 1080;
const TWO = 640;

const place = () => document.getElementById('place');

function room(): Room {
  const width = place()?.clientWidth ?? window.innerWidth;
  if (width >= ALL) return 'all';
  return width >= TWO ? 'two' : 'one';
}

function watch(changed: () => void): () => void {
  const observer = new ResizeObserver(changed);
  const here = place();
  if (here) observer.observe(here);
  return () => observer.disconnect();
}

/** How much room the place has: the window may be narrow, or a pass stand beside it. */
export const useRoom = (): Room => useSyncExternalStore(watch, room);
