import type { CollectionChoice, SourceLook, SourceSettings } from '@corvun/contract';
import { count } from '@corvun/core';
import type { ReactNode } from 'react';
import { useCalendars, useLists } from '../../data/queries';
import { Check } from './Check';
import { field } from './common';

interface CollectionsProps {
  look: SourceLook;
  settings: SourceSettings;
  change: (patch: SourceSettings) => void;
}

/** Which calendars and task lists of an account are connected, and on which list its tasks are. */
export function Collections({ look, settings, change }: CollectionsProps): ReactNode {
  const lists = useLists().data ?? [];
  const calendars = useCalendars().data ?? [];
  const chosen = settings.collections ?? [];
  const put = (choice: CollectionChoice, on: boolean) =>
    change({ collections: [...chosen.filter(({ id }) => id !== choice.id), ...(on ? [choice] : [])] });
  const group = (things: 'events' | 'tasks', legend: string, about: string) => {
    const choices = look.choices.filter(({ id }) => id.startsWith(`${things}:`));
    if (!choices.length) return null;
    return (
      <fieldset className="border-t border-rule pt-2">
        <legend className="sr-only">{legend}</legend>
        <p>
          <b className="font-semibold">{legend}</b> <span className="text-soft">{about}</span>
        </p>
        {choices.map(({ id, name, count: entries, writable }) => {
          const choice = chosen.find((one) => one.id === id);
          const here = calendars.find((one) => one.id === choice?.calendarId)?.name;
          const more = [
            entries === null
              ? ''
              : count(entries, things === 'events' ? 'entry' : 'task', things === 'events' ? 'entries' : 'tasks'),
            writable === false ? 'can only be read' : '',
            here && here !== name ? `here: ${here}` : '',
          ].filter(Boolean);
          return (
            <div key={id} className="flex flex-wrap items-center gap-x-4">
              <Check
                label={`${name}${more.length ? ` (${more.join(', ')})` : ''}`}
                checked={choice !== undefined}
                set={(on) => put(choice ?? { id, name, ...(writable === false ? { readOnly: true } : {}) }, on)}
              />
              {choice && things === 'tasks' && (
                <label className="flex items-center gap-2">
                  <span className="shrink-0">on the list</span>
                  <select
                    className={`${field} w-auto`}
                    value={choice.listId ?? ''}
                    onChange={(event) => put({ ...choice, listId: event.target.value || null }, true)}
                  >
                    <option value="">{lists.some((one) => one.name === name) ? name : `${name} (new)`}</option>
                    {lists
                      .filter((one) => one.name !== name)
                      .map((one) => (
                        <option key={one.id} value={one.id}>
                          {one.name}
                        </option>
                      ))}
                  </select>
                </label>
              )}
            </div>
          );
        })}
      </fieldset>
    );
  };
  const others = () => {
    const choices = look.choices.filter(({ id }) => id.startsWith('free:'));
    if (!choices.length) return null;
    return (
      <fieldset className="border-t border-rule pt-2">
        <legend className="sr-only">When others are busy</legend>
        <p>
          <b className="font-semibold">When others are busy</b>{' '}
          <span className="text-soft">Asked for every ten minutes; times that are proposed suit them, too.</span>
        </p>
        {choices.map(({ id, name, address = '' }) => {
          const choice = chosen.find((one) => one.id === id);
          return (
            <div key={id} className="flex flex-wrap items-center gap-x-4">
              <Check label={name} checked={choice !== undefined} set={(on) => put(choice ?? { id, name, address }, on)} />
              {choice && (
                <label className="flex items-center gap-2">
                  <span className="shrink-0">whose mail address is</span>
                  <input
                    type="email"
                    size={34}
                    className={`${field} w-auto max-w-full`}
                    defaultValue={choice.address ?? ''}
                    onBlur={(event) => put({ ...choice, address: event.target.value.trim() }, true)}
                  />
                </label>
              )}
            </div>
          );
        })}
      </fieldset>
    );
  };
  return (
    <>
      {group('events', 'Calendars', 'What is changed here is changed there, and the other way round.')}
      {others()}
      {group('tasks', 'Task lists', 'Open tasks that stand on the list here go there, too.')}
    </>
  );
}
