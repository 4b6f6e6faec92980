import { isDay } from '@corvun/core';
import { useCallback, useMemo } from 'react';
import { useSearchParams } from 'react-router';
import { useWritten } from '../../sheets/drafts';
import type { Target } from './planning';

/** Under which what is written is kept. */
export const MAKING = 'plan new';

/** Where something new is being made; it stands in the address, so that it is there after a reload. */
export interface Making {
  at: Target | null;
  begin: (at: Target) => void;
  /** Ends it; with Escape what was written goes, too. */
  end: (how?: 'escape' | 'beside') => void;
}

const CLOCK = /^(\d{4}-\d{2}-\d{2})(?:T([01]\d|2[0-3]):([0-5]\d))?$/;

export function useMaking(): Making {
  const [query, setQuery] = useSearchParams();
  const said = query.get('new') ?? '';
  const length = Number(query.get('for'));
  const calendarId = query.get('in');
  const at = useMemo((): Target | null => {
    const [, day = '', hour, minute] = CLOCK.exec(said) ?? [];
    if (!isDay(day)) return null;
    const minutes = Number.isInteger(length) && length > 0 && length <= 366 * 1440 ? length : 30;
    return {
      ...(calendarId ? { calendarId } : {}),
      day,
      from: hour === undefined ? null : Number(hour) * 60 + Number(minute),
      minutes,
    };
  }, [said, length, calendarId]);
  const set = useCallback(
    (next: Target | null) =>
      setQuery(
        (old) => {
          old.delete('new');
          old.delete('for');
          old.delete('in');
          if (!next) return old;
          const pad = (number: number) => String(number).padStart(2, '0');
          const clock = next.from === null ? '' : `T${pad(Math.floor(next.from / 60))}:${pad(next.from % 60)}`;
          old.set('new', `${next.day}${clock}`);
          old.set('for', String(next.minutes));
          if (next.calendarId) old.set('in', next.calendarId);
          return old;
        },
        { replace: true },
      ),
    [setQuery],
  );
  const begin = useCallback((next: Target) => set(next), [set]);
  const end = useCallback(
    (how?: 'escape' | 'beside') => {
      if (how !== 'beside') useWritten.getState().write(MAKING, null);
      set(null);
    },
    [set],
  );
  return { at, begin, end };
}
