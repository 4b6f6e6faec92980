/**
 * Every command of the keyboard, in the place where its key works: first letters of Corvun's own words; places take the
 * capital letter. `entry` and `task`: while one of them has the focus. What each does is said in `commands.ts`.
 */
const FIRST_KEYS = {
  everywhere: {
    sort: 'S',
    plan: 'P',
    lists: 'L',
    now: 'J',
    notes: 'N',
    lookBack: 'K',
    sources: 'W',
    data: 'D',
    settings: 'E',
    people: 'O',
    day: 'B',
    others: 'T',
    capture: 'c',
    gather: 'G',
    find: 'f',
    undo: 'u',
    redo: 'U',
    reminders: 'R',
    help: '?',
  },
  sort: {
    next: 'ArrowDown',
    previous: 'ArrowUp',
    accept: 'Enter',
    mark: 'm',
    markSender: 'M',
    markShown: 'A',
    list: 'l',
    day: 'd',
    time: 't',
    event: 'e',
    answer: 'a',
    writeBack: 'w',
    passOn: 'g',
    more: '+',
    handOver: 'h',
    person: 'p',
    shelf: 's',
    reference: 'r',
    done: 'x',
    drop: 'Backspace',
    name: 'n',
    beforeItGoes: 'b',
    turn: 'v',
    original: 'o',
  },
  plan: {
    earlier: 'ArrowLeft',
    later: 'ArrowRight',
    today: 't',
    make: 'n',
    tray: 'y',
    goTo: 'g',
    taller: 'h',
    lower: 'H',
    offer: 'k',
    side: 's',
    draft: 'd',
    rest: 'r',
    fits: 'l',
    entries: 'ArrowDown',
    cards: 'q',
  },
  entry: {
    open: 'i',
    move: 'm',
    mark: 'M',
    tick: 'x',
    ended: 'e',
    another: '+',
    notToday: 'a',
    nextWeek: 'w',
    shown: 'b',
    pin: 'p',
    remove: 'Backspace',
    original: 'o',
  },
  card: {
    place: 'Enter',
    open: 'i',
    menu: 'e',
    mark: 'm',
    tick: 'x',
  },
  now: {
    done: 'x',
    longer: 'r',
    notToday: 'y',
    cameUp: 'i',
    measure: 'm',
    headsDown: 'h',
    join: 'j',
    open: 'e',
    original: 'o',
    fits: 'l',
    questions: 'q',
  },
  alone: {
    goOn: 'Enter',
    done: 'x',
    cameUp: 'i',
    leave: 'Escape',
  },
  notes: {
    next: 'ArrowDown',
    previous: 'ArrowUp',
    name: 'n',
  },
  lookBack: {
    earlier: 'ArrowLeft',
    later: 'ArrowRight',
    present: 't',
    log: 'd',
    ledger: 'l',
    questions: 'q',
    review: 'r',
    line: 'n',
    search: 'w',
  },
  sheet: {
    close: 'Escape',
    next: '.',
    previous: ',',
    name: 'n',
    notes: 'b',
    step: '+',
    time: 't',
    more: 'a',
    tick: 'x',
    reply: 'w',
    remind: 'r',
    handOver: 'h',
    measure: 'm',
    skip: 's',
    original: 'o',
  },
  pass: {
    next: '.',
    previous: ',',
  },
  lists: {
    add: '+',
    filter: 'w',
    change: 'i',
    markShown: 'A',
    unmark: 'Escape',
  },
  task: {
    open: 'Enter',
    menu: 'e',
    name: 'n',
    mark: 'm',
    list: 'l',
    day: 'd',
    tag: 'g',
    time: 't',
    next: 'ArrowDown',
    previous: 'ArrowUp',
    tick: 'x',
    remind: 'r',
    skip: 's',
    original: 'o',
  },
} as const;

export type Where = keyof typeof FIRST_KEYS;
type Keys = { [W in Where]: Record<keyof (typeof FIRST_KEYS)[W], string> };

/** The keys as they are now: the first ones, and those a user has changed. */
export const KEYS: Keys = structuredClone(FIRST_KEYS);

/** The key a command has at first. */
export const firstKey = (where: Where, name: string): string =>
  (FIRST_KEYS as Readonly<Record<string, Readonly<Record<string, string>>>>)[where]?.[name] ?? '';

/** All keys, with some of them changed. @param own by command: `sort.drop` */
export function keysWith(own: Readonly<Record<string, string>>): Keys {
  const all: Record<string, Record<string, string>> = structuredClone(FIRST_KEYS);
  for (const [command, key] of Object.entries(own)) {
    const [where = '', name = ''] = command.split('.');
    const place = all[where];
    // A command of an older or newer version of the application.
    if (place && name in place) place[name] = key;
  }
  return all as Keys;
}

/** Takes over the keys a user has chosen; where two of them clash, which only an older version can have let by, the first ones stay. */
export function chooseKeys(own: Readonly<Record<string, string>>): void {
  const wanted = keysWith(own);
  const chosen = clashes(wanted).length ? keysWith({}) : wanted;
  for (const where of Object.keys(KEYS) as Where[]) Object.assign(KEYS[where], chosen[where]);
}

/** Where keys of a place are heard, too. */
const WITHIN: Partial<Record<Where, Where>> = { entry: 'plan', card: 'plan', task: 'lists' };

/** Keys that two commands claim in the same place, as sentences. */
export function clashes(commands: Readonly<Record<string, Readonly<Record<string, string>>>>): string[] {
  const found: string[] = [];
  for (const [where, own] of Object.entries(commands)) {
    const heard = new Map<string, string>();
    for (const place of new Set(['everywhere', WITHIN[where as Where] ?? where, where]))
      for (const [name, key] of Object.entries(commands[place] ?? {})) {
        const other = heard.get(key);
        if (other && (place === where || own === commands[place])) found.push(`${key}: ${other} and ${place}.${name}`);
        heard.set(key, `${place}.${name}`);
      }
  }
  return [...new Set(found)];
}

const refused = clashes(FIRST_KEYS);
if (refused.length) throw new Error(`Two commands have one key: ${refused.join('; ')}`);

/** How a key is shown. */
export function keyName(key: string): string {
  const names: Record<string, string> = {
    Backspace: '⌫',
    Enter: 'Enter',
    Escape: 'Esc',
    ArrowDown: '↓',
    ArrowUp: '↑',
    ArrowLeft: '←',
    ArrowRight: '→',
  };
  if (names[key]) return names[key];
  return /^[A-Z]$/.test(key) ? `⇧${key}` : key.toUpperCase();
}

const TICKED = /^(?:checkbox|radio)$/;
const OF_BOXES = /^(?: |Enter|Tab|Arrow\w+)$/;

/** Whether a key press belongs to a field or an open menu, and must not fire anything else. */
export function isTyping(
  event: Pick<KeyboardEvent, 'key' | 'ctrlKey' | 'metaKey' | 'altKey' | 'isComposing' | 'target'>,
): boolean {
  if (event.ctrlKey || event.metaKey || event.altKey || event.isComposing) return true;
  const target = event.target instanceof HTMLElement ? event.target : null;
  if (!target) return false;
  // A box that is ticked has a use for few keys, and leaves the others to the place.
  if (target instanceof HTMLInputElement && TICKED.test(target.type)) return OF_BOXES.test(event.key);
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
