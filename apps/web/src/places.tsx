import type { Me } from '@corvun/contract';
import type { ComponentType, ReactNode } from 'react';
import { Part, later } from './parts/later';
import { Failed, Waiting } from './parts/states';

type Component = ComponentType<{ me: Me }>;

/** A place that is loaded when it is opened or before. Where it cannot be, because the server is away or another version runs there now, that is said. */
interface Place {
  /** The first part of its addresses. */
  at: string;
  load: () => Promise<void>;
  View: Component;
}

function place(at: string, from: () => Promise<Component>): Place {
  const part = later(from);
  const View: Component = ({ me }) => (
    <Part of={part} with={{ me }} meanwhile={<Waiting what="Opening" />} failed={<NotLoaded />} />
  );
  return { at, load: part.load, View };
}

export const PLAN = place('/plan', async () => (await import('./places/plan/PlanPlace')).PlanPlace);
export const NOW = place('/now', async () => (await import('./places/now/NowPlace')).NowPlace);
export const LISTS = place('/lists', async () => (await import('./places/lists/ListsPlace')).ListsPlace);
export const NOTES = place('/notes', async () => (await import('./places/notes/NotesPlace')).NotesPlace);
export const LOOK_BACK = place('/look-back', async () => (await import('./places/lookback/LookBackPlace')).LookBackPlace);
export const FIND = place('/find', async () => (await import('./places/find/FindPlace')).FindPlace);
export const PEOPLE = place('/people', async () => (await import('./places/people/PeoplePlace')).PeoplePlace);
export const OTHERS = place('/others', async () => (await import('./places/others/OthersPlace')).OthersPlace);
export const GATHER = place('/gather', async () => (await import('./places/gather/GatherPlace')).GatherPlace);
export const SOURCES = place('/sources', async () => (await import('./places/sources/SourcesPlace')).SourcesPlace);
export const DATA = place('/data', async () => (await import('./places/data/DataPlace')).DataPlace);
export const SETTINGS = place('/settings', async () => (await import('./places/settings/SettingsPlace')).SettingsPlace);
/** The first questions; they have no address of their own. */
export const BEGIN = place('/begin', async () => (await import('./places/settings/Begin')).Begin);
export const CLIP = place('/clip', async () => (await import('./places/sources/ClipPlace')).ClipPlace);

const PLACES = [PLAN, NOW, LISTS, NOTES, LOOK_BACK, FIND, PEOPLE, OTHERS, GATHER, SOURCES, DATA, SETTINGS, CLIP];

/** Loads the place of an address, before it is known whose it is: what then stands on it waits for nothing. */
export function loadAt(pathname: string): void {
  const found = PLACES.find(({ at }) => pathname === at || pathname.startsWith(`${at}/`));
  // What goes wrong is said where it is shown.
  found?.load().catch(() => undefined);
}

/** What is likely opened next, the likeliest first. */
const NEXT = [PLAN, NOW, LISTS, FIND, GATHER];
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

const NOT_LOADED = new Error('This part of the application could not be loaded. Nothing is lost.');

export function NotLoaded(): ReactNode {
  return <Failed problem={NOT_LOADED} next="Load it again" retry={() => window.location.reload()} />;
}
