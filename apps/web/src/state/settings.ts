import { mannerFrom, type Grouping, type Settings as Chosen, type Sorting } from '@corvun/core';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { chooseKeys } from '../keys';

export type Theme = 'system' | 'light' | 'dark';

/** How Plan is shown. */
export interface PlanView {
  view: 'grid' | 'weeks' | 'spread';
  weekends: boolean;
  /** Whether one day shows its calendars side by side. */
  side: boolean;
  /** Height of an hour, in pixels. */
  hour: number;
  /** Calendars that are shown softly, by id. */
  faded: readonly string[];
  /** Lists whose tasks and blocks are not shown, by id. */
  hiddenLists: readonly string[];
  /** Whether deadlines stand under the heads of their days. */
  deadlines: boolean;
  colourBy: 'calendar' | 'category';
  /** Layers that are kept under a name. */
  sets: readonly LayerSet[];
}

export interface LayerSet {
  name: string;
  /** Calendars that are shown, by id. */
  shown: readonly string[];
  faded: readonly string[];
  hiddenLists: readonly string[];
  deadlines: boolean;
}

/** How the tray of Plan is shown. */
interface Tray {
  /** Pixels. */
  height: number;
  folded: boolean;
  drawer: 'soon' | 'week' | 'shortlist' | 'list' | 'source' | 'stalled' | 'fits' | 'all';
  group: Grouping;
  sort: Sorting;
}

interface Settings {
  theme: Theme;
  order: 'oldest' | 'newest';
  planDays: 1 | 2 | 3 | 5 | 7;
  tray: Tray;
  plan: PlanView;
  setTheme: (theme: Theme) => void;
  setOrder: (order: 'oldest' | 'newest') => void;
  setPlanDays: (days: Settings['planDays']) => void;
  setTray: (tray: Partial<Tray>) => void;
  setPlan: (plan: Partial<PlanView>) => void;
}

/** How this browser shows things; kept here, not on the server. */
export const useSettings = create<Settings>()(
  persist(
    (set) => ({
      theme: 'system',
      order: 'oldest',
      planDays: 5,
      tray: { height: 168, folded: false, drawer: 'soon', group: 'none', sort: 'deadline' },
      plan: {
        view: 'grid',
        weekends: true,
        side: false,
        hour: 44,
        faded: [],
        hiddenLists: [],
        deadlines: true,
        colourBy: 'calendar',
        sets: [],
      },
      setTheme: (theme) => set({ theme }),
      setOrder: (order) => set({ order }),
      setPlanDays: (planDays) => set({ planDays }),
      setPlan: (plan) => set((now) => ({ plan: { ...now.plan, ...plan } })),
      setTray: (tray) => set((now) => ({ tray: { ...now.tray, ...tray } })),
    }),
    {
      name: 'corvun-settings',
      // What an older version did not keep stands as at first.
      merge: (kept, first) => {
        const old = kept as Partial<Settings>;
        return { ...first, ...old, tray: { ...first.tray, ...old.tray }, plan: { ...first.plan, ...old.plan } };
      },
    },
  ),
);

/** Does what a user chose for every window: the keys, how much is shown at once, and how dates are written. */
export function applySettings({ keys, textSize, density, ...manner }: Chosen): void {
  chooseKeys(keys);
  Object.assign(document.documentElement.dataset, { text: textSize, density });
  mannerFrom(() => manner);
}

/** Puts the chosen theme on the document, and follows the system where nothing is chosen. */
export function followTheme(): void {
  const dark = window.matchMedia('(prefers-color-scheme: dark)');
  const apply = () => {
    const { theme } = useSettings.getState();
    document.documentElement.dataset['theme'] = theme === 'system' ? (dark.matches ? 'dark' : 'light') : theme;
  };
  apply();
  dark.addEventListener('change', apply);
  useSettings.subscribe(apply);
}
