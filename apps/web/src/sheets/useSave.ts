import type { TaskChange, TaskFull } from '@corvun/contract';
import { useState } from 'react';
import { changeTask } from '../data/thingActions';
import { RequestError } from '../data/api';
import { saveTask } from '../data/tasks';
import { firstReminderSet } from '../reminders/notify';
import { useSaid } from '../state/said';

/** A change that met one made in another window: the present row of the server beside it. */
export interface Met {
  change: TaskChange;
  present: Record<string, unknown>;
}

export interface Saving {
  /** Resolves to whether it was kept. */
  save: (change: TaskChange) => Promise<boolean>;
  met: Met | null;
  keepMine: () => void;
  takeTheirs: () => void;
}

/** Saves what is changed on the sheet of a task, field by field; where another window changed the same, both are shown. */
export function useSave(task: TaskFull): Saving {
  const [met, setMet] = useState<(Met & { id: string }) | null>(null);
  const save = async (change: TaskChange): Promise<boolean> => {
    try {
      useSaid.getState().say(await saveTask(task, change));
      if (change.reminder) void firstReminderSet();
      return true;
    } catch (problem) {
      if (problem instanceof RequestError && problem.code === 'changed-meanwhile')
        setMet({ id: task.id, change, present: problem.present as Met['present'] });
      else useSaid.getState().complain(problem);
      return false;
    }
  };
  const own = met?.id === task.id ? met : null;
  return {
    save,
    met: own,
    keepMine: () => {
      if (own) void changeTask(task.id, own.change);
      setMet(null);
    },
    takeTheirs: () => setMet(null),
  };
}
