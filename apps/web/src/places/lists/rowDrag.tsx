import type { TaskInfo } from '@corvun/contract';
import { useDraggable, useDroppable } from '@dnd-kit/core';
import { useLayoutEffect, type PointerEvent, type ReactNode, type RefObject } from 'react';
import { create } from 'zustand';

/** Whether a task is being dragged. Rows take part only then: each one that does costs time while the list is scrolled. */
export const useDragging = create<{ on: boolean; set: (on: boolean) => void }>((set) => ({
  on: false,
  set: (on) => set({ on }),
}));

export type OnPointerDown = (event: PointerEvent) => void;

/** Makes a row one that can be dragged, while the pointer is on it. */
export function DragFrom({
  task,
  row,
  ready,
}: {
  task: TaskInfo;
  row: RefObject<HTMLElement | null>;
  /** Is given what begins to drag; null when the pointer left. */
  ready: (start: OnPointerDown | null) => void;
}): ReactNode {
  const { setNodeRef, listeners } = useDraggable({ id: task.id, data: { task } });
  useLayoutEffect(() => {
    setNodeRef(row.current);
    ready((listeners?.['onPointerDown'] as OnPointerDown | undefined) ?? null);
    return () => ready(null);
  }, [setNodeRef, listeners, row, ready]);
  return null;
}

/** Makes a row one that something can be dropped on, while something is dragged. */
export function DropOn({ task }: { task: TaskInfo }): ReactNode {
  const { setNodeRef, isOver, active } = useDroppable({ id: `row-${task.id}`, data: { row: task } });
  const over = isOver && active?.id !== task.id;
  return (
    <div
      ref={setNodeRef}
      className={`pointer-events-none absolute inset-0 ${over ? 'shadow-[inset_0_2px_0_var(--teal)]' : ''}`}
      aria-hidden="true"
    />
  );
}
