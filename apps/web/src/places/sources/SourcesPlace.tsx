import type { Me } from '@corvun/contract';
import type { ReactNode } from 'react';
import { NavLink, useParams } from 'react-router';
import { useImports, useOutbox, useSources } from '../../data/sources';
import { SaysNothing } from './common';
import { AddSource } from './AddSource';
import { Connected } from './Connected';
import { Files } from './Files';
import { FromTheWeb } from './FromTheWeb';
import { Outbox } from './Outbox';

const PARTS = [
  { part: '', name: 'Connected' },
  { part: 'outbox', name: 'Outbox' },
  { part: 'files', name: 'Files' },
  { part: 'web', name: 'Web pages and programs' },
];

/** Every way in: what is connected, what waits to go back, files, and the browser. */
export function SourcesPlace({ me }: { me: Me }): ReactNode {
  const { part = '' } = useParams();
  const sources = useSources();
  const outbox = useOutbox();
  const imports = useImports();
  const counts: Record<string, number> = {
    '': sources.data?.length ?? 0,
    outbox: outbox.data?.filter((one) => one.state === 'waiting').length ?? 0,
    files: imports.data?.filter((one) => one.state === 'columns' || one.state === 'running').length ?? 0,
  };
  return (
    <div className="flex h-full flex-col overflow-y-auto">
      <div className="mx-auto w-full max-w-[1040px] px-6 pt-6 pb-16 max-md:px-4">
        <h1 className="font-head text-lg font-semibold tracking-tight">Sources</h1>
        <p className="mt-1 max-w-[68ch] text-soft">
          Where things come in from, and what goes back. Whatever you finish here is finished there too.
        </p>
        <nav aria-label="Parts of Sources" className="mt-4 flex gap-1 overflow-x-auto border-b border-rule">
          {PARTS.map(({ part: path, name }) => (
            <NavLink
              key={path}
              to={path ? `/sources/${path}` : '/sources'}
              end={!path}
              className={({ isActive }) =>
                `flex items-center gap-2 border-b-2 px-3 py-2 whitespace-nowrap ${isActive ? 'border-teal font-semibold' : 'border-transparent text-soft hover:text-ink'}`
              }
            >
              {name}
              {counts[path] ? <span className="text-xs text-teal">{counts[path]}</span> : null}
            </NavLink>
          ))}
        </nav>
        <div className="pt-5">
          {part === '' && <Connected me={me} />}
          {part === 'add' && <AddSource />}
          {part === 'outbox' && <Outbox me={me} />}
          {part === 'files' && <Files />}
          {part === 'web' && <FromTheWeb />}
          {!['', 'add', 'outbox', 'files', 'web'].includes(part) && <SaysNothing />}
        </div>
      </div>
    </div>
  );
}
