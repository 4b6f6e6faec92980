import type { TaskFull } from '@corvun/contract';
import { useEffect, useRef, type KeyboardEvent } from 'react';
import type { NavigateFunction } from 'react-router';
import { KEYS, isTyping } from '../keys';
import { useKeys } from '../parts/useKeys';
import { originalOf } from './open';

interface Doing {
  id: string;
  task: TaskFull | undefined;
  failed: boolean;
  close: () => void;
  go: (by: number) => void;
  navigate: NavigateFunction;
}

const press = (id: string) => document.getElementById(id)?.click();

/** Keys while the focus is in the sheet. Those of the place below are not heard, only those that work everywhere. */
export function useSheetKeys({ id, task, failed, close, go, navigate }: Doing): (event: KeyboardEvent) => void {
  return useOwnKeys(
    { id, there: task !== undefined, failed },
    {
      [KEYS.sheet.close]: close,
      [KEYS.sheet.next]: () => go(1),
      [KEYS.sheet.previous]: () => go(-1),
    },
    {
      [KEYS.sheet.name]: writeTitle,
      [KEYS.sheet.notes]: () => press('write-notes'),
      [KEYS.sheet.step]: () => document.getElementById('new-step')?.focus(),
      [KEYS.sheet.time]: () => press('give-time'),
      [KEYS.sheet.more]: () => openMenu('sheet-more'),
      [KEYS.sheet.tick]: () => press('sheet-tick'),
      [KEYS.sheet.reply]: () => press('reply-to-origin'),
      [KEYS.sheet.remind]: () => press('remind-them'),
      [KEYS.sheet.handOver]: () => press('hand-over'),
      [KEYS.sheet.measure]: () => press('measure-time'),
      [KEYS.sheet.skip]: () => press('skip-one'),
      [KEYS.sheet.original]: () => task?.incomingId && void navigate(...originalOf(task.incomingId)),
    },
  );
}

/** What a sheet is of, and whether its content is there already, or cannot be had. */
interface Shown {
  id: string;
  there: boolean;
  failed: boolean;
}

/**
 * Keys of any sheet: its own while the focus is in it, and that of closing it everywhere.
 * @param always those that need nothing of the content
 * @param within those of the content; one that is pressed before it is there is done as soon as it is, and never
 *   where it could not be had: that may be long after
 */
export function useOwnKeys(
  { id, there, failed }: Shown,
  always: Record<string, () => void>,
  within: Record<string, () => void>,
): (event: KeyboardEvent) => void {
  const early = useRef<{ id: string; run: () => void } | null>(null);
  useEffect(() => {
    if (!there && !failed) return;
    const first = early.current;
    early.current = null;
    if (there && first?.id === id) first.run();
  }, [id, there, failed]);
  const close = always[KEYS.sheet.close] ?? (() => undefined);
  // Also where the focus is in the place below: the sheet is what is in front.
  useKeys({ [KEYS.sheet.close]: close });
  return (event) => {
    if (event.defaultPrevented || isTyping(event.nativeEvent)) return;
    const ofContent = within[event.key];
    const own = always[event.key] ?? ofContent;
    if (own) {
      event.preventDefault();
      event.stopPropagation();
      if (there || own !== ofContent) own();
      else if (!failed && early.current?.id !== id) early.current = { id, run: own };
    } else if (!Object.values(KEYS.everywhere).includes(event.key)) event.stopPropagation();
  };
}

function writeTitle(): void {
  const title = document.getElementById('sheet-title') as HTMLTextAreaElement | null;
  title?.focus();
  title?.setSelectionRange(title.value.length, title.value.length);
}

/** A menu opens on the press of a button, not on its click. */
export function openMenu(id: string): void {
  const button = document.getElementById(id);
  button?.focus();
  button?.dispatchEvent(new window.KeyboardEvent('keydown', { key: 'Enter', bubbles: true }));
}
