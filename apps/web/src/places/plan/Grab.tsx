import { useDraggable } from '@dnd-kit/core';
import { useRef, type MouseEvent, type ReactNode, type TouchEvent } from 'react';
import type { Placing } from './planning';

const held = new WeakMap<Element, Placing>();

/** Says what an element puts somewhere when it is dragged; null: it stays where it is. */
export function grabs(element: Element | null, placing: Placing | null): void {
  if (!element) return;
  if (placing) held.set(element, placing);
  else held.delete(element);
}

/**
 * Everything in it that `grabs` named can be dragged. One thing for all of them: a week has hundreds of entries, and each of
 * its own would be drawn anew with every drag.
 */
export function Grab({ children }: { children: ReactNode }): ReactNode {
  const placing = useRef<Placing | null>(null);
  const { setNodeRef, listeners } = useDraggable({ id: 'held', data: placing });
  const begin = (event: MouseEvent | TouchEvent) => {
    const element = grabbed(event.target as Element);
    if (!element) return;
    placing.current = held.get(element) ?? null;
    setNodeRef(element as HTMLElement);
    listeners?.[event.type === 'touchstart' ? 'onTouchStart' : 'onMouseDown']?.(event);
  };
  return (
    <div className="contents" role="presentation" onMouseDown={begin} onTouchStart={begin}>
      {children}
    </div>
  );
}

function grabbed(from: Element): Element | null {
  for (let element: Element | null = from; element; element = element.parentElement) if (held.has(element)) return element;
  return null;
}
