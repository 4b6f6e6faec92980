import type { Me, TaskFull } from '@corvun/contract';
import { dayOf } from '@corvun/core';
import { useEffect, useRef, type ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { useLists } from '../data/queries';
import { prefetchTask, useTask } from '../data/tasks';
import { KEYS, keyName } from '../keys';
import { useNow } from '../parts/useNow';
import { giveBack, takesFocus, useBeside, useOpenTask, useSheet } from './open';
import { SheetBody } from './SheetBody';
import { NotThere, SheetFrame } from './SheetFrame';
import { useSheetKeys } from './useSheetKeys';

/** The sheet of a task, at the right over the place it was opened from; on a narrow screen the whole page. */
export function TaskSheet({ me, beside }: { me: Me; beside: boolean }): ReactNode {
  const { id, close } = useSheet();
  return id ? <Open key="open" me={me} id={id} close={close} beside={beside} /> : null;
}

function Open({ me, id, close, beside }: { me: Me; id: string; close: () => void; beside: boolean }): ReactNode {
  const task = useTask(id);
  const frame = useRef<HTMLElement>(null);
  const last = useRef(id);
  const today = dayOf(useNow(), me.zone);
  const ids = useBeside((state) => state.ids);
  const open = useOpenTask();
  const navigate = useNavigate();
  const at = ids.indexOf(id);
  const go = (by: number) => {
    const next = at < 0 ? undefined : ids[at + by];
    if (next) open(next, 'beside');
  };
  useEffect(() => {
    last.current = id;
    if (takesFocus(id)) frame.current?.focus({ preventScroll: true });
    frame.current?.scrollTo(0, 0);
  }, [id]);
  useEffect(() => () => giveBack(last.current), []);
  useEffect(() => {
    for (const one of [ids[at - 1], ids[at + 1]]) if (at >= 0 && one) void prefetchTask(one);
  }, [ids, at]);
  const onKeyDown = useSheetKeys({ id, task: task.data, failed: task.isError, close, go, navigate });
  return (
    <SheetFrame
      ref={frame}
      id={id}
      label={task.data ? `Task: ${task.data.title}` : 'Task'}
      beside={beside}
      head={task.data && <Crumb task={task.data} />}
      controls={
        at >= 0 &&
        ids.length > 1 && (
          <>
            <span>
              {at + 1} of {ids.length}
            </span>
            <Step name="Previous task" sign="‹" off={at === 0} go={() => go(-1)} hint={keyName(KEYS.sheet.previous)} />
            <Step name="Next task" sign="›" off={at === ids.length - 1} go={() => go(1)} hint={keyName(KEYS.sheet.next)} />
          </>
        )
      }
      close={close}
      onKeyDown={onKeyDown}
    >
      {task.data ? (
        <SheetBody key={id} me={me} task={task.data} today={today} />
      ) : (
        <NotThere what="task" problem={task.error} retry={() => void task.refetch()} />
      )}
    </SheetFrame>
  );
}

function Crumb({ task }: { task: TaskFull }): ReactNode {
  const open = useOpenTask();
  const { parent } = task;
  const list = useLists().data?.find((one) => one.id === task.listId);
  if (!parent)
    return list ? (
      <Link to={`/lists/${list.id}?task=${task.id}`} className="hover:text-ink hover:underline">
        {list.name}
      </Link>
    ) : (
      'Without a list'
    );
  return (
    <>
      Step of{' '}
      <button type="button" className="underline underline-offset-2 hover:text-ink" onClick={() => open(parent.id)}>
        {parent.title}
      </button>
    </>
  );
}

function Step({
  name,
  sign,
  off,
  go,
  hint,
}: {
  name: string;
  sign: string;
  off: boolean;
  go: () => void;
  hint: string;
}): ReactNode {
  return (
    <button
      type="button"
      aria-label={name}
      title={`${name} (${hint})`}
      aria-disabled={off}
      className={`grid size-7 place-items-center text-base ${off ? 'opacity-40' : 'hover:text-ink'}`}
      onClick={go}
    >
      {sign}
    </button>
  );
}
