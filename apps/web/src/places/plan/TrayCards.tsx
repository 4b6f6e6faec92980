import type { ListInfo, Me } from '@corvun/contract';
import { sayMinutes } from '@corvun/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import { useLayoutEffect, useMemo, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { usePlanning } from './planning';
import { CARD, rowsOf, type Card } from './tray';
import { TrayCard } from './TrayCard';

/** Of each side of the cards, in pixels. */
const MARGIN = 16;

interface CardsProps {
  me: Me;
  today: string;
  lists: readonly ListInfo[];
  /** Begins to give cards time by keys. */
  place: (cards: readonly Card[]) => void;
  cards: readonly Card[];
  height: number;
  arranging: Parameters<typeof rowsOf>[1];
  empty: string;
}

/** The cards of a drawer; only those in sight are drawn. */
export function TrayCards({ me, today, lists, cards, height, arranging, place, empty }: CardsProps): ReactNode {
  const scroller = useRef<HTMLDivElement>(null);
  const [room, setRoom] = useState(0);
  const [current, setCurrent] = useState<string | null>(null);
  const marked = usePlanning((state) => state.cards);
  useLayoutEffect(() => {
    const element = scroller.current;
    if (!element) return;
    const measure = () => setRoom(element.clientWidth - 2 * MARGIN);
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const { group, sort } = arranging;
  const rows = useMemo(
    () => (room > 0 ? rowsOf(cards, { group, sort, today, lists: arranging.lists }, room) : []),
    [cards, group, sort, today, arranging.lists, room],
  );
  const virtual = useVirtualizer({
    count: rows.length,
    getScrollElement: () => scroller.current,
    estimateSize: (index) => rows[index]?.height ?? CARD,
    getItemKey: (index) => rows[index]?.key ?? index,
    overscan: 2,
  });
  useLayoutEffect(() => virtual.measure(), [rows, virtual]);
  const order = rows.flatMap((row) => (row.kind === 'cards' ? row.cards.map(({ card }) => card.task.id) : []));
  const reached = current !== null && order.includes(current) ? current : order[0];
  // A card that was placed is gone; the one that came into its place has the focus then.
  const held = useRef(0);
  useLayoutEffect(() => {
    const at = current === null ? -1 : order.indexOf(current);
    if (at >= 0) held.current = at;
    else if (current !== null && document.activeElement === document.body) {
      const next = order[Math.min(held.current, order.length - 1)];
      if (next) scroller.current?.querySelector<HTMLElement>(`[data-card="${next}"]`)?.focus();
    }
  });
  const go = (event: KeyboardEvent) => {
    if (!['ArrowLeft', 'ArrowRight', 'ArrowUp', 'ArrowDown'].includes(event.key) || event.altKey || event.ctrlKey) return;
    if (!(event.target as HTMLElement).dataset['card']) return;
    event.preventDefault();
    event.stopPropagation();
    const next = neighbour(rows, reached ?? '', event.key);
    if (!next) return;
    if (event.shiftKey) for (const id of [reached ?? '', next]) if (!marked.has(id)) usePlanning.getState().markCard(id);
    setCurrent(next);
    virtual.scrollToIndex(rows.findIndex((row) => row.kind === 'cards' && row.cards.some(({ card }) => card.task.id === next)));
    requestAnimationFrame(() => scroller.current?.querySelector<HTMLElement>(`[data-card="${next}"]`)?.focus());
  };
  const together = (card: Card): readonly Card[] =>
    marked.has(card.task.id)
      ? order.filter((id) => marked.has(id)).flatMap((id) => cards.find((one) => one.task.id === id) ?? [])
      : [card];
  return (
    <div
      ref={scroller}
      id="tray-cards"
      role="tabpanel"
      aria-label="Work without its time"
      className="overflow-y-auto"
      style={{ height }}
      onKeyDown={go}
    >
      {!cards.length && <p className="px-4 py-3 text-soft">{empty}</p>}
      <div className="relative mt-[10px]" style={{ height: virtual.getTotalSize() }}>
        {virtual.getVirtualItems().map(({ index, start }) => {
          const row = rows[index];
          if (!row) return null;
          return (
            <div
              key={row.key}
              className="absolute flex gap-[10px]"
              style={{ top: start, left: MARGIN, right: MARGIN, height: row.height }}
            >
              {row.kind === 'heading' ? (
                <h3 className="font-head font-semibold">
                  {row.title} <span className="font-sans text-xs font-normal text-soft">{sayMinutes(row.minutes)}</span>
                </h3>
              ) : (
                row.cards.map(({ card, width }) => (
                  <TrayCard
                    key={card.task.id}
                    me={me}
                    today={today}
                    card={card}
                    width={width}
                    height={CARD}
                    lists={lists}
                    reached={card.task.id === reached}
                    focused={() => setCurrent(card.task.id)}
                    together={together(card)}
                    place={() => place(together(card))}
                  />
                ))
              )}
            </div>
          );
        })}
      </div>
    </div>
  );
}

/** The card beside another, or the one above or below it. */
function neighbour(rows: ReturnType<typeof rowsOf>, id: string, key: string): string | undefined {
  const lines = rows.flatMap((row) => (row.kind === 'cards' ? [row.cards.map(({ card }) => card.task.id)] : []));
  const all = lines.flat();
  if (key === 'ArrowLeft' || key === 'ArrowRight') return all[all.indexOf(id) + (key === 'ArrowLeft' ? -1 : 1)];
  const line = lines.findIndex((one) => one.includes(id));
  const next = lines[line + (key === 'ArrowUp' ? -1 : 1)];
  return next?.[Math.min(next.length - 1, lines[line]?.indexOf(id) ?? 0)];
}
