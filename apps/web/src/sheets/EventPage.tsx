import type { EventFull } from '@corvun/contract';
import type { ReactNode } from 'react';
import { Link, useNavigate } from 'react-router';
import { writePage } from '../data/calendarActions';
import { button } from '../places/sources/common';

/** The page of notes that belongs to a meeting, or to this date of it; begun where there is none. */
export function EventPage({ event }: { event: EventFull }): ReactNode {
  const navigate = useNavigate();
  const begin = async () => {
    const made = await writePage(event, '');
    if (made) void navigate(`/notes/${made.id}`);
  };
  return (
    <p className="mt-4 text-xs">
      {event.page ? (
        <Link
          to={`/notes/${event.page.id}`}
          className="inline-flex min-h-6 items-center underline underline-offset-2 hover:text-teal"
        >
          Its page of notes
        </Link>
      ) : (
        <button type="button" className={button} onClick={() => void begin()}>
          Begin its page of notes
        </button>
      )}
    </p>
  );
}
