import { useEffect, type ReactNode } from 'react';
import { Navigate, Route, Routes, useLocation } from 'react-router';
import { RequestError } from './data/api';
import { useMe } from './data/queries';
import { Frame } from './Frame';
import { applySettings } from './state/settings';
import { Failed, Waiting } from './parts/states';
import { Part, later } from './parts/later';
import {
  BEGIN,
  CLIP,
  DATA,
  FIND,
  GATHER,
  LISTS,
  LOOK_BACK,
  NOTES,
  NOW,
  NotLoaded,
  OTHERS,
  PEOPLE,
  PLAN,
  SETTINGS,
  SOURCES,
  loadNext,
} from './places';
import { SortPlace } from './places/sort/SortPlace';

/** Most windows open with a session that is still good. */
const SIGN_IN = later(async () => (await import('./SignIn')).SignIn);

export function App(): ReactNode {
  const me = useMe();
  const { pathname } = useLocation();
  const known = me.data !== undefined;
  useEffect(() => {
    if (known) void loadNext();
  }, [known]);
  if (me.isPending) return <Waiting what="Opening Corvun" />;
  if (me.error instanceof RequestError && me.error.status === 401)
    return <Part of={SIGN_IN} with={{}} meanwhile={<Waiting what="Signing in" />} failed={<NotLoaded />} />;
  if (me.error) return <Failed problem={me.error} retry={() => void me.refetch()} />;
  applySettings(me.data.settings);
  if (!me.data.settings.begun && pathname !== '/clip') return <BEGIN.View me={me.data} />;
  return (
    <Routes>
      <Route path="/clip" element={<CLIP.View me={me.data} />} />
      <Route element={<Frame me={me.data} />}>
        <Route path="/sort/:id?" element={<SortPlace me={me.data} />} />
        <Route path="/plan/:day?" element={<PLAN.View me={me.data} />} />
        <Route path="/now" element={<NOW.View me={me.data} />} />
        <Route path="/lists/:list?" element={<LISTS.View me={me.data} />} />
        <Route path="/notes/:id?" element={<NOTES.View me={me.data} />} />
        <Route path="/look-back/:part?/:at?" element={<LOOK_BACK.View me={me.data} />} />
        <Route path="/gather" element={<GATHER.View me={me.data} />} />
        <Route path="/sources/:part?/:id?" element={<SOURCES.View me={me.data} />} />
        <Route path="/data" element={<DATA.View me={me.data} />} />
        <Route path="/settings" element={<SETTINGS.View me={me.data} />} />
        <Route path="/people" element={<PEOPLE.View me={me.data} />} />
        <Route path="/others" element={<OTHERS.View me={me.data} />} />
        <Route path="/find" element={<FIND.View me={me.data} />} />
        <Route path="*" element={<Navigate to="/sort" replace />} />
      </Route>
    </Routes>
  );
}
