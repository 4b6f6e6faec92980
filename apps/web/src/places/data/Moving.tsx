import type { DataInfo } from '@corvun/contract';
import { useRef, type ReactNode } from 'react';
import { readExport } from '../../data/keeping';
import { button } from '../sources/common';

/** Everything out in open formats, and in again. */
export function Moving({ info }: { info: DataInfo }): ReactNode {
  const picker = useRef<HTMLInputElement>(null);
  const running = info.job?.state === 'running';
  return (
    <section aria-labelledby="moving">
      <h2 id="moving" className="font-head text-md font-semibold">
        Out and in
      </h2>
      <p className="mt-1 text-soft">
        An export is all that is yours in open formats: mail as .eml, calendars and tasks as .ics, people as .vcf, notes as .md,
        tables as .csv, the rest as JSON. Passwords of sources stay here.
      </p>
      <a className={`${button} mt-3 inline-block`} href="/api/data/export" download="corvun-export.tar">
        Export everything
      </a>
      <p className="mt-4 text-soft">
        {info.empty
          ? 'This account is still empty, so an export can be read into it.'
          : 'An export is read only into an account that is still empty; this one is not.'}
      </p>
      <button
        type="button"
        className={`${button} mt-3`}
        disabled={!info.empty || running}
        onClick={() => picker.current?.click()}
      >
        Read an export in
      </button>
      <input
        ref={picker}
        type="file"
        className="hidden"
        aria-label="Export to read in"
        accept=".tar"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) void readExport(file);
          event.target.value = '';
        }}
      />
    </section>
  );
}
