/** What the arrow keys go between on Plan. */
const ENTRY = '[data-goes]';
/** Rows of columns stand a little apart; what differs less stands in one. */
const SAME = 12;

const all = (): HTMLElement[] => [...document.querySelectorAll<HTMLElement>(ENTRY)].filter((one) => one.offsetParent !== null);

/** Puts the focus on what is now or comes next of what is shown; in four weeks on the day that Tab reaches. */
export function reachEntry(now: number): void {
  const entries = all();
  const next = entries.find(({ dataset: { goes = '' } }) => Date.parse(goes) > now);
  (document.querySelector<HTMLElement>('[data-cell][tabindex="0"]') ?? next ?? entries[0])?.focus();
}

/** Puts the focus on the card that Tab reaches, or on the drawers where none is there. */
export function reachCards(): void {
  const tray = '#tray-cards [data-card][tabindex="0"]';
  document.querySelector<HTMLElement>(`${tray}, [aria-controls="tray-cards"][tabindex="0"]`)?.focus();
  document.querySelector<HTMLElement>(tray)?.focus();
}

/**
 * Goes from an entry to the one above, below or beside it, as they stand.
 * @returns whether one stands there
 */
export function goBetween(from: HTMLElement, key: string): boolean {
  const own = from.getBoundingClientRect();
  const others = all().flatMap((one) => (one === from ? [] : [{ one, box: one.getBoundingClientRect() }]));
  const isAside = (box: DOMRect) => box.right <= own.left + SAME || box.left >= own.right - SAME;
  const by = (far: (box: DOMRect) => number, near: (box: DOMRect) => number) => {
    const [best] = others
      .filter(({ box }) => (isAcross ? isAside(box) : !isAside(box)) && far(box) > 0)
      .sort((a, b) => (Math.abs(far(a.box) - far(b.box)) > SAME ? far(a.box) - far(b.box) : near(a.box) - near(b.box)));
    best?.one.focus();
    return best !== undefined;
  };
  const isAcross = key === 'ArrowLeft' || key === 'ArrowRight';
  const [down, aside] = [(box: DOMRect) => Math.abs(box.top - own.top), (box: DOMRect) => Math.abs(box.left - own.left)];
  if (key === 'ArrowDown') return by((box) => box.top - own.top, aside);
  if (key === 'ArrowUp') return by((box) => own.top - box.top, aside);
  return by((box) => (key === 'ArrowRight' ? box.left - own.left : own.left - box.left), down);
}
