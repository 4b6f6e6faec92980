import type { ListInfo, TaskChange, TaskFull } from '@corvun/contract';
import { count, sayMinutes } from '@corvun/core';
import type { ReactNode } from 'react';

interface BetterProps {
  better: NonNullable<TaskFull['better']>;
  task: TaskFull;
  lists: readonly ListInfo[];
  save: (change: TaskChange) => void;
}

/** What tasks like it took, offered as its length; nothing is changed by itself. */
export function Better({ better: { minutes, ratio, count: many, like }, task, lists, save }: BetterProps): ReactNode {
  const list = lists.find(({ id }) => id === task.listId)?.name ?? 'this list';
  const who = {
    title: `The last ${count(many, 'time')} it`,
    tag: `${count(many, 'task')} on ${list} with a tag like its own`,
    list: `${count(many, 'task')} on ${list}`,
    concentration: `${count(many, 'task')} of ${task.concentration} work`,
  }[like];
  return (
    <p className="text-xs leading-4 text-soft">
      {ratio === null ? `${who} took ${sayMinutes(minutes)}.` : `${who} took ${ratio} times as long as planned.`}{' '}
      <button
        type="button"
        className="min-h-6 text-teal underline underline-offset-2"
        onClick={() => save({ estimate: minutes })}
      >
        Take {sayMinutes(minutes)}
      </button>
    </p>
  );
}
