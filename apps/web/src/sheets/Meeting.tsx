import type { ListInfo } from '@corvun/contract';
import { tellTask } from '@corvun/core';
import type { ReactNode } from 'react';
import type { Met, Saving } from './useSave';

/** Two windows changed the same field: both sides, and which one stays. */
export function Meeting({
  met: { change, present },
  saving,
  lists,
  today,
}: {
  met: Met;
  saving: Saving;
  lists: readonly ListInfo[];
  today: string;
}): ReactNode {
  const telling = { today, listName: (id: string) => lists.find((one) => one.id === id)?.name ?? '', taskTitle: () => '' };
  const { list, parent: _parent, after: _after, version: _version, was: _was, ...fields } = change;
  const mine = { ...fields, ...(list !== undefined && { listId: list }) };
  const theirs = Object.fromEntries(Object.keys(mine).map((field) => [field, present[field]]));
  const say = (side: object) => tellTask({}, side as Record<string, unknown>, telling).join(', ');
  const texts = typeof change.notes === 'string';
  return (
    <div role="alert" className="mt-3 border-l-2 border-amber bg-amber-wash px-3 py-2">
      <p>Another window changed the same meanwhile.</p>
      <dl className="mt-1 text-xs">
        <div className="flex gap-2">
          <dt className="w-14 shrink-0 text-soft">There</dt>
          <dd className="min-w-0 break-words whitespace-pre-wrap">{texts ? String(present['notes']) : say(theirs)}</dd>
        </div>
        <div className="flex gap-2">
          <dt className="w-14 shrink-0 text-soft">Here</dt>
          <dd className="min-w-0 break-words whitespace-pre-wrap">{texts ? change.notes : say(mine)}</dd>
        </div>
      </dl>
      <p className="mt-2 flex gap-3">
        <button type="button" className="border border-ink px-3 py-[2px] hover:bg-card" onClick={saving.keepMine}>
          Keep what stands here
        </button>
        <button type="button" className="border border-ink px-3 py-[2px] hover:bg-card" onClick={saving.takeTheirs}>
          Take the other
        </button>
      </p>
    </div>
  );
}
