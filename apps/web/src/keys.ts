/** Every key, in one place: first letters of Corvun's own words. Places take the capital letter. */
export const KEYS = {
  capture: 'c',
  find: 'f',
  gather: 'G',
  help: '?',
  undo: 'u',
  redo: 'U',
  sort: 'S',
  plan: 'P',
  lists: 'L',
  notes: 'N',
  sources: 'W',
  data: 'D',
  list: 'l',
  day: 'd',
  time: 't',
  event: 'e',
  answer: 'a',
  writeBack: 'w',
  passOn: 'g',
  more: '+',
  extras: 'b',
  handOver: 'h',
  person: 'p',
  shelf: 's',
  reference: 'r',
  done: 'x',
  drop: 'Backspace',
  mark: 'm',
  markSender: 'M',
  markShown: 'A',
  accept: 'Enter',
  next: 'ArrowDown',
  previous: 'ArrowUp',
  original: 'o',
  name: 'n',
  turn: 'v',
  earlier: 'ArrowLeft',
  later: 'ArrowRight',
  today: 't',
  tick: 'x',
  move: 'm',
} as const;

/** How a key is shown. */
export function keyName(key: string): string {
  const names: Record<string, string> = {
    Backspace: '⌫',
    Enter: 'Enter',
    ArrowDown: '↓',
    ArrowUp: '↑',
    ArrowLeft: '←',
    ArrowRight: '→',
  };
  if (names[key]) return names[key];
  return /^[A-Z]$/.test(key) ? `⇧${key}` : key.toUpperCase();
}

/** Whether a key press belongs to a field or an open menu, and must not fire anything else. */
export function isTyping(event: KeyboardEvent): boolean {
  if (event.ctrlKey || event.metaKey || event.altKey || event.isComposing) return true;
  const target = event.target instanceof HTMLElement ? event.target : null;
  if (!target) return false;
  return (
    target.isContentEditable ||
    /^(?:INPUT|TEXTAREA|SELECT)$/.test(target.tagName) ||
    target.closest('[role="menu"],[role="dialog"],[role="listbox"]') !== null
  );
}

/** Whether Enter or Space should be left to the focused control. */
export function isOnControl(event: KeyboardEvent): boolean {
  const target = event.target instanceof HTMLElement ? event.target : null;
  const control = target?.closest('button,a,[role="button"],[role="checkbox"],summary') ?? null;
  // The row that is open already has nothing left to do with Enter.
  return control !== null && control.getAttribute('aria-current') !== 'true';
}
