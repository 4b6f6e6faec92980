import type { PublicOffer } from '@corvun/contract';
import { useEffect, useState, type ReactNode } from 'react';
import { type Refused, ask } from './api';
import { Chosen, Sheet, Times, Wrong, Zone } from './parts';
import { lengthOf, sayInZone, sayStretch, useZone } from './times';
import { useWritten } from './useWritten';
import { Visitor } from './Visitor';

const ALL = 100;

/** A few times that are held for whoever has the address. */
export function OfferPage({ link }: { link: string }): ReactNode {
  const [offer, set] = useState<PublicOffer | null>(null);
  const [chosen, choose] = useState('');
  const [wrong, setWrong] = useState<Refused | null>(null);
  const [busy, setBusy] = useState(false);
  const [mine, setMine] = useState(false);
  const [zone, setZone] = useZone();
  const [written, write, forget] = useWritten(link);
  useEffect(() => {
    ask<PublicOffer>(`/offers/${link}`).then(set, (problem: Refused) => setWrong(problem));
  }, [link]);
  if (!offer)
    return wrong ? (
      <Sheet host="Corvun" title="Nothing here">
        {<Wrong>{wrong.message}</Wrong>}
      </Sheet>
    ) : null;
  const slot = offer.slots.find(({ start }) => start === chosen);
  const send = async () => {
    if (!slot) return;
    setBusy(true);
    setWrong(null);
    try {
      const { name, address, note } = written;
      set(await ask<PublicOffer>(`/offers/${link}`, 'POST', { name, address, note, start: slot.start }));
      forget();
      setMine(true);
    } catch (problem) {
      const refused = problem as Refused;
      setWrong(refused);
      if (refused.left) {
        set({ ...offer, slots: refused.left });
        choose('');
      }
    }
    setBusy(false);
  };
  const [taken] = offer.slots;
  if (mine && taken)
    return (
      <Sheet host={offer.host} title="It is agreed">
        <p className="mt-2" role="status">
          {offer.title}: <b className="font-semibold">{sayInZone(taken, zone)}</b>
          {offer.place && `, ${offer.place}`}. An invitation is on its way to you.
        </p>
      </Sheet>
    );
  return (
    <Sheet host={offer.host} title={offer.title}>
      {offer.place && <p className="mt-1 text-soft">At {offer.place}</p>}
      {wrong && !Object.keys(wrong.fields).length && <Wrong>{wrong.message}</Wrong>}
      {offer.state === 'open' && offer.slots.length > 0 ? (
        <>
          <p className="mt-2 text-soft">
            {lengthOf(offer.slots) ? `${lengthOf(offer.slots)}, held` : 'Held'} for you until{' '}
            {sayStretch({ start: offer.expires, end: offer.expires }, zone).split('–')[0]} ({zone}).
          </p>
          <Zone zone={zone} theirs={offer.zone} host={offer.host} set={setZone} />
          {slot ? (
            <Chosen when={sayStretch(slot, zone)} back={() => choose('')} />
          ) : (
            <Times slots={offer.slots} zone={zone} choose={choose} shown={ALL} more={() => undefined} />
          )}
        </>
      ) : (
        !wrong && (
          <p className="mt-4">
            {offer.state === 'taken' ? 'One of these times was taken already.' : 'These times are not held any more.'} Write to{' '}
            {offer.host} to find another.
          </p>
        )
      )}
      {slot && (
        <Visitor
          written={written}
          write={write}
          questions={[]}
          wrong={wrong?.fields ?? {}}
          what="Take this time"
          busy={busy}
          send={() => void send()}
        />
      )}
    </Sheet>
  );
}
