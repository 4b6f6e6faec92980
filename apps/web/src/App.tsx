import type { ReactNode } from 'react';
import { Navigate, Route, Routes } from 'react-router';
import { RequestError } from './data/api';
import { useMe } from './data/queries';
import { Frame } from './Frame';
import { Failed, Waiting } from './parts/states';
import { followServerClock } from './parts/useNow';
import { AccountPlace } from './places/account/AccountPlace';
import { DataPlace } from './places/data/DataPlace';
import { FindPlace } from './places/find/FindPlace';
import { GatherPlace } from './places/gather/GatherPlace';
import { ListsPlace } from './places/lists/ListsPlace';
import { NotesPlace } from './places/notes/NotesPlace';
import { PlanPlace } from './places/plan/PlanPlace';
import { SortPlace } from './places/sort/SortPlace';
import { ClipPlace } from './places/sources/ClipPlace';
import { SourcesPlace } from './places/sources/SourcesPlace';
import { SignIn } from './SignIn';

export function App(): ReactNode {
  const me = useMe();
  if (me.isPending) return <Waiting what="Opening Corvun" />;
  if (me.error instanceof RequestError && me.error.status === 401) return <SignIn />;
  if (me.error) return <Failed problem={me.error} retry={() => void me.refetch()} />;
  followServerClock(me.data);
  return (
    <Routes>
      <Route path="/clip" element={<ClipPlace />} />
      <Route element={<Frame me={me.data} />}>
        <Route path="/sort/:id?" element={<SortPlace me={me.data} />} />
        <Route path="/plan/:day?" element={<PlanPlace me={me.data} />} />
        <Route path="/lists/:list?" element={<ListsPlace me={me.data} />} />
        <Route path="/notes/:id?" element={<NotesPlace me={me.data} />} />
        <Route path="/gather" element={<GatherPlace />} />
        <Route path="/sources/:part?/:id?" element={<SourcesPlace me={me.data} />} />
        <Route path="/data" element={<DataPlace me={me.data} />} />
        <Route path="/account" element={<AccountPlace me={me.data} />} />
        <Route path="/find" element={<FindPlace me={me.data} />} />
        <Route path="*" element={<Navigate to="/sort" replace />} />
      </Route>
    </Routes>
  );
}
