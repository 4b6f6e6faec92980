import type { Booked, PublicMeet, TimeStretch } from '@corvun/contract';
import { sayMinutes } from '@corvun/core';
import { useEffect, useState, type ReactNode } from 'react';
import { type Refused, ask } from './api';
import { Chosen, DAYS, Sheet, Times, Wrong, Zone } from './parts';
import { sayInZone, sayStretch, useZone } from './times';
import { useWritten } from './useWritten';
import { Visitor } from './Visitor';

/** A page on which a visitor takes one of the free times. */
export function MeetPage({ link }: { link: string }): ReactNode {
  const [page, setPage] = useState<PublicMeet | null>(null);
  const [minutes, setMinutes] = useState<number | null>(null);
  const [chosen, choose] = useState('');
  const [shown, show] = useState(DAYS);
  const [wrong, setWrong] = useState<Refused | null>(null);
  const [busy, setBusy] = useState(false);
  const [done, setDone] = useState<Booked | null>(null);
  const [zone, setZone] = useZone();
  const [written, write, forget] = useWritten(link);
  useEffect(() => {
    let gone = false;
    ask<PublicMeet>(`/meet/${link}${minutes === null ? '' : `?minutes=${minutes}`}`).then(
      (answer) => !gone && setPage(answer),
      (problem: Refused) => !gone && setWrong(problem),
    );
    return () => {
      gone = true;
    };
  }, [link, minutes]);
  if (!page)
    return wrong ? (
      <Sheet host="Corvun" title="Nothing here">
        {<Wrong>{wrong.message}</Wrong>}
      </Sheet>
    ) : null;
  const slot = page.slots.find(({ start }) => start === chosen);
  if (done) return <Agreed page={page} done={done} zone={zone} />;
  const send = async () => {
    if (!slot) return;
    setBusy(true);
    setWrong(null);
    try {
      const booked = await ask<Booked>(`/meet/${link}`, 'POST', { ...written, start: slot.start, minutes: page.minutes });
      forget();
      setDone(booked);
    } catch (problem) {
      const refused = problem as Refused;
      setWrong(refused);
      if (refused.left) {
        setPage({ ...page, slots: refused.left });
        choose('');
      }
    }
    setBusy(false);
  };
  return (
    <Sheet host={page.host} title={page.name}>
      {page.about && <p className="mt-2 break-words whitespace-pre-line">{page.about}</p>}
      {page.place && <p className="mt-1 text-soft">At {page.place}</p>}
      {page.lengths.length > 1 && (
        <div role="radiogroup" aria-label="How long" className="mt-4 inline-flex flex-wrap border border-rule">
          {page.lengths.map((one) => (
            <label
              key={one}
              className={`relative cursor-pointer border-l border-rule px-3 py-1 first:border-l-0 has-focus-visible:outline-2 has-focus-visible:outline-teal ${one === page.minutes ? 'bg-ink text-paper' : 'text-soft hover:text-ink'}`}
            >
              <input
                type="radio"
                name="length"
                className="sr-only"
                checked={one === page.minutes}
                onChange={() => {
                  setMinutes(one);
                  choose('');
                }}
              />
              {sayMinutes(one)}
            </label>
          ))}
        </div>
      )}
      <Zone zone={zone} theirs={page.zone} host={page.host} set={setZone} />
      {wrong && !Object.keys(wrong.fields).length && <Wrong>{wrong.message}</Wrong>}
      {slot ? (
        <Chosen when={sayStretch(slot, zone)} back={() => choose('')} />
      ) : page.slots.length ? (
        <Times slots={page.slots} zone={zone} choose={choose} shown={shown} more={() => show(shown + DAYS)} />
      ) : (
        <p className="mt-6">
          {page.open
            ? `No time is free just now. Look again in a few days, or write to ${page.host}.`
            : 'This page takes no bookings at the moment.'}
        </p>
      )}
      {slot && (
        <Visitor
          written={written}
          write={write}
          questions={page.questions}
          wrong={wrong?.fields ?? {}}
          what={page.firm ? 'Take this time' : 'Ask for this time'}
          busy={busy}
          send={() => void send()}
        />
      )}
    </Sheet>
  );
}

function Agreed({ page, done, zone }: { page: PublicMeet; done: TimeStretch & { path: string }; zone: string }): ReactNode {
  return (
    <Sheet host={page.host} title={page.firm ? 'It is agreed' : 'It is asked for'}>
      <p className="mt-2" role="status">
        {page.name}: <b className="font-semibold">{sayInZone(done, zone)}</b>
        {page.place && `, ${page.place}`}. An invitation is on its way to you
        {page.firm ? '' : `; ${page.host} has yet to confirm it`}.
      </p>
      <p className="mt-4">
        <a className="underline underline-offset-2 hover:text-teal" href={done.path}>
          Move or cancel it
        </a>
      </p>
    </Sheet>
  );
}
