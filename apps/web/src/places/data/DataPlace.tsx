import type { DataInfo, DataJob, Me } from '@corvun/contract';
import { count, saySize } from '@corvun/core';
import type { ReactNode } from 'react';
import { beginCheck, useData } from '../../data/keeping';
import { Failed, Waiting } from '../../parts/states';
import { button, Progress } from '../sources/common';
import { Backups } from './Backups';
import { Moving } from './Moving';

/** Everything that is kept: backups, a way out and in, and whether it is whole. */
export function DataPlace({ me }: { me: Me }): ReactNode {
  const data = useData();
  if (data.isPending) return <Waiting what="Looking at what is kept" />;
  if (!data.data) return <Failed problem={data.error ?? new Error()} retry={() => void data.refetch()} />;
  const info = data.data;
  return (
    <div className="flex h-full flex-col overflow-y-auto">
      <div className="mx-auto w-full max-w-[1040px] px-6 pt-6 pb-16 max-md:px-4">
        <h1 className="font-head text-lg font-semibold tracking-tight">Data</h1>
        <p className="mt-1 max-w-[68ch] text-soft">
          Everything Corvun keeps lies on the machine it runs on: {saySize(info.database)} of database and{' '}
          {count(info.files.count, 'file')} of {saySize(info.files.bytes)}
          {info.folder && (
            <>
              , in <span className="break-all text-ink select-text">{info.folder}</span>
            </>
          )}
          .
        </p>
        {info.job && <Job job={info.job} />}
        <div className="mt-6 grid grid-cols-[1fr_340px] gap-10 max-lg:grid-cols-1">
          {info.keeper ? <Backups me={me} info={info} now={data.dataUpdatedAt} /> : <NotKeeper />}
          <div className="flex flex-col gap-8">
            <Moving info={info} />
            {info.keeper && <Check info={info} />}
          </div>
        </div>
      </div>
    </div>
  );
}

function NotKeeper(): ReactNode {
  return (
    <section aria-labelledby="backups">
      <h2 id="backups" className="font-head text-md font-semibold">
        Backups
      </h2>
      <p className="mt-1 max-w-[60ch] text-soft">
        A backup holds the data of everybody here, so only the first account of this server makes them. What is yours you can take
        out beside this at any time.
      </p>
    </section>
  );
}

const DOING = { backup: 'Making the backup', verify: 'Checking', import: 'Reading the export in' } as const;

/** What is going on, or what came of it. */
function Job({ job }: { job: DataJob }): ReactNode {
  const running = job.state === 'running';
  return (
    <div
      role="status"
      className={`mt-4 border-l-2 py-1 pl-4 ${job.state === 'failed' || job.checks?.some((one) => !one.ok) ? 'border-brick' : 'border-teal'}`}
    >
      {running ? (
        <>
          <p className="font-semibold">{DOING[job.kind]} …</p>
          <Progress
            done={job.done}
            total={job.total}
            unit={job.kind === 'import' ? 'rows and files' : 'files'}
            label={DOING[job.kind]}
          />
        </>
      ) : (
        <p className="font-semibold">{job.sentence}</p>
      )}
      {job.checks && (
        <ul className="mt-1">
          {job.checks.map((check) => (
            <li key={check.name} className="flex gap-3 py-[2px]">
              <span className={`w-14 shrink-0 text-xs leading-5 ${check.ok ? 'text-teal' : 'font-semibold text-brick'}`}>
                {check.ok ? 'whole' : 'wrong'}
              </span>
              <span className="w-28 shrink-0">{check.name}</span>
              <span className="min-w-0 text-soft">{check.detail}</span>
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}

function Check({ info }: { info: DataInfo }): ReactNode {
  return (
    <section aria-labelledby="check">
      <h2 id="check" className="font-head text-md font-semibold">
        Is everything whole?
      </h2>
      <p className="mt-1 text-soft">
        Reads the database, every file against its hash, what can be found, what waits to be sent, and the log.
      </p>
      <button
        type="button"
        className={`${button} mt-3`}
        disabled={info.job?.state === 'running'}
        onClick={() => void beginCheck()}
      >
        Check everything
      </button>
    </section>
  );
}
