import type { Me } from '@corvun/contract';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useSources } from '../../data/sources';
import { Empty } from '../../parts/states';

/** The inbox is empty: because all is decided, or because nothing is connected yet. */
export function NothingWaits({ me }: { me: Me }): ReactNode {
  const sources = useSources();
  const fresh = sources.data?.length === 0;
  return (
    <Empty title={fresh ? 'Nothing waits, and nothing is connected yet' : 'Everything is decided'}>
      Mail to <span className="text-ink select-text">{me.captureAddress}</span> arrives here, and so does what you write in the
      capture line without a date. You can also drop files anywhere on this page.
      {fresh && (
        <p className="mt-4">
          <Link to="/sources/add" className="bg-teal px-3 py-1 font-semibold text-on-teal">
            Connect a source
          </Link>
        </p>
      )}
    </Empty>
  );
}
