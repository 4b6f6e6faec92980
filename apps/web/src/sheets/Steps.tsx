import type { TaskFull, TaskInfo } from '@corvun/contract';
import { sayMinutes } from '@corvun/core';
import { DndContext, PointerSensor, closestCenter, useSensor, useSensors, type DragEndEvent } from '@dnd-kit/core';
import { SortableContext, useSortable, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import { GripVertical } from 'lucide-react';
import { useRef, type ClipboardEvent, type KeyboardEvent, type ReactNode } from 'react';
import { addTasks, changeTask } from '../data/thingActions';
import { KEYS, keyName } from '../keys';
import { DRAG_SAYS } from '../parts/dragSays';
import { Key } from '../parts/signs';
import { TickBox } from '../parts/TickBox';
import { useDraft, useWritten } from './drafts';
import { useOpenTask } from './open';
import { StepMenu } from './StepMenu';
import { moves, type Moves } from './stepMoves';

/** A drag begins after some pixels. The same object each time: another one would draw all that can be dragged anew at every step. */
const BEGINS = { activationConstraint: { distance: 4 } };

/** Lines of pasted text, without the signs of a list. */
export const linesOf = (text: string): string[] =>
  text
    .split(/\r?\n/)
    .map((line) => line.replace(/^\s*(?:[-*•]\s+(?:\[[ xX]\]\s+)?|\d+[.)]\s+)/, '').trim())
    .filter(Boolean);

/** The steps of a task, two levels deep: written, ticked, put in another order, and turned into tasks of their own. */
export function Steps({ task }: { task: TaskFull }): ReactNode {
  const frame = useRef<HTMLUListElement>(null);
  const sensors = useSensors(useSensor(PointerSensor, BEGINS));
  const { steps } = task;
  const done = steps.filter((step) => step.status === 'COMPLETED').length;
  const movesOf = (step: TaskInfo) => moves(task.id, steps, step);
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    const step = steps.find((one) => one.id === active.id);
    const target = steps.find((one) => one.id === over?.id);
    if (!step || !target || step === target) return;
    const down = steps.indexOf(target) > steps.indexOf(step);
    const siblings = steps.filter((one) => one.parentId === target.parentId && one.id !== step.id);
    const before = siblings[siblings.indexOf(target) - 1]?.id ?? null;
    void changeTask(step.id, { parent: target.parentId, after: down ? target.id : before });
  };
  const go = (from: HTMLElement, by: number) => {
    const fields = [...(frame.current?.querySelectorAll<HTMLElement>('[data-step]') ?? []), document.getElementById('new-step')];
    fields[fields.indexOf(from) + by]?.focus();
  };
  return (
    <section aria-labelledby="steps-head" className="mt-4">
      <h3 id="steps-head" className="font-head font-semibold">
        Steps{' '}
        {steps.length > 0 && (
          <span className="font-sans text-xs font-normal text-soft">
            {done} of {steps.length}
          </span>
        )}
      </h3>
      <DndContext accessibility={DRAG_SAYS} sensors={sensors} collisionDetection={closestCenter} onDragEnd={onDragEnd}>
        <SortableContext items={steps.map((step) => step.id)} strategy={verticalListSortingStrategy}>
          <ul ref={frame} aria-label="Steps">
            {steps.map((step) => (
              <Step key={step.id} step={step} deep={step.parentId !== task.id} moves={movesOf(step)} go={go} />
            ))}
          </ul>
        </SortableContext>
      </DndContext>
      <NewStep task={task} go={go} />
    </section>
  );
}

interface StepProps {
  step: TaskInfo;
  deep: boolean;
  moves: Moves;
  go: (from: HTMLElement, by: number) => void;
}

function Step({ step, deep, moves: can, go }: StepProps): ReactNode {
  const { setNodeRef, listeners, transform, transition, isDragging } = useSortable({ id: step.id, data: { says: step.title } });
  const open = useOpenTask();
  const [text, write] = useDraft(`title-${step.id}`);
  const done = step.status === 'COMPLETED';
  const leave = () => {
    const title = useWritten.getState().texts[`title-${step.id}`]?.trim();
    if (title && title !== step.title) void changeTask(step.id, { title });
    write(null);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>) => {
    const field = event.currentTarget;
    const alt = { ArrowUp: can.up, ArrowDown: can.down, ArrowRight: can.in, ArrowLeft: can.out }[event.key];
    if (event.altKey && alt) alt();
    else if (event.altKey || event.ctrlKey || event.metaKey) return;
    else if (event.key === 'Enter') document.getElementById('new-step')?.focus();
    else if (event.key === 'ArrowDown') go(field, 1);
    else if (event.key === 'ArrowUp') go(field, -1);
    else if (event.key === 'Escape') {
      write(null);
      field.blur();
      field.closest<HTMLElement>('[data-sheet]')?.focus();
    } else if (event.key === 'Backspace' && field.value === '') {
      go(field, -1);
      write(null);
      void changeTask(step.id, { status: 'CANCELLED' });
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Transform.toString(transform), transition }}
      className={`group flex items-center gap-1 ${deep ? 'pl-6' : ''} ${isDragging ? 'relative z-10 bg-paper opacity-70' : ''}`}
    >
      <TickBox
        done={done}
        title={step.title}
        onTick={() => void changeTask(step.id, { status: done ? 'NEEDS-ACTION' : 'COMPLETED' })}
      />
      <input
        data-step={step.id}
        aria-label={`Step: ${step.title}`}
        title="Alt with the arrow keys moves it and makes it a step of the one above"
        className={`min-w-0 flex-1 truncate border-b border-transparent bg-transparent hover:border-soft focus:border-teal ${done ? 'text-soft line-through' : ''}`}
        value={text ?? step.title}
        maxLength={500}
        autoComplete="off"
        onChange={(event) => write(event.target.value)}
        onBlur={leave}
        onKeyDown={onKeyDown}
      />
      {step.estimate !== null && <span className="shrink-0 text-xs text-soft">{sayMinutes(step.estimate)}</span>}
      <StepMenu step={step} moves={can} open={() => open(step.id)} />
      <span
        {...listeners}
        className="grid size-6 shrink-0 cursor-grab touch-none place-items-center text-soft opacity-40 group-hover:opacity-100"
        aria-hidden="true"
      >
        <GripVertical size={13} />
      </span>
    </li>
  );
}

function NewStep({ task, go }: { task: TaskFull; go: StepProps['go'] }): ReactNode {
  const [text, write] = useDraft(`step-${task.id}`);
  const add = async (lines: string[]) => {
    if (!lines.length) return;
    write(null);
    if (!(await addTasks(lines, { parent: task.id }))) write(lines.join(' '));
  };
  const onPaste = (event: ClipboardEvent) => {
    const lines = linesOf(event.clipboardData.getData('text/plain'));
    if (lines.length < 2) return;
    event.preventDefault();
    void add([`${text ?? ''}${lines[0]}`, ...lines.slice(1)]);
  };
  return (
    <div className="flex items-center gap-2 pl-[2px]">
      <span aria-hidden="true" className="w-4 text-center text-soft">
        +
      </span>
      <input
        id="new-step"
        aria-label="New step"
        placeholder="A step; paste many lines for many steps"
        className="min-w-0 flex-1 border-b border-transparent bg-transparent py-[2px] placeholder:text-soft hover:border-soft focus:border-teal"
        value={text ?? ''}
        maxLength={2000}
        autoComplete="off"
        onPaste={onPaste}
        onChange={(event) => write(event.target.value || null)}
        onKeyDown={(event) => {
          if (event.key === 'Enter' && text?.trim()) void add([text.trim()]);
          else if (event.key === 'ArrowUp') go(event.currentTarget, -1);
          else if (event.key === 'Escape') event.currentTarget.closest<HTMLElement>('[data-sheet]')?.focus();
          else return;
          event.preventDefault();
          event.stopPropagation();
        }}
      />
      <Key>{keyName(KEYS.sheet.step)}</Key>
    </div>
  );
}
