import type { Me, OutboxInfo } from '@corvun/contract';
import type { ReactNode } from 'react';
import { giveUp, sendNow, useOutbox } from '../../data/sources';
import { Failed, Waiting } from '../../parts/states';
import { useNow } from '../../parts/useNow';
import { button, saysPast, saysWhen } from './common';

/** What waits to go back to sources or out as mail, what failed and why, and what went lately. */
export function Outbox({ me }: { me: Me }): ReactNode {
  const outbox = useOutbox();
  if (outbox.isPending) return <Waiting what="Opening the outbox" />;
  if (outbox.error && !outbox.data) return <Failed problem={outbox.error} retry={() => void outbox.refetch()} />;
  const all = outbox.data ?? [];
  const waiting = all.filter((one) => one.state === 'waiting');
  const past = all.filter((one) => one.state !== 'waiting');
  return (
    <>
      <h2 className="font-head text-md font-semibold">{waiting.length ? 'Waiting to be sent' : 'Nothing waits to be sent'}</h2>
      <p className="max-w-[64ch] text-soft">
        What could not be delivered is kept and tried again, with growing pauses. It is given up only when you say so.
      </p>
      <ul className="mt-3">
        {waiting.map((entry) => (
          <Entry key={entry.id} me={me} entry={entry} />
        ))}
      </ul>
      {past.length > 0 && (
        <>
          <h2 className="mt-8 font-head text-md font-semibold">Lately</h2>
          <ul className="mt-2">
            {past.map((entry) => (
              <Entry key={entry.id} me={me} entry={entry} />
            ))}
          </ul>
        </>
      )}
    </>
  );
}

function Entry({ me, entry }: { me: Me; entry: OutboxInfo }): ReactNode {
  const now = useNow();
  const waits = entry.state === 'waiting';
  return (
    <li className="flex flex-wrap items-start justify-between gap-3 border-t border-rule py-2">
      <div className="min-w-0 flex-1 basis-72">
        <p className={waits ? '' : 'text-soft'}>{entry.what}</p>
        {entry.problem && waits && (
          <p className="text-brick">
            {entry.problem} Your change is kept; tried {entry.attempts === 1 ? 'once' : `${entry.attempts} times`}, again{' '}
            {saysWhen(entry.nextTry, now, me.zone)}.
          </p>
        )}
        {waits && !entry.problem && (
          <p className="text-xs text-soft">Goes {saysWhen(entry.nextTry, now, me.zone).replace(/ ago$/, ' ago, at once')}</p>
        )}
        {!waits && (
          <p className="text-xs text-soft">
            {entry.state === 'sent' ? `Sent ${saysPast(entry.sentAt, now, me.zone)}` : 'Given up by you'}
          </p>
        )}
      </div>
      {waits && (
        <div className="flex gap-2 text-xs">
          <button type="button" className={button} onClick={() => void sendNow(entry.id)}>
            Try now
          </button>
          <button type="button" className={button} onClick={() => void giveUp(entry.id)}>
            Give up
          </button>
        </div>
      )}
    </li>
  );
}
