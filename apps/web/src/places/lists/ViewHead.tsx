import type { ListInfo, Me, TaskInfo } from '@corvun/contract';
import { count, sayMinutes, type Group } from '@corvun/core';
import { useCallback, useState, type FormEvent, type ReactNode } from 'react';
import { keepView } from '../../data/thingActions';
import { KEYS, keyName } from '../../keys';
import { GroupChoice, SortChoice } from '../../parts/arranging';
import { Code, Key } from '../../parts/signs';
import { leaveField } from '../../parts/useKeys';
import { Project } from './Project';
import { PrintedList } from './PrintedList';
import { TakeOut } from './TakeOut';
import { addressOfView, isBesides, type View } from './view';

interface HeadProps {
  me: Me;
  today: string;
  view: View;
  show: (change: Partial<View>, how?: 'replace') => void;
  lists: readonly ListInfo[];
  title: string;
  /** The one list that is shown, where it is one. */
  list: ListInfo | undefined;
  groups: readonly Group<TaskInfo>[];
  /** How many tasks a filter hides, and how many are shown. */
  hidden: number;
  shown: number;
  change: () => void;
}

/** What is shown, in what groups and order, and what a filter hides. */
export function ViewHead({ today, view, show, lists, title, list, groups, hidden, shown, change }: HeadProps): ReactNode {
  const [keeping, setKeeping] = useState(false);
  const [printing, setPrinting] = useState(false);
  const printed = useCallback(() => setPrinting(false), []);
  const minutes = groups.reduce((sum, group) => sum + group.minutes, 0);
  return (
    <header className="shrink-0 px-8 pt-5 pb-2 max-md:px-4">
      <h2 className="flex flex-wrap items-center gap-x-3 font-head text-lg font-semibold tracking-tight">
        {list && <Code code={list.code} hue={list.hue} />}
        <span className="min-w-0 break-words">{title}</span>
        {list && (
          <button
            type="button"
            className="min-h-6 font-sans text-xs font-normal tracking-normal text-teal underline underline-offset-2"
            onClick={change}
          >
            change this list <Key>{keyName(KEYS.lists.change)}</Key>
          </button>
        )}
      </h2>
      {list?.project && <Project list={list} today={today} />}
      <p className="flex flex-wrap items-baseline gap-x-2 text-xs text-soft">
        <span>
          {shown} open{minutes > 0 && ` · ${sayMinutes(minutes)}`} ·
        </span>
        <GroupChoice chosen={view.group} choose={(group) => show({ group }, 'replace')} />
        <SortChoice chosen={view.sort} choose={(sort) => show({ sort }, 'replace')} />
      </p>
      <div className="mt-1 flex flex-wrap items-center gap-x-3">
        <label htmlFor="list-filter" className="sr-only">
          Filter
        </label>
        <input
          id="list-filter"
          type="search"
          className="min-w-0 flex-1 border-b border-rule bg-transparent py-[2px] placeholder:text-soft focus:border-teal"
          placeholder="Filter: words, #tag, @name, by Friday, 30 min"
          title={`Filter (${keyName(KEYS.lists.filter)})`}
          value={view.find}
          autoComplete="off"
          onChange={(event) => show({ find: event.target.value }, 'replace')}
          onKeyDown={(event) => {
            if (event.key !== 'Escape') return;
            event.stopPropagation();
            show({ find: '' }, 'replace');
            leaveField(event.currentTarget);
          }}
        />
        {!keeping && (view.find || view.lists.length > 1 || isBesides(view.lists[0] ?? '')) && (
          <button
            type="button"
            className="min-h-6 text-xs text-teal underline underline-offset-2"
            onClick={() => setKeeping(true)}
          >
            keep this view
          </button>
        )}
        <TakeOut title={title} tasks={groups.flatMap((group) => group.tasks)} print={() => setPrinting(true)} />
      </div>
      {printing && <PrintedList title={title} groups={groups} lists={lists} today={today} over={printed} />}
      {hidden > 0 && (
        <p role="status" className="mt-1 text-xs text-soft">
          The filter hides {hidden} of {count(hidden + shown, 'task')}.{' '}
          <button
            type="button"
            className="underline underline-offset-2 hover:text-ink"
            onClick={() => show({ find: '' }, 'replace')}
          >
            Show everything
          </button>
        </p>
      )}
      {keeping && <KeepView view={view} close={() => setKeeping(false)} />}
    </header>
  );
}

function KeepView({ view, close }: { view: View; close: () => void }): ReactNode {
  const [name, setName] = useState('');
  const [wrong, setWrong] = useState('');
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    if (!name.trim()) return setWrong('The view needs a name.');
    if (await keepView(name.trim(), addressOfView(view).replace('/lists/', ''))) close();
    return undefined;
  };
  return (
    <form
      noValidate
      aria-label="Keep this view"
      className="mt-2 flex flex-wrap items-end gap-2"
      onSubmit={(event) => void submit(event)}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        close();
      }}
    >
      <label className="text-xs text-soft">
        Name of the view
        <input
          ref={(field) => {
            if (field && !name) field.focus();
          }}
          className="block border-b border-soft bg-transparent text-sm text-ink"
          value={name}
          maxLength={80}
          aria-invalid={wrong !== ''}
          aria-describedby="view-wrong"
          onChange={(event) => {
            setName(event.target.value);
            setWrong('');
          }}
        />
      </label>
      <button type="submit" className="bg-teal px-3 py-[2px] font-semibold text-on-teal">
        Keep it
      </button>
      <button type="button" className="px-2 text-xs underline underline-offset-2" onClick={close}>
        Leave it
      </button>
      <p id="view-wrong" role="alert" className="w-full text-xs text-brick empty:hidden">
        {wrong}
      </p>
    </form>
  );
}
