import { plainSubject, sayDay } from '@corvun/core';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { useInbox } from '../../data/queries';
import { Failed, Waiting } from '../../parts/states';

/** What was kept for reference, or dropped: never deleted, newest first. */
export function KeptIncoming({ today, outcome }: { today: string; outcome: 'reference' | 'drop' }): ReactNode {
  const kept = useInbox('newest', `state=decided&outcome=${outcome}`);
  const lines = kept.data?.pages.flatMap((page) => page.items) ?? [];
  if (kept.isPending) return <Waiting what="Opening what was kept" />;
  if (kept.error && !kept.data) return <Failed problem={kept.error} retry={() => void kept.refetch()} />;
  return (
    <section className="px-8 py-5 max-md:px-4" aria-label={outcome === 'reference' ? 'Reference' : 'Dropped'}>
      <h2 className="font-head text-lg font-semibold">{outcome === 'reference' ? 'Reference' : 'Dropped'}</h2>
      <p className="mt-1 text-soft">
        {outcome === 'reference' ? 'Kept to look up. ' : 'Nothing is ever deleted: dropped things stay here. '}
        {kept.data?.pages[0]?.total ?? 0} in all.
      </p>
      <ul className="mt-3 border-b border-rule">
        {lines.map((line) => (
          <li key={line.id} className="border-t border-rule">
            <Link to={`/sort/${line.id}`} className="flex items-baseline gap-3 py-[7px] hover:bg-paper">
              <span className="w-[150px] shrink-0 truncate">{line.sender.name || line.sender.address || 'You'}</span>
              <span className="truncate font-semibold">{plainSubject(line.subject) || 'No subject'}</span>
              <span className="ml-auto shrink-0 text-xs text-soft">{sayDay(line.received.slice(0, 10), today)}</span>
            </Link>
          </li>
        ))}
      </ul>
      {kept.hasNextPage && (
        <button type="button" className="mt-3 border border-ink px-3 py-1" onClick={() => void kept.fetchNextPage()}>
          Show older
        </button>
      )}
    </section>
  );
}
