import type { IncomingLine } from '@corvun/contract';
import { useCallback, useLayoutEffect, useRef, type RefObject } from 'react';

/**
 * Keeps what is in sight where it is when something arrives above it.
 * @param order in which the lines stand: another one begins anew
 * @param row height of a line, in pixels
 * @returns is called when the lines are scrolled
 */
export function useStays(
  scroller: RefObject<HTMLElement | null>,
  lines: readonly IncomingLine[],
  order: string,
  row: number,
): () => void {
  const first = useRef<{ id: string; at: number; order: string } | null>(null);
  const look = useCallback(() => {
    const at = Math.floor((scroller.current?.scrollTop ?? 0) / row);
    const line = lines[at];
    first.current = line ? { id: line.id, at, order } : null;
  }, [lines, order, row, scroller]);
  useLayoutEffect(() => {
    const before = first.current;
    const at = before?.order === order ? lines.findIndex((line) => line.id === before.id) : -1;
    if (before && scroller.current && at > before.at) scroller.current.scrollTop += (at - before.at) * row;
    look();
  }, [lines, order, row, scroller, look]);
  return look;
}
