import type { ImportInfo } from '@corvun/contract';
import { saySize } from '@corvun/core';
import { useRef, useState, type FormEvent, type ReactNode } from 'react';
import { beginImport, forgetImport, resumeImport, setColumns, stopImport, useImports } from '../../data/sources';
import { client } from '../../data/queries';
import { Failed, Waiting } from '../../parts/states';
import { FileDrop } from '../sort/FileDrop';
import { Progress, button, primary } from './common';

const COLUMNS: [string, string][] = [
  ['skip', 'left out'],
  ['title', 'title'],
  ['notes', 'notes'],
  ['list', 'list'],
  ['tags', 'tags'],
  ['priority', 'priority'],
  ['estimate', 'estimate'],
  ['deadline', 'deadline'],
  ['day', 'day'],
  ['status', 'done or not'],
  ['id', 'its own number'],
];

/** Files that are taken in: by drop or picker, with their progress and a report. */
export function Files(): ReactNode {
  const imports = useImports();
  const picker = useRef<HTMLInputElement>(null);
  if (imports.isPending) return <Waiting what="Opening the reports" />;
  if (imports.error && !imports.data) return <Failed problem={imports.error} retry={() => void imports.refetch()} />;
  return (
    <FileDrop take={(files) => void beginImport(files)}>
      <div className="flex flex-wrap items-center gap-4 border border-dashed border-soft p-5">
        <button type="button" className={primary} onClick={() => picker.current?.click()}>
          Choose files
        </button>
        <p className="min-w-0 flex-1 basis-64 text-soft">
          or drop them here: mail (.eml, mbox), calendars (.ics), people (.vcf), tables of tasks (.csv), notes (.md). What you
          have already is not taken twice.
        </p>
        <input
          ref={picker}
          type="file"
          multiple
          className="hidden"
          aria-label="Files to take in"
          accept=".eml,.mbox,.ics,.vcf,.csv,.md"
          onChange={(event) => {
            if (event.target.files?.length) void beginImport([...event.target.files]);
            event.target.value = '';
          }}
        />
      </div>
      <ul className="mt-5">
        {imports.data?.map((run) => (
          <Run key={run.id} run={run} />
        ))}
      </ul>
    </FileDrop>
  );
}

const STATES: Record<ImportInfo['state'], string> = {
  columns: 'Waits for its columns',
  running: 'Being read',
  stopped: 'Stopped',
  done: 'Taken in',
  failed: 'Not read to its end',
};

function Run({ run }: { run: ImportInfo }): ReactNode {
  const numbers = [`${run.taken} taken`, `${run.updated} updated`, `${run.known} known already`, `${run.refusedCount} refused`];
  return (
    <li className="border-t border-rule py-3" aria-label={run.name}>
      <div className="flex flex-wrap items-baseline justify-between gap-3">
        <p>
          <b className="font-semibold break-all">{run.name}</b> <span className="text-xs text-soft">{saySize(run.size)}</span>
          <span className={`ml-3 text-xs ${run.state === 'failed' ? 'text-brick' : 'text-soft'}`}>{STATES[run.state]}</span>
        </p>
        <div className="flex gap-2 text-xs">
          {run.state === 'running' && (
            <button type="button" className={button} onClick={() => void stopImport(run.id)}>
              Stop
            </button>
          )}
          {run.state === 'stopped' && (
            <button type="button" className={button} onClick={() => void resumeImport(run.id)}>
              Go on
            </button>
          )}
          {run.state !== 'running' && (
            <button type="button" className={button} onClick={() => void forgetImport(run.id)}>
              {run.state === 'columns' ? 'Leave it' : 'Put the report away'}
            </button>
          )}
        </div>
      </div>
      {(run.state === 'running' || run.state === 'stopped') && (
        <Progress
          done={Math.round(run.done / 1000)}
          total={Math.max(1, Math.round(run.total / 1000))}
          unit="kB"
          label={`Reading ${run.name}`}
        />
      )}
      {run.state === 'columns' ? <Mapping run={run} /> : <p className="mt-1 tabular-nums">{numbers.join(' · ')}</p>}
      {run.refused.length > 0 && (
        <details className="mt-1" open={run.refused.length <= 5}>
          <summary className="cursor-pointer text-xs text-soft">What was refused, and why</summary>
          <ul className="mt-1 text-xs">
            {run.refused.map((one, at) => (
              <li key={at}>
                {one.at && <b className="font-semibold">{one.at}: </b>}
                {one.reason}
              </li>
            ))}
            {run.refusedCount > run.refused.length && (
              <li className="text-soft">and {run.refusedCount - run.refused.length} more</li>
            )}
          </ul>
        </details>
      )}
    </li>
  );
}

function Mapping({ run }: { run: ImportInfo }): ReactNode {
  const [columns, setChosen] = useState<string[]>(run.table?.guess ?? []);
  const [problem, setProblem] = useState('');
  if (!run.table) return <p className="text-soft">The table cannot be read.</p>;
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await setColumns(run.id, columns);
    } catch (failed) {
      setProblem(failed instanceof Error ? failed.message : 'That did not work.');
    }
    await client.invalidateQueries({ queryKey: ['imports'] });
  };
  return (
    <form onSubmit={(event) => void submit(event)} className="mt-2">
      <p className="text-soft">Say what each column holds; nothing is written before that.</p>
      <div className="mt-2 overflow-x-auto" tabIndex={0} role="region" aria-label={`First rows of ${run.name}`}>
        <table className="text-left">
          <thead>
            <tr>
              {run.table.columns.map((name, at) => (
                <th key={at} className="min-w-[130px] border-b border-rule pr-4 pb-1 align-bottom font-normal">
                  <label>
                    <span className="block font-semibold">{name || `Column ${at + 1}`}</span>
                    <select
                      className="border border-soft bg-card px-1 py-[2px]"
                      value={columns[at] ?? 'skip'}
                      onChange={(event) => setChosen(columns.map((one, index) => (index === at ? event.target.value : one)))}
                    >
                      {COLUMNS.map(([value, text]) => (
                        <option key={value} value={value}>
                          {text}
                        </option>
                      ))}
                    </select>
                  </label>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {run.table.rows.map((row, at) => (
              <tr key={at}>
                {run.table?.columns.map((_, column) => (
                  <td
                    key={column}
                    className={`max-w-[220px] truncate border-b border-rule py-1 pr-4 ${columns[column] === 'skip' ? 'text-soft' : ''}`}
                  >
                    {row[column]}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <p role="alert" className="mt-1 text-brick empty:hidden">
        {problem}
      </p>
      <button type="submit" className={`${primary} mt-2`}>
        Take this table in
      </button>
    </form>
  );
}
