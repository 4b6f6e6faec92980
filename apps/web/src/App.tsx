import { Suspense, lazy, useEffect, type ReactNode } from 'react';
import { Navigate, Route, Routes } from 'react-router';
import { RequestError } from './data/api';
import { useMe } from './data/queries';
import { Frame } from './Frame';
import { Failed, Waiting } from './parts/states';
import { followServerClock } from './parts/useNow';
import { ACCOUNT, CLIP, DATA, FIND, GATHER, LISTS, Loaded, NOTES, PLAN, SOURCES, loadNext } from './places';
import { SortPlace } from './places/sort/SortPlace';

/** Most windows open with a session that is still good. */
const SignIn = lazy(async () => ({ default: (await import('./SignIn')).SignIn }));

export function App(): ReactNode {
  const me = useMe();
  const known = me.data !== undefined;
  useEffect(() => {
    if (known) void loadNext();
  }, [known]);
  if (me.isPending) return <Waiting what="Opening Corvun" />;
  if (me.error instanceof RequestError && me.error.status === 401)
    return (
      <Suspense fallback={<Waiting what="Signing in" />}>
        <SignIn />
      </Suspense>
    );
  if (me.error) return <Failed problem={me.error} retry={() => void me.refetch()} />;
  followServerClock(me.data);
  const opened = (place: typeof PLAN) => <Loaded place={place} me={me.data} />;
  return (
    <Routes>
      <Route path="/clip" element={opened(CLIP)} />
      <Route element={<Frame me={me.data} />}>
        <Route path="/sort/:id?" element={<SortPlace me={me.data} />} />
        <Route path="/plan/:day?" element={opened(PLAN)} />
        <Route path="/lists/:list?" element={opened(LISTS)} />
        <Route path="/notes/:id?" element={opened(NOTES)} />
        <Route path="/gather" element={opened(GATHER)} />
        <Route path="/sources/:part?/:id?" element={opened(SOURCES)} />
        <Route path="/data" element={opened(DATA)} />
        <Route path="/account" element={opened(ACCOUNT)} />
        <Route path="/find" element={opened(FIND)} />
        <Route path="*" element={<Navigate to="/sort" replace />} />
      </Route>
    </Routes>
  );
}
