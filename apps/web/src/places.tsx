import type { Me } from '@corvun/contract';
import { Component, Suspense, lazy, type ComponentType, type ReactNode } from 'react';
import { Failed, Waiting } from './parts/states';

/** A place that is loaded when it is opened, or before, while there is nothing else to do. */
interface Place {
  View: ComponentType<{ me: Me }>;
  load: () => Promise<unknown>;
}

function place(load: () => Promise<ComponentType<{ me: Me }>>): Place {
  return { View: lazy(async () => ({ default: await load() })), load };
}

export const PLAN = place(async () => (await import('./places/plan/PlanPlace')).PlanPlace);
export const LISTS = place(async () => (await import('./places/lists/ListsPlace')).ListsPlace);
export const NOTES = place(async () => (await import('./places/notes/NotesPlace')).NotesPlace);
export const FIND = place(async () => (await import('./places/find/FindPlace')).FindPlace);
export const GATHER = place(async () => (await import('./places/gather/GatherPlace')).GatherPlace);
export const SOURCES = place(async () => (await import('./places/sources/SourcesPlace')).SourcesPlace);
export const DATA = place(async () => (await import('./places/data/DataPlace')).DataPlace);
export const ACCOUNT = place(async () => (await import('./places/account/AccountPlace')).AccountPlace);
export const CLIP = place(async () => (await import('./places/sources/ClipPlace')).ClipPlace);

/** What is likely opened next, the likeliest first. */
const NEXT = [PLAN, LISTS, FIND, GATHER];
/** Milliseconds after which places are loaded although there was no idle moment. */
const AT_LAST = 5000;

const idle = () =>
  new Promise<unknown>((resolve) =>
    'requestIdleCallback' in window ? window.requestIdleCallback(resolve, { timeout: AT_LAST }) : setTimeout(resolve, 200),
  );

/** Loads places while nothing else is to be done, one after the other: opening one then waits for nothing. */
export async function loadNext(): Promise<void> {
  for (const { load } of NEXT) {
    await idle();
    // Where the server is away it is tried again when the place is opened.
    await load().catch(() => undefined);
  }
}

/** A place, once it is loaded. */
export function Loaded({ place: { View }, me }: { place: Place; me: Me }): ReactNode {
  return (
    <NotLoaded>
      <Suspense fallback={<Waiting what="Opening" />}>
        <View me={me} />
      </Suspense>
    </NotLoaded>
  );
}

/** A place that cannot be loaded: the server is away, or another version runs there now. */
class NotLoaded extends Component<{ children: ReactNode }, { failed: boolean }> {
  override state = { failed: false };

  static getDerivedStateFromError(problem: unknown): { failed: boolean } {
    // Everything else is not for here to hide.
    if (!(problem instanceof Error) || !/import/i.test(problem.message)) throw problem;
    return { failed: true };
  }

  override render(): ReactNode {
    if (!this.state.failed) return this.props.children;
    const problem = new Error('This part of the application could not be loaded. Nothing is lost.');
    return <Failed problem={problem} next="Load it again" retry={() => window.location.reload()} />;
  }
}
