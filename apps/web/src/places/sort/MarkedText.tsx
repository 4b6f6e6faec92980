import type { IncomingFull } from '@corvun/contract';
import { quotedFrom } from '@corvun/core';
import { useLayoutEffect, useRef, useState, type ReactNode } from 'react';
import { flushSync } from 'react-dom';
import { useDrafts } from './draft';
import { marksOf, piecesOf } from '../../parts/marks';
import type { DecisionDraft } from './proposal';

/** Height of a label in the margin, in pixels: large enough to hit. */
const LABEL = 24;

/** The plain text with its evidence marked, and what each mark means in the margin; a click there uses it. */
export function MarkedText({
  incoming,
  today,
  use,
}: {
  incoming: IncomingFull;
  today: string;
  use: ((change: DecisionDraft) => void) | null;
}): ReactNode {
  const frame = useRef<HTMLDivElement>(null);
  const [tops, setTops] = useState<Record<string, number>>({});
  const [unfolded, setUnfolded] = useState(false);
  const draft = useDrafts((state) => state.drafts[incoming.id]);
  const marks = marksOf(incoming, today);
  // What stands before is in the conversation below, and in the original; what is marked is always shown.
  const quoted = Math.max(quotedFrom(incoming.text), ...marks.map((mark) => mark.end));
  const folded = !unfolded && quoted < incoming.text.length;
  const key = marks.map((mark) => mark.id).join();
  useLayoutEffect(() => {
    const measure = () => {
      const next: Record<string, number> = {};
      const base = frame.current?.getBoundingClientRect().top ?? 0;
      let lowest = 0;
      for (const id of key.split(',').filter(Boolean)) {
        const box = frame.current?.querySelector(`[data-mark~="${id}"]`)?.getClientRects()[0];
        if (!box) continue;
        next[id] = Math.max(lowest, box.top - base - 1);
        lowest = next[id] + LABEL;
      }
      setTops(next);
    };
    // It looks first when all is laid out, and still before it is painted: asking at once would lay it out twice.
    const observer = new ResizeObserver(() => flushSync(measure));
    if (frame.current) observer.observe(frame.current);
    return () => observer.disconnect();
  }, [incoming.id, key]);
  return (
    <div
      ref={frame}
      className="grid flex-1 grid-cols-[minmax(0,1fr)_132px] @max-[560px]/sheet:grid-cols-1 @max-[560px]/sheet:content-start"
    >
      <div className="max-w-[66ch] pr-5 pl-8 text-[15px] leading-[23px] break-words whitespace-pre-wrap select-text @max-[560px]/sheet:px-4">
        {piecesOf(folded ? incoming.text.slice(0, quoted).trimEnd() : incoming.text, marks)}
        {folded && (
          <button
            type="button"
            className="mt-2 block min-h-6 text-xs text-soft underline underline-offset-2 hover:text-ink"
            onClick={() => setUnfolded(true)}
          >
            Show what it quotes
          </button>
        )}
      </div>
      <div className="relative border-l border-rule @max-[560px]/sheet:mt-4 @max-[560px]/sheet:flex @max-[560px]/sheet:flex-wrap @max-[560px]/sheet:gap-x-4 @max-[560px]/sheet:border-0 @max-[560px]/sheet:px-4">
        {marks.map((mark) => {
          const style = { top: tops[mark.id] ?? 0 };
          const looks =
            'absolute right-1 left-0 h-6 truncate pl-3 text-left text-xs leading-6 text-plum before:absolute before:top-3 before:left-0 before:w-2 before:border-t before:border-plum @max-[560px]/sheet:static @max-[560px]/sheet:block @max-[560px]/sheet:pl-0 @max-[560px]/sheet:before:hidden';
          return mark.use && use ? (
            <button
              key={mark.id}
              type="button"
              className={`${looks} hover:underline`}
              style={style}
              title={`${mark.label}: ${mark.says}`}
              onClick={() => mark.use && use(typeof mark.use === 'function' ? mark.use(draft ?? {}) : mark.use)}
            >
              {mark.label}
              <span className="sr-only">: {mark.says}</span>
            </button>
          ) : (
            <span key={mark.id} className={`${looks} @max-[560px]/sheet:hidden`} style={style} title={mark.label}>
              {mark.label}
            </span>
          );
        })}
      </div>
    </div>
  );
}
