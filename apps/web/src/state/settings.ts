import { mannerFrom, type Settings as Chosen } from '@corvun/core';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { chooseKeys } from '../keys';

export type Theme = 'system' | 'light' | 'dark';

interface Settings {
  theme: Theme;
  order: 'oldest' | 'newest';
  planDays: 1 | 2 | 3 | 5 | 7;
  setTheme: (theme: Theme) => void;
  setOrder: (order: 'oldest' | 'newest') => void;
  setPlanDays: (days: Settings['planDays']) => void;
}

/** How this browser shows things; kept here, not on the server. */
export const useSettings = create<Settings>()(
  persist(
    (set) => ({
      theme: 'system',
      order: 'oldest',
      planDays: 5,
      setTheme: (theme) => set({ theme }),
      setOrder: (order) => set({ order }),
      setPlanDays: (planDays) => set({ planDays }),
    }),
    { name: 'corvun-settings' },
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
