import type { DayInfo, Me } from '@corvun/contract';
import { MouseSensor, TouchSensor, useSensor, useSensors, type DndContextProps, type DragStartEvent } from '@dnd-kit/core';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { put } from './moves';
import { usePlanning, type Placing, type Target } from './planning';
import { gripOf, targetAt, type Point } from './targets';

/**
 * A drag begins after some pixels; a finger, which also scrolls, holds a moment first. The same objects each time: others would
 * draw every entry anew at every step.
 */
const BEGINS = { activationConstraint: { distance: 5 } };
const HELD = { activationConstraint: { delay: 300, tolerance: 8 } };

/** Where a pointer or the first finger is. */
const pointOf = (event: Event): Point => {
  const { clientX: x, clientY: y } =
    window.TouchEvent && event instanceof TouchEvent
      ? (event.touches[0] ?? event.changedTouches[0] ?? NOWHERE)
      : (event as MouseEvent);
  return { x, y };
};
const NOWHERE = { clientX: 0, clientY: 0 };

interface PlanDrag {
  dragged: Placing | null;
  target: Target | null;
  /** For the context of what is dragged. */
  context: Pick<DndContextProps, 'sensors' | 'onDragStart' | 'onDragEnd' | 'onDragCancel'>;
}

/** Dragging on Plan: what is dragged, and where it would be put. */
export function usePlanDrag(me: Me, days: readonly DayInfo[], columns: RefObject<HTMLDivElement | null>): PlanDrag {
  const dragged = usePlanning((state) => state.dragged);
  const setDragged = (placing: Placing | null) => usePlanning.setState({ dragged: placing });
  const [target, setTarget] = useState<Target | null>(null);
  // The pointer itself: what the library tells is moved along with whatever is scrolled meanwhile.
  const pointer = useRef<Point>({ x: 0, y: 0 });
  const grip = useRef(0);
  const { snap } = me.settings;
  useEffect(() => {
    if (!dragged) return undefined;
    const look = () =>
      setTarget((was) => {
        const reached = targetAt(dragged, pointer.current, grip.current, columns.current, snap);
        return JSON.stringify(reached) === JSON.stringify(was) ? was : reached;
      });
    const onMove = (event: Event) => {
      pointer.current = pointOf(event);
      look();
    };
    const moves = ['pointermove', 'touchmove'];
    for (const move of moves) window.addEventListener(move, onMove);
    window.addEventListener('scroll', look, true);
    return () => {
      for (const move of moves) window.removeEventListener(move, onMove);
      window.removeEventListener('scroll', look, true);
    };
  }, [dragged, columns, snap]);
  const letGo = () => {
    setDragged(null);
    setTarget(null);
  };
  return {
    dragged,
    target,
    context: {
      sensors: useSensors(useSensor(MouseSensor, BEGINS), useSensor(TouchSensor, HELD)),
      onDragStart: ({ active, activatorEvent }: DragStartEvent) => {
        const placing = (active.data.current as RefObject<Placing>).current;
        pointer.current = pointOf(activatorEvent);
        const element = (activatorEvent.target as Element | null)?.closest('[data-entry]')?.getBoundingClientRect();
        grip.current =
          placing.what === 'resize' && element ? pointer.current.y - element.bottom : gripOf(placing, pointer.current, element);
        setDragged(placing);
        // A finger that holds on sees at once that it holds something.
        setTarget(targetAt(placing, pointer.current, grip.current, columns.current, snap));
      },
      onDragEnd: () => {
        const reached = dragged && targetAt(dragged, pointer.current, grip.current, columns.current, snap);
        letGo();
        if (dragged && reached) void put(dragged, reached, me, days);
      },
      onDragCancel: letGo,
    },
  };
}
