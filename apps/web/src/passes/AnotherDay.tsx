import type { Me, TaskInfo } from '@corvun/contract';
import { readDay, sayDay } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { serverNow } from '../parts/useNow';
import { focusItem } from './Items';
import { LineForm } from './LineForm';
import { putOff } from './useOpenWork';

/** Putting an item of a step on a day that is written, below it. */
export function useAnotherDay({ zone }: Me, today: string) {
  const [id, begin] = useState<string | null>(null);
  const dayIn = (line: string) => readDay(line, { now: serverNow(), zone });
  const check = (line: string): string => {
    const day = dayIn(line);
    if (!day) return `“${line}” is no day. Write one like Thu or 14 Aug.`;
    return day < today ? `${sayDay(day, today)} is over.` : '';
  };
  const form = (task: TaskInfo): ReactNode =>
    task.id === id && (
      <LineForm
        kept={`day-${task.id}`}
        label="On which day?"
        placeholder="Thu, 14 Aug, next Monday"
        empty="Write a day."
        check={check}
        send={(line) => putOff([task], today, dayIn(line) ?? today)}
        close={() => {
          begin(null);
          focusItem(task.id);
        }}
      />
    );
  return { begin, form };
}
