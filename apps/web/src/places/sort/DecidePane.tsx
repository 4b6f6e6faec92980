import type { DayInfo, IncomingFull, IncomingLine, Me } from '@corvun/contract';
import { DESTINATIONS, count, dayOf, plainSubject, sayClock, sayDay, sayTime, type Suggestion } from '@corvun/core';
import { memo, type ReactNode } from 'react';
import { sayYes, useMoves } from '../../cost/cost';
import { useCalendars, useLists } from '../../data/queries';
import { keyName } from '../../keys';
import { Code, Key } from '../../parts/signs';
import { DropTargets } from './DropTargets';
import { Fields } from './Fields';
import { BeforeItGoes } from './BeforeItGoes';
import { offeredFor } from './destinations';
import { useDrafts } from './draft';
import { useSelection } from './selection';
import { MoreAsks } from './MoreAsks';
import { proposalOf } from './proposal';
import type { TimeChoice } from './timeChoice';
import type { Decide } from './decide';

interface PaneProps {
  me: Me;
  today: string;
  line: IncomingLine;
  days: DayInfo[];
  choice: TimeChoice;
  dragging: boolean;
  /** What is marked: a destination is then for all of them. */
  together: readonly IncomingLine[];
  incoming: IncomingFull | undefined;
  decide: Decide;
  accept: () => void;
}

/** Narrower where the stack has no room beside it, and all there is on a telephone. */
const WIDE = 'w-80 shrink-0 @max-[1080px]/sort:w-[272px] @max-[640px]/sort:w-full';

/** The decision beside the sheet: the proposal, its fields, and every destination with its key. */
export const DecidePane = memo(function DecidePane(props: PaneProps): ReactNode {
  const { me, today, line, days, choice, dragging, together, incoming, decide, accept } = props;
  const draft = useDrafts((state) => state.drafts[line.id]);
  const panel = useDrafts((state) => state.panel);
  const { open } = useDrafts.getState();
  const proposal = proposalOf(line, draft);
  if (line.state === 'decided') {
    return (
      <aside aria-label="Decide" className={`${WIDE} border-l border-rule p-[18px] text-soft`}>
        This is decided already. What it became stands below the message.
      </aside>
    );
  }
  if (dragging) {
    return (
      <aside aria-label="Decide" className={`${WIDE} overflow-y-auto border-l border-rule p-[18px]`}>
        <DropTargets days={days} today={today} />
      </aside>
    );
  }
  const opened = { line, incoming, together: together.length > 0 };
  const inPane = { me, today, line, days, choice, when: draft?.when, incoming, proposal, decide };
  return (
    <aside
      aria-label="Decide"
      className={`${WIDE} overflow-y-auto border-l border-rule px-[18px] py-3 @max-[1080px]/sort:px-3 @max-[640px]/sort:border-t @max-[640px]/sort:border-l-0 @max-[640px]/sort:pb-20`}
    >
      {together.length ? (
        <Together lines={together} />
      ) : (
        <div className="sticky -top-3 z-[3] -mx-1 flow-root bg-paper px-1 pt-1 @max-[640px]/sort:static [@media(max-height:680px)]:static">
          <Card
            line={line}
            incoming={incoming}
            today={today}
            when={whenOf(me, today, proposal.day, choice)}
            list={proposal.list}
            accept={accept}
          >
            <Fields line={line} today={today} me={me} proposal={proposal} />
          </Card>
        </div>
      )}
      {!together.length && !line.twoVersions && <BeforeItGoes me={me} line={line} incoming={incoming} />}
      {incoming && !together.length && !line.twoVersions && <MoreAsks incoming={incoming} today={today} />}
      <ul className="border-t border-rule">
        {offeredFor(opened).map(({ to, key, hint, panel: asks, atOnce }) => {
          // While the message is still on its way, what its panel would ask is not known.
          const hasPanel = asks !== undefined && !(atOnce?.(opened) && (opened.together || !incoming));
          const isOpen = hasPanel && panel === to;
          return (
            <li key={to} className="border-b border-rule">
              <button
                type="button"
                aria-expanded={hasPanel ? isOpen : undefined}
                onClick={() => (hasPanel ? open(isOpen ? null : to) : void decide({ to }))}
                className={`flex h-7 w-full items-center gap-[10px] text-left ${isOpen ? 'bg-teal-wash font-semibold' : 'hover:bg-card'}`}
              >
                <span className="w-6 shrink-0">
                  <Key>{keyName(key)}</Key>
                </span>
                <span className="shrink-0">{DESTINATIONS[to].name}</span>
                <span className="ml-auto truncate text-xs font-normal text-soft">{together.length ? '' : hint(inPane)}</span>
              </button>
              {isOpen && (
                <div ref={inView} className="bg-teal-wash px-2 pt-1 pb-3" data-keeps-enter>
                  {asks(inPane)}
                </div>
              )}
            </li>
          );
        })}
      </ul>
    </aside>
  );
});

/** A panel that opens below the fold is scrolled to, as far as it must; once more when more of it is there. */
function inView(panel: HTMLDivElement | null): (() => void) | undefined {
  if (!panel) return undefined;
  const grows = new ResizeObserver(() => panel.scrollIntoView({ block: 'nearest' }));
  grows.observe(panel);
  return () => grows.disconnect();
}

function Together({ lines }: { lines: readonly IncomingLine[] }): ReactNode {
  const clear = useSelection((state) => state.clear);
  const senders = [...new Set(lines.map((line) => line.sender.name || line.sender.address || 'you'))];
  return (
    <section aria-label="Marked" className="mb-3 border border-plum bg-plum-wash p-3">
      <h2 className="font-head text-md font-semibold">{count(lines.length, 'thing')} marked</h2>
      <p className="mt-1 text-xs text-soft">
        From {senders.slice(0, 3).join(', ')}
        {senders.length > 3 ? ` and ${senders.length - 3} more` : ''}. What you choose below goes for all of them; one undo takes
        it back.
      </p>
      <button type="button" className="mt-2 text-xs underline underline-offset-2" onClick={clear}>
        Take the marks away <Key>Esc</Key>
      </button>
    </section>
  );
}

/** The proposed day, with the proposed time on it. */
export function whenOf(me: Me, today: string, day: string | null, { proposed }: TimeChoice): string {
  if (!proposed) return day ? sayDay(day, today) : '';
  return `${sayDay(dayOf(proposed.slot.start, me.zone), today)}, ${sayTime(proposed.slot.start, me.zone)}`;
}

/** The whole proposed decision; calm when nothing is sure. */
function Card({
  line,
  incoming,
  today,
  when,
  list,
  accept,
  children,
}: {
  line: IncomingLine;
  incoming: IncomingFull | undefined;
  today: string;
  /** The proposed day, with the proposed time on it. */
  when: string;
  list: string | null;
  accept: () => void;
  children: ReactNode;
}): ReactNode {
  const { suggestion } = line;
  const moves = useMoves(line, incoming);
  if (line.twoVersions)
    return (
      <section aria-label="Suggestion" className="mb-3">
        <h2 className="font-head text-md font-semibold">{plainSubject(line.subject)}</h2>
        <p className="mt-1">It was changed here and there. Which of both is kept is said beside them.</p>
      </section>
    );
  if (!suggestion?.sure) {
    const invited = suggestion?.to === 'answer';
    return (
      <section aria-label="Suggestion" className="mb-3">
        {children}
        <p className="mt-2 text-xs text-soft">
          {invited
            ? `${suggestion?.reasons[0] ?? ''}: say yes, maybe or no below.`.replace(/^./, (letter) => letter.toUpperCase())
            : 'Nothing like this was decided before, and the text names no day: choose below.'}
        </p>
      </section>
    );
  }
  const choosesList = suggestion.to === 'list' && !list;
  return (
    <section aria-label="Suggestion" className="mb-3 rounded-sm border border-teal bg-teal-wash px-3 pt-2 pb-3">
      {children}
      <p className="mt-2 flex flex-wrap items-baseline gap-x-2 font-semibold">
        <Where suggestion={{ ...suggestion, list }} when={when} today={today} moves={moves} />
      </p>
      <ul className="mt-[2px] mb-2 text-xs text-soft">
        {suggestion.reasons.slice(0, 4).map((reason) => (
          <li key={reason} className="pl-3 -indent-3">
            – {reason}
          </li>
        ))}
      </ul>
      <button
        type="button"
        className="flex w-full items-center justify-between rounded-sm bg-teal px-[11px] py-[5px] font-semibold text-on-teal"
        onClick={accept}
      >
        {choosesList ? 'Choose the list' : 'Do this'}
        <kbd className="rounded-sm border border-current px-1 font-sans text-xs" aria-hidden="true">
          Enter
        </kbd>
      </button>
    </section>
  );
}

/** Where something goes, in a few words with their codes. */
export function Where({
  suggestion,
  when,
  today,
  moves,
}: {
  suggestion: Suggestion;
  when: string;
  today: string;
  /** How much own time a yes would move. */
  moves: number;
}): ReactNode {
  const lists = useLists();
  const calendars = useCalendars();
  const list = lists.data?.find((one) => one.name === suggestion.list);
  const main = calendars.data?.find((one) => one.main);
  const parts: ReactNode[] = [];
  if (suggestion.to === 'event') {
    parts.push(<span key="e">Event {main && <Code code={main.code} hue={main.hue} />}</span>);
    if (suggestion.start)
      parts.push(
        <span key="s">
          {sayDay(suggestion.start.slice(0, 10), today)}, {sayClock(suggestion.start.slice(11))}
        </span>,
      );
  } else if (['list', 'day', 'time'].includes(suggestion.to)) {
    parts.push(
      list ? (
        <span key="l">
          {when ? '' : 'Task on '}
          <Code code={list.code} hue={list.hue} /> {list.name}
        </span>
      ) : (
        <span key="l">Task</span>
      ),
    );
    if (when) parts.push(<span key="d">{when}</span>);
  } else if (suggestion.to === 'answer' && moves) parts.push(<span key="y">{sayYes(moves)}</span>);
  else parts.push(<span key="o">{DESTINATIONS[suggestion.to].proposed ?? DESTINATIONS[suggestion.to].name}</span>);
  return parts.flatMap((part, at) =>
    at
      ? [
          <span key={`dot${at}`} className="text-soft">
            ·
          </span>,
          part,
        ]
      : [part],
  );
}
