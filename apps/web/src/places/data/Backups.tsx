import type { BackupInfo, DataInfo, Me } from '@corvun/contract';
import { saySize } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { beginBackup, removeBackup, setKeep } from '../../data/keeping';
import { button, primary, saysPast } from '../sources/common';

/** Backups beside the data, and making one. */
/** @param now by this machine's own clock, which dates backups whatever the demo's says */
export function Backups({ me, info, now }: { me: Me; info: DataInfo; now: number }): ReactNode {
  const [withKeys, setWithKeys] = useState(false);
  const running = info.job?.state === 'running';
  return (
    <section aria-labelledby="backups" className="min-w-0">
      <h2 id="backups" className="font-head text-md font-semibold">
        Backups
      </h2>
      <p className="mt-1 max-w-[60ch] text-soft">
        A backup is everything as it is at one moment; you go on working while it is made. One is made every day by itself, beside
        the data. Save one on another disk now and then: a broken disk takes what lies beside it along.
      </p>
      <div className="mt-3 flex flex-wrap items-center gap-x-5 gap-y-2">
        <button type="button" className={primary} disabled={running} onClick={() => void beginBackup(withKeys)}>
          Back up now
        </button>
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={withKeys} onChange={(event) => setWithKeys(event.target.checked)} />
          with the key of the credentials
        </label>
      </div>
      <p className="mt-1 min-h-5 max-w-[60ch] text-xs text-soft">
        {withKeys
          ? 'Whoever has this file then has the passwords of all your sources. Keep it as you keep those.'
          : 'Without the key, the passwords of your sources have to be written again after it is put back.'}
      </p>
      <label className="mt-3 flex items-center gap-2">
        Daily backups that are kept
        <select
          className="border border-soft bg-card px-2 py-1"
          value={info.keep}
          onChange={(event) => void setKeep(Number(event.target.value))}
        >
          {[...new Set([3, 7, 14, 30, 60, info.keep])]
            .sort((a, b) => a - b)
            .map((number) => (
              <option key={number}>{number}</option>
            ))}
        </select>
      </label>
      {info.backups.length ? (
        <ul className="mt-4 border-t border-rule">
          {info.backups.map((backup) => (
            <Row key={backup.name} backup={backup} zone={me.zone} now={now} />
          ))}
        </ul>
      ) : (
        <p className="mt-4 border-t border-rule pt-3 text-soft">There is none yet. The first comes by itself within a day.</p>
      )}
      <p className="mt-3 max-w-[60ch] text-xs text-soft">
        To put one back, stop Corvun and run <code className="select-text">npm run -s corvun -- restore FILE</code> with{' '}
        <code>CORVUN_DATA</code> naming an empty folder.
      </p>
    </section>
  );
}

const KINDS: [prefix: string, name: string][] = [
  ['daily', 'Made by itself'],
  ['before', 'Before a new version'],
  ['corvun', 'Made by you'],
];

function Row({ backup, zone, now }: { backup: BackupInfo; zone: string; now: number }): ReactNode {
  const kind = KINDS.find(([prefix]) => backup.name.startsWith(prefix))?.[1] ?? 'Backup';
  return (
    <li className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1 border-b border-rule py-2">
      <span className="min-w-0">
        {kind}, {saysPast(backup.at, now, zone)}
        <span className="block text-xs text-soft">
          {backup.name} · {saySize(backup.bytes)}
          {backup.keys ? ' · with the key of the credentials' : ''}
        </span>
      </span>
      <span className="flex gap-2">
        {backup.kind === 'file' && (
          <a className={`${button} text-xs`} href={`/api/data/backups/${encodeURIComponent(backup.name)}`} download={backup.name}>
            Save<span className="sr-only"> {backup.name}</span>
          </a>
        )}
        <button type="button" className={`${button} text-xs`} onClick={() => void removeBackup(backup.name)}>
          Remove<span className="sr-only"> {backup.name}</span>
        </button>
      </span>
    </li>
  );
}
