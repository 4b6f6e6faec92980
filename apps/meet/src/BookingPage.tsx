import type { PublicBooking } from '@corvun/contract';
import { useEffect, useState, type ReactNode } from 'react';
import { type Refused, ask } from './api';
import { Chosen, DAYS, Sheet, Times, Wrong, Zone, other, primary } from './parts';
import { sayInZone, sayStretch, useZone } from './times';

/** What was booked: to be moved, or cancelled. */
export function BookingPage({ link }: { link: string }): ReactNode {
  const [booking, set] = useState<PublicBooking | null>(null);
  const [wrong, setWrong] = useState<Refused | null>(null);
  const [moving, setMoving] = useState(false);
  const [asking, setAsking] = useState(false);
  const [chosen, choose] = useState('');
  const [shown, show] = useState(DAYS);
  const [busy, setBusy] = useState(false);
  const [zone, setZone] = useZone();
  useEffect(() => {
    const proof = new URLSearchParams(location.search).get('mail');
    const asked = proof ? ask<PublicBooking>(`/bookings/${link}`, 'POST', { proof }) : ask<PublicBooking>(`/bookings/${link}`);
    asked.then(set, (problem: Refused) => setWrong(problem));
  }, [link]);
  if (!booking)
    return wrong ? (
      <Sheet host="Corvun" title="Nothing here">
        {<Wrong>{wrong.message}</Wrong>}
      </Sheet>
    ) : null;
  const slot = booking.slots.find(({ start }) => start === chosen);
  const send = async (method: 'PATCH' | 'DELETE', body?: object) => {
    setBusy(true);
    setWrong(null);
    try {
      set(await ask<PublicBooking>(`/bookings/${link}`, method, body));
      setMoving(false);
      choose('');
    } catch (problem) {
      const refused = problem as Refused;
      setWrong(refused);
      if (refused.left) set({ ...booking, slots: refused.left });
    }
    setBusy(false);
  };
  if (booking.state === 'cancelled')
    return (
      <Sheet host={booking.host} title={booking.title || 'Cancelled'}>
        <p className="mt-2" role="status">
          It is cancelled.
        </p>
      </Sheet>
    );
  return (
    <Sheet host={booking.host} title={booking.title}>
      <p className="mt-2" role="status">
        <b className="font-semibold">{sayInZone(booking, zone)}</b>
        {booking.place && `, ${booking.place}`}
      </p>
      <Zone zone={zone} theirs={booking.zone} host={booking.host} set={setZone} />
      {!booking.confirmed && (
        <p className="mt-2 border-l-2 border-teal pl-3">
          A mail is on its way to the address that was given. Open the address in it, so that everything else reaches you, too.
        </p>
      )}
      {wrong && <Wrong>{wrong.message}</Wrong>}
      {asking ? (
        <div role="group" aria-label="Cancel it?" className="mt-4 flex flex-wrap gap-2">
          <button
            type="button"
            className="rounded-sm bg-brick px-4 py-2 font-semibold text-paper"
            disabled={busy}
            onClick={() => void send('DELETE')}
          >
            Cancel it, and tell {booking.host}
          </button>
          <button type="button" className={other} onClick={() => setAsking(false)}>
            Keep it
          </button>
        </div>
      ) : (
        <div className="mt-4 flex flex-wrap gap-2">
          {!moving && (
            <button type="button" className={other} onClick={() => setMoving(true)}>
              Move it
            </button>
          )}
          <button type="button" className={other} onClick={() => setAsking(true)}>
            Cancel it
          </button>
        </div>
      )}
      {moving &&
        (booking.slots.length ? (
          <>
            {slot ? (
              <Chosen when={sayStretch(slot, zone)} back={() => choose('')} />
            ) : (
              <Times slots={booking.slots} zone={zone} choose={choose} shown={shown} more={() => show(shown + DAYS)} />
            )}
            {slot && (
              <button
                type="button"
                className={`mt-4 ${primary}`}
                disabled={busy}
                onClick={() => void send('PATCH', { start: slot.start })}
              >
                Move it there
              </button>
            )}
          </>
        ) : (
          <p className="mt-4">No other time is free just now.</p>
        ))}
    </Sheet>
  );
}
