import type { IncomingFull, IncomingLine, Me, DayInfo } from '@corvun/contract';
import { DESTINATIONS, count, sayMinutes, type Destination } from '@corvun/core';
import { Layers, X } from 'lucide-react';
import { useRef, useState, type ReactNode, type TouchEvent } from 'react';
import { Deadline } from '../../parts/signs';
import { Where, whenOf } from './DecidePane';
import { offeredFor } from './destinations';
import { useMoves } from '../../cost/cost';
import { useDrafts } from './draft';
import type { Decide } from './decide';
import { proposalOf } from './proposal';
import { useSelection } from './selection';
import type { TimeChoice } from './timeChoice';

/** What a thumb reaches first. The first place is for what is proposed or likeliest; the others are always the same. */
const LIKELY: Destination[] = ['day', 'time', 'list', 'done'];
/** Names that are too long for a button of a bar. */
const SHORT: Partial<Record<Destination, string>> = { done: 'Done', answer: 'Answer' };
/** A stroke is a swipe when it is longer across than this, and not more than half as long down, in pixels. */
const SWIPE = 90;

interface PhoneProps {
  me: Me;
  today: string;
  line: IncomingLine | undefined;
  incoming: IncomingFull | undefined;
  days: DayInfo[];
  choice: TimeChoice;
  /** How many are to be decided, in words. */
  says: string;
  order: 'oldest' | 'newest';
  /** The decision stands beside the message instead of in a bar below it. */
  beside: boolean;
  move: (by: number) => void;
  decide: Decide;
  accept: () => void;
  stack: ReactNode;
  sheet: ReactNode;
  pane: ReactNode;
  strip: ReactNode;
}

/**
 * Sort where there is no room for the stack: one message at a time, with its decision beside it or, on a telephone, what is
 * proposed and likeliest at the thumb. The stack is behind a button.
 */
export function PhoneSort(props: PhoneProps): ReactNode {
  const { line, says, order, beside, move, stack, sheet, pane, strip } = props;
  // The stack lies over the message it was opened from; choosing another one closes it.
  const [drawnFrom, setDrawnFrom] = useState<string | null>(null);
  const { marking, setMarking, clear } = useSelection();
  const marked = useSelection((state) => state.marked.size);
  const panel = useDrafts((state) => state.panel);
  const begun = useRef<{ x: number; y: number } | null>(null);
  const here = line?.id ?? '';
  const drawn = drawnFrom === here;
  const touch = {
    onTouchStart: ({ touches }: TouchEvent) => {
      const one = touches[0];
      begun.current = touches.length === 1 && one ? { x: one.clientX, y: one.clientY } : null;
    },
    onTouchEnd: ({ changedTouches }: TouchEvent) => {
      const one = changedTouches[0];
      if (!begun.current || !one || !window.getSelection()?.isCollapsed) return;
      const [x, y] = [one.clientX - begun.current.x, one.clientY - begun.current.y];
      if (Math.abs(x) > SWIPE && Math.abs(y) < Math.abs(x) / 2) move(x < 0 ? 1 : -1);
    },
  };
  return (
    <div className="@container/sort flex h-full flex-col">
      <h1 className="sr-only">Sort</h1>
      <div className={`flex shrink-0 items-center gap-3 border-b border-rule px-4 text-xs ${beside ? 'h-9' : 'h-11'}`}>
        {!drawn && (
          <>
            <span className="font-semibold">{says}</span>
            <span className="text-soft">{order} first</span>
          </>
        )}
        {drawn && (
          <button
            type="button"
            aria-pressed={marking}
            className={`flex h-11 items-center text-sm ${marking ? 'font-semibold text-plum' : 'text-soft'}`}
            onClick={() => (marking ? clear() : setMarking(true))}
          >
            {marking ? 'Mark no more' : 'Mark several'}
          </button>
        )}
        <button
          type="button"
          aria-expanded={drawn}
          className="ml-auto flex h-full items-center gap-2 pl-4 text-sm text-soft"
          onClick={() => setDrawnFrom(drawn ? null : here)}
        >
          {drawn ? <X size={15} aria-hidden="true" /> : <Layers size={15} aria-hidden="true" />}
          {drawn ? 'Close the stack' : 'Stack'}
        </button>
      </div>
      {beside ? (
        <>
          <div className="flex min-h-0 flex-1">
            {drawn ? stack : sheet}
            {pane}
          </div>
          <div className={panel === 'time' ? '' : '[@media(max-height:560px)]:hidden'}>{strip}</div>
        </>
      ) : drawn ? (
        <>
          <div className="flex min-h-0 flex-1 flex-col">{stack}</div>
          {marked > 0 && <MarkedBar marked={marked} pane={pane} />}
        </>
      ) : (
        <>
          <div className="flex min-h-0 flex-1 flex-col overflow-y-auto bg-card" {...touch}>
            {sheet}
          </div>
          {line?.state === 'waiting' && <ThumbBar key={line.id} {...props} line={line} />}
        </>
      )}
    </div>
  );
}

/** What is marked is decided together, from a sheet that rises over the stack. */
function MarkedBar({ marked, pane }: { marked: number; pane: ReactNode }): ReactNode {
  const [open, setOpen] = useState(false);
  return (
    <div className="relative shrink-0 border-t border-ink bg-plum-wash">
      {open && (
        <div
          className="absolute inset-x-0 bottom-full z-20 max-h-[66dvh] overflow-y-auto border-t border-ink bg-paper shadow-lg"
          data-keeps-enter
        >
          {pane}
        </div>
      )}
      <button
        type="button"
        aria-expanded={open}
        className="flex h-12 w-full items-center justify-between px-4 font-semibold"
        onClick={() => setOpen(!open)}
      >
        {count(marked, 'thing')} marked <span className="text-teal">{open ? 'Close' : 'Decide together'}</span>
      </button>
    </div>
  );
}

/** The line that says what was done stands above the bar. */
function saidAbove(bar: HTMLDivElement | null): (() => void) | undefined {
  const place = document.getElementById('place');
  if (!bar || !place) return undefined;
  place.style.setProperty('--said-bottom', `${bar.offsetHeight + 8}px`);
  return () => place.style.removeProperty('--said-bottom');
}

/** The proposal and the likeliest destinations in a bar at the thumb; what they ask rises from it. */
function ThumbBar(props: PhoneProps & { line: IncomingLine }): ReactNode {
  const { me, today, line, incoming, days, choice, decide, accept, pane, strip } = props;
  const draft = useDrafts((state) => state.drafts[line.id]);
  const panel = useDrafts((state) => state.panel);
  const { open } = useDrafts.getState();
  const [more, setMore] = useState(false);
  const proposal = proposalOf(line, draft);
  const { suggestion } = line;
  const moves = useMoves(line, incoming);
  const sure = suggestion?.sure === true;
  const opened = { line, incoming, together: false };
  const offered = offeredFor(opened);
  const lead: Destination[] = sure ? [] : [suggestion?.to === 'answer' ? 'answer' : 'drop'];
  const likely = [...lead, ...LIKELY].flatMap((to) => offered.find((one) => one.to === to) ?? []);
  const asked = more ? undefined : offered.find((one) => one.to === panel);
  const inPane = { me, today, line, days, choice, when: draft?.when, incoming, proposal, decide };
  const close = () => {
    open(null);
    setMore(false);
  };
  const button = 'min-w-0 flex-1 truncate border-l border-rule px-1 py-[14px] first:border-l-0';
  return (
    <div ref={saidAbove} className="relative shrink-0 border-t border-ink bg-paper">
      {(more || asked?.panel) && (
        <div
          className="absolute inset-x-0 bottom-full z-20 flex max-h-[66dvh] flex-col border-t border-ink bg-paper shadow-lg"
          data-keeps-enter
        >
          <div className="flex h-10 shrink-0 items-center border-b border-rule px-4">
            <b className="font-semibold">{asked ? DESTINATIONS[asked.to].name : 'Everything'}</b>
            <button type="button" className="ml-auto flex h-10 items-center gap-1 text-xs text-soft" onClick={close}>
              <X size={14} aria-hidden="true" /> Close
            </button>
          </div>
          <div className="min-h-0 overflow-y-auto">
            {more ? pane : <div className="bg-teal-wash px-3 py-3">{asked?.panel?.(inPane)}</div>}
            {panel === 'time' && choice.free.data && strip}
          </div>
        </div>
      )}
      <section aria-label="Suggestion at hand" className={`h-[76px] overflow-hidden px-4 py-2 ${sure ? 'bg-teal-wash' : ''}`}>
        <p className="line-clamp-2 font-head text-[16px] leading-[20px] font-semibold">{proposal.title}</p>
        <p className="flex h-5 flex-wrap items-baseline gap-x-2 overflow-hidden text-xs leading-5 text-soft">
          {sure ? (
            <>
              <Where
                suggestion={{ ...suggestion, list: proposal.list }}
                when={whenOf(me, today, proposal.day, choice)}
                today={today}
                moves={moves}
              />
              {proposal.deadline && <Deadline deadline={proposal.deadline} fixed={proposal.fixed} today={today} />}
              {proposal.minutes && <span>{sayMinutes(proposal.minutes)}</span>}
              {suggestion.reasons[0] && <span>· {suggestion.reasons[0]}</span>}
            </>
          ) : line.twoVersions ? (
            'Say above which of both to keep.'
          ) : (
            'Nothing is sure here: choose below.'
          )}
        </p>
      </section>
      <div role="group" aria-label="Decide at hand" className="flex border-t border-rule">
        {sure && (
          <button type="button" className={`${button} bg-teal font-semibold text-on-teal`} onClick={accept}>
            {suggestion.to === 'list' && !proposal.list ? 'Choose the list' : 'Do this'}
          </button>
        )}
        {likely.map(({ to, panel: asks, atOnce }) => (
          <button
            key={to}
            type="button"
            aria-expanded={asks && !atOnce?.(opened) ? panel === to : undefined}
            className={button}
            onClick={() => {
              setMore(false);
              if (asks && !atOnce?.(opened)) open(panel === to ? null : to);
              else void decide({ to });
            }}
          >
            {SHORT[to] ?? DESTINATIONS[to].name}
          </button>
        ))}
        <button
          type="button"
          aria-expanded={more}
          className={button}
          onClick={() => {
            open(null);
            setMore(!more);
          }}
        >
          More
        </button>
      </div>
    </div>
  );
}
