import type { ListInfo, TaskInfo } from '@corvun/contract';
import { ListChange } from '@corvun/contract/list-inputs';
import { count, readDay, sayDay } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { patch } from '../../data/api';
import { inOrder } from '../../data/inOrder';
import { changeList, removeList } from '../../data/thingActions';
import { FormProblem, RuledField, useRuled, wrong } from '../../parts/form';
import { serverNow } from '../../parts/useNow';
import { HUES, HUE_NAMES } from '../../parts/hues';
import { useSaid } from '../../state/said';
import { isOpen } from './view';

const button = 'border border-ink px-3 py-[2px] hover:bg-paper';

interface FormProps {
  list: ListInfo;
  lists: readonly ListInfo[];
  tasks: readonly TaskInfo[];
  today: string;
  zone: string;
  close: () => void;
}

interface Values {
  name: string;
  group: string;
  code: string;
  hue: number;
  defaultTag: string;
  concentration: ListInfo['concentration'];
  project: boolean;
  billable: boolean;
  outcome: string;
  /** In words; the contract knows a day. */
  endsOn: string;
}

/** Everything of a list, and what becomes of it when it is put away or taken away. */
export function ListForm({ list, lists, tasks, today, zone, close }: FormProps): ReactNode {
  const [removing, setRemoving] = useState(false);
  const others = lists.filter((one) => one.id !== list.id);
  const start: Values = {
    name: list.name,
    group: list.group,
    code: list.code,
    hue: list.hue,
    defaultTag: list.defaultTag ?? '',
    concentration: list.concentration,
    project: list.project,
    billable: list.billable,
    outcome: list.outcome,
    endsOn: list.ends ? sayDay(list.ends, today) : '',
  };
  const { form, submit } = useRuled<Values>(ListChange, start, async ({ endsOn, defaultTag, ...values }) => {
    const day = endsOn.trim() ? readDay(endsOn, { now: serverNow(), zone }) : null;
    if (endsOn.trim() && !day) throw wrong<Values>('endsOn', 'Not a day. Write “31 Aug” or “Fri”.');
    const { sentence } = await inOrder(() =>
      patch(
        '/lists/:id',
        { ...values, ends: day, defaultTag: defaultTag.trim() || null, version: list.version },
        { id: list.id },
      ),
    );
    useSaid.getState().say(sentence);
    close();
  });
  const hue = form.watch('hue');
  const project = form.watch('project');
  const taken = (one: number) => others.find((other) => other.hue === one);
  const full = HUES.every((one) => one === list.hue || taken(one));
  return (
    <form
      aria-label={`Change the list ${list.name}`}
      noValidate
      className="mx-8 mb-2 shrink-0 border border-ink bg-paper p-4 max-md:mx-4"
      onSubmit={submit}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        close();
      }}
    >
      <div className="grid grid-cols-2 gap-x-6 max-md:grid-cols-1">
        <RuledField form={form} name="name" label="Name" autoFocus />
        <RuledField form={form} name="group" label="Group" list="list-groups" hint="A name that is new makes one." />
        <RuledField
          form={form}
          name="code"
          label="Code"
          maxLength={2}
          hint="Two letters; it stands beside the colour everywhere."
        />
        <fieldset>
          <legend className="pb-[3px] text-xs text-soft">Colour</legend>
          <div className="flex flex-wrap gap-1">
            {HUES.map((one) => {
              const other = taken(one);
              return (
                <label key={one} title={`${HUE_NAMES[one]}${other ? `, ${other.name} has it` : ''}`} className="relative">
                  <input
                    type="radio"
                    className="peer sr-only"
                    value={one}
                    aria-label={`${HUE_NAMES[one]}${other ? `, ${other.name} has it` : ''}`}
                    checked={hue === one}
                    disabled={other !== undefined && !full}
                    onChange={() => form.setValue('hue', one)}
                  />
                  <span
                    className="code peer-checked:outline-2 peer-checked:outline-offset-2 peer-checked:outline-ink peer-focus-visible:outline-2 peer-focus-visible:outline-offset-2 peer-focus-visible:outline-teal peer-disabled:opacity-30"
                    style={{ background: `var(--hue-${one})` }}
                  >
                    {other ? other.code : list.code}
                  </span>
                </label>
              );
            })}
          </div>
          <p role="alert" className="text-xs text-brick empty:hidden">
            {form.formState.errors.hue?.message}
          </p>
        </fieldset>
        <RuledField form={form} name="defaultTag" label="Tag of new tasks" placeholder="none" />
        <label className="text-xs text-soft">
          Kind of work of new tasks
          <select
            className="mt-[3px] block w-full border-b border-soft bg-transparent py-1 text-sm text-ink"
            {...form.register('concentration')}
          >
            {['deep', 'medium', 'light'].map((one) => (
              <option key={one} value={one} className="bg-card text-ink">
                {one}
              </option>
            ))}
          </select>
        </label>
        <label className="col-span-full flex items-center gap-2 py-1">
          <input type="checkbox" className="accent-teal" {...form.register('billable')} /> Work on it is billed: what is open, and
          new tasks
        </label>
        <label className="col-span-full flex items-center gap-2 py-1">
          <input type="checkbox" className="accent-teal" {...form.register('project')} /> A project: it has an outcome, and an end
        </label>
        {project && (
          <>
            <RuledField form={form} name="outcome" label="Outcome" placeholder="What is so when it is over" />
            <RuledField form={form} name="endsOn" label="Ends" placeholder="31 Aug" />
          </>
        )}
      </div>
      <datalist id="list-groups">
        {[...new Set(lists.map((one) => one.group).filter(Boolean))].map((group) => (
          <option key={group} value={group} />
        ))}
      </datalist>
      <FormProblem form={form} />
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <button type="submit" className="bg-teal px-3 py-[2px] font-semibold text-on-teal">
          Keep
        </button>
        <button type="button" className={button} onClick={close}>
          Leave it as it was
        </button>
        <button
          type="button"
          className={`${button} ml-auto`}
          onClick={() => void changeList(list.id, { archived: true }).then((done) => done && close())}
        >
          Put away
        </button>
        <button type="button" className={`${button} text-brick`} aria-expanded={removing} onClick={() => setRemoving(!removing)}>
          Take away …
        </button>
      </div>
      {removing && (
        <Removing
          list={list}
          others={others}
          open={tasks.filter((task) => task.listId === list.id && isOpen(task) && !task.parentId).length}
        />
      )}
    </form>
  );
}

function Removing({ list, others, open }: { list: ListInfo; others: readonly ListInfo[]; open: number }): ReactNode {
  const navigate = useNavigate();
  const [to, setTo] = useState('keep');
  const name = others.find((one) => one.id === to)?.name;
  const becomes = to === 'drop' ? 'dropped; Find still finds them' : to === 'keep' ? 'kept, without a list' : `put on ${name}`;
  return (
    <div className="mt-3 border-t border-rule pt-3">
      <label className="block text-xs text-soft">
        {open ? `What becomes of its ${count(open, 'open task')}` : 'Nothing open is on it'}
        {open > 0 && (
          <select
            className="mt-1 block border border-soft bg-card px-2 py-1 text-sm text-ink"
            value={to}
            onChange={(event) => setTo(event.target.value)}
          >
            <option value="keep">They stay, without a list</option>
            {others.map((other) => (
              <option key={other.id} value={other.id}>
                They go to {other.name}
              </option>
            ))}
            <option value="drop">They are dropped</option>
          </select>
        )}
      </label>
      <p className="mt-2">
        The list “{list.name}” goes{open > 0 && `; ${count(open, 'open task is', 'open tasks are')} ${becomes}`}. Undo brings all
        of it back.
      </p>
      <button
        type="button"
        className="mt-2 bg-brick px-3 py-[2px] font-semibold text-paper"
        onClick={() => void removeList(list.id, to).then((done) => done && navigate('/lists'))}
      >
        Take the list away
      </button>
    </div>
  );
}
