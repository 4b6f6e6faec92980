import type { DayInfo, IncomingLine, Me, Undecided } from '@corvun/contract';
import {
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
  type DndContextProps,
  type DragEndEvent,
  type DragMoveEvent,
  type DragStartEvent,
} from '@dnd-kit/core';
import { useState } from 'react';
import { DRAG_SAYS } from '../../parts/dragSays';
import type { Decide } from './decide';
import { ghostAt, type Ghost } from './stripGhost';
import type { TimeChoice } from './timeChoice';

/** A drag begins after some pixels. The same object each time: another one would draw all that can be dragged anew at every step. */
const BEGINS = { activationConstraint: { distance: 6 } };

/** What something of the stack is dragged over: a destination, or a day of the strip. */
interface Over {
  input?: Undecided;
  strip?: DayInfo;
}

/** Dragging on Sort: onto a destination, a day, or a time of the strip. */
export function useSortDrag(
  me: Me,
  setDragged: (line: IncomingLine | null) => void,
  choice: TimeChoice,
  decide: Decide,
): { ghost: Ghost | null; context: DndContextProps } {
  const [ghost, setGhost] = useState<Ghost | null>(null);
  const sensors = useSensors(useSensor(PointerSensor, BEGINS));
  const letGo = () => {
    setDragged(null);
    setGhost(null);
  };
  const context: DndContextProps = {
    accessibility: DRAG_SAYS,
    sensors,
    collisionDetection: pointerWithin,
    onDragStart: ({ active }: DragStartEvent) => setDragged((active.data.current as { line: IncomingLine }).line),
    onDragMove: ({ over, delta, activatorEvent }: DragMoveEvent) => {
      const day = (over?.data.current as Over | undefined)?.strip;
      if (!over || !day) return setGhost(null);
      const share = ((activatorEvent as PointerEvent).clientX + delta.x - over.rect.left) / over.rect.width;
      const next = ghostAt({ day, share, minutes: choice.minutes, gaps: choice.lit, me });
      return setGhost((was) => (was?.start === next.start ? was : next));
    },
    onDragEnd: ({ over, active }: DragEndEvent) => {
      letGo();
      const { line } = active.data.current as { line: IncomingLine };
      const target = over?.data.current as Over | undefined;
      if (target?.strip && ghost) choice.placeAt(ghost.start, line);
      else if (target?.input) void decide(target.input, line);
    },
    onDragCancel: letGo,
  };
  return { ghost, context };
}
