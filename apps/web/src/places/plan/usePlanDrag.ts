import type { DayInfo, Me } from '@corvun/contract';
import { PointerSensor, useSensor, useSensors, type DndContextProps, type DragStartEvent } from '@dnd-kit/core';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { put } from './moves';
import { usePlanning, type Placing, type Target } from './planning';
import { gripOf, targetAt, type Point } from './targets';

/** A drag begins after some pixels. The same object each time: another one would draw every entry anew at every step. */
const BEGINS = { activationConstraint: { distance: 5 } };

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
    const onMove = (event: PointerEvent) => {
      pointer.current = { x: event.clientX, y: event.clientY };
      look();
    };
    window.addEventListener('pointermove', onMove);
    window.addEventListener('scroll', look, true);
    return () => {
      window.removeEventListener('pointermove', onMove);
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
      sensors: useSensors(useSensor(PointerSensor, BEGINS)),
      onDragStart: ({ active, activatorEvent }: DragStartEvent) => {
        const placing = (active.data.current as RefObject<Placing>).current;
        const begun = activatorEvent as PointerEvent;
        pointer.current = { x: begun.clientX, y: begun.clientY };
        const element = (begun.target as Element | null)?.closest('[data-entry]')?.getBoundingClientRect();
        grip.current =
          placing.what === 'resize' && element ? begun.clientY - element.bottom : gripOf(placing, pointer.current, element);
        setDragged(placing);
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
