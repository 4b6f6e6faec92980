import { createContext, useContext, useLayoutEffect, useState } from 'react';
import { useNavigate, type NavigateOptions } from 'react-router';
import { useOpenEvent, useOpenTask } from '../../sheets/open';

/** The ways from an entry to elsewhere. */
export interface Ways {
  navigate: (to: string, how?: NavigateOptions) => void;
  openTask: (id: string) => void;
  openEvent: (id: string, date: string | null) => void;
}

const Acting = createContext<Ways | null>(null);

export const ActingProvider = Acting.Provider;

/** One object as long as the place is shown: what has it is not drawn anew when the address changes. */
export function useWays(): Ways {
  const navigate = useNavigate();
  const openTask = useOpenTask();
  const openEvent = useOpenEvent();
  const [now] = useState<{ ways: Ways }>({ ways: { navigate: () => undefined, openTask, openEvent } });
  const [ways] = useState<Ways>({
    navigate: (to, how) => now.ways.navigate(to, how),
    openTask: (id) => now.ways.openTask(id),
    openEvent: (id, date) => now.ways.openEvent(id, date),
  });
  useLayoutEffect(() => {
    now.ways = { navigate: (to, how) => void navigate(to, how), openTask, openEvent };
  }, [now, navigate, openTask, openEvent]);
  return ways;
}

export function useActing(): Ways {
  const ways = useContext(Acting);
  if (!ways) throw new Error('An entry acts only where its place gave it ways.');
  return ways;
}
