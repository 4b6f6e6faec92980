import type { DayInfo, IncomingFull, IncomingLine, Me } from '@corvun/contract';
import { count, dayOf, sayDay, sayMinutes, sayTime, type Suggestion } from '@corvun/core';
import type { ReactNode } from 'react';
import { useCalendars, useLists } from '../../data/queries';
import { KEYS, keyName } from '../../keys';
import { Code, Key } from '../../parts/marks';
import { DropTargets } from './DropTargets';
import { Fields } from './Fields';
import { AnswerPanel } from './AnswerPanel';
import { BeforeItGoes } from './BeforeItGoes';
import { EventPanel } from './EventPanel';
import { DonePanel, ReferencePanel } from './keepPanels';
import { DayPanel, ListPanel, ShelfPanel } from './panels';
import { HandOverPanel, PersonPanel } from './peoplePanels';
import { useDrafts, type Panel } from './draft';
import { useMarks } from './marks';
import { MoreAsks } from './MoreAsks';
import { proposalOf } from './proposal';
import { TimePanel } from './TimePanel';
import type { TimeChoice } from './timeChoice';
import type { Decide } from './SortPlace';

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

interface DestinationRow {
  key: string;
  name: string;
  hint: string;
  panel?: Panel;
  run?: () => void;
}

/** The decision beside the sheet: the proposal, its fields, and every destination with its key. */
export function DecidePane(props: PaneProps): ReactNode {
  const { me, today, line, days, choice, dragging, together, incoming, decide, accept } = props;
  const { drafts, panel, open } = useDrafts();
  const proposal = proposalOf(line, drafts[line.id]);
  const { suggestion } = line;
  if (line.state === 'decided') {
    return (
      <aside aria-label="Decide" className="w-80 shrink-0 border-l border-rule p-[18px] text-soft max-md:w-full">
        This is decided already. What it became stands below the message.
      </aside>
    );
  }
  if (dragging) {
    return (
      <aside aria-label="Decide" className="w-80 shrink-0 overflow-y-auto border-l border-rule p-[18px] max-md:w-full">
        <DropTargets days={days} today={today} />
      </aside>
    );
  }
  const rows: DestinationRow[] = [
    ...(line.kind === 'invitation' && suggestion?.to === 'answer'
      ? [{ key: KEYS.answer, name: 'Answer', hint: 'yes, maybe, no', panel: 'answer' as const }]
      : []),
    { key: KEYS.list, name: 'List', hint: proposal.list ?? '', panel: 'list' },
    { key: KEYS.day, name: 'Day', hint: 'or any day of a week', panel: 'day' },
    {
      key: KEYS.time,
      name: 'Time',
      hint: choice.gaps.length
        ? `${sayMinutes(choice.minutes)} fits in ${choice.gaps.length === 9 ? '9 gaps or more' : count(choice.gaps.length, 'gap')}`
        : 'no gap is long enough',
      panel: 'time',
    },
    { key: KEYS.event, name: 'Event', hint: 'in the calendar', panel: 'event' },
    { key: KEYS.handOver, name: 'Hand over', hint: 'then wait for it', panel: 'hand-over' },
    {
      key: KEYS.person,
      name: 'Person',
      hint: `${line.sender.name || line.sender.address}${incoming?.person ? ', known' : ''}`,
      ...(incoming && !together.length ? { panel: 'person' as const } : { run: () => void decide({ to: 'person' }) }),
    },
    { key: KEYS.shelf, name: 'Shelf', hint: 'look again …', panel: 'shelf' },
    { key: KEYS.reference, name: 'Reference', hint: 'findable, or in a note', panel: 'reference' },
    { key: KEYS.done, name: 'Done already', hint: 'and how long it took', panel: 'done' },
    { key: KEYS.drop, name: 'Drop', hint: '', run: () => void decide({ to: 'drop' }) },
  ];
  return (
    <aside
      aria-label="Decide"
      className="w-80 shrink-0 overflow-y-auto border-l border-rule px-[18px] py-3 max-lg:w-full max-lg:border-t max-lg:border-l-0 max-md:pb-20"
    >
      {together.length ? (
        <Together lines={together} />
      ) : (
        <Card line={line} today={today} when={whenOf(me, today, proposal.day, choice)} list={proposal.list} accept={accept}>
          <Fields line={line} today={today} me={me} proposal={proposal} />
        </Card>
      )}
      {!together.length && <BeforeItGoes me={me} line={line} incoming={incoming} />}
      {incoming && !together.length && <MoreAsks incoming={incoming} today={today} />}
      <ul className="border-t border-rule">
        {(together.length ? rows.filter(({ name }) => !SINGLE.has(name)) : rows).map((row) => {
          const isOpen = panel === row.panel && row.panel !== undefined;
          return (
            <li key={row.key} className="border-b border-rule">
              <button
                type="button"
                aria-expanded={row.panel ? isOpen : undefined}
                onClick={() => (row.run ? row.run() : open(isOpen ? null : (row.panel ?? null)))}
                className={`flex h-7 w-full items-center gap-[10px] text-left ${isOpen ? 'bg-teal-wash font-semibold' : 'hover:bg-card'}`}
              >
                <span className="w-6 shrink-0">
                  <Key>{keyName(row.key)}</Key>
                </span>
                <span className="shrink-0">{row.name}</span>
                <span className="ml-auto truncate text-xs font-normal text-soft">{together.length ? '' : row.hint}</span>
              </button>
              {isOpen && (
                <div ref={inView} className="bg-teal-wash px-2 pt-1 pb-3" data-keeps-enter>
                  {row.panel === 'list' && (
                    <ListPanel proposed={proposal.list} choose={(list) => void decide({ to: 'list', list })} />
                  )}
                  {row.panel === 'day' && (
                    <DayPanel
                      key={`${line.id} ${drafts[line.id]?.when ?? ''}`}
                      me={me}
                      today={today}
                      days={days}
                      words={drafts[line.id]?.when}
                      decide={decide}
                    />
                  )}
                  {row.panel === 'time' && <TimePanel me={me} today={today} choice={choice} />}
                  {row.panel === 'event' && (
                    <EventPanel
                      key={line.id}
                      me={me}
                      line={line}
                      minutes={proposal.minutes}
                      proposedPlace={incoming?.facts.places?.[0]?.text ?? ''}
                      decide={decide}
                    />
                  )}
                  {row.panel === 'answer' && <AnswerPanel me={me} decide={decide} />}
                  {row.panel === 'hand-over' && <HandOverPanel key={line.id} me={me} line={line} decide={decide} />}
                  {row.panel === 'person' && incoming && <PersonPanel incoming={incoming} decide={decide} />}
                  {row.panel === 'reference' && <ReferencePanel decide={decide} />}
                  {row.panel === 'done' && <DonePanel decide={decide} />}
                  {row.panel === 'shelf' && <ShelfPanel today={today} decide={decide} />}
                </div>
              )}
            </li>
          );
        })}
      </ul>
    </aside>
  );
}

/** A panel that opens below the fold is scrolled to, as far as it must. */
const inView = (panel: HTMLDivElement | null): void => panel?.scrollIntoView({ block: 'nearest' });

/** Destinations that need a time or an answer of its own for each. */
const SINGLE = new Set(['Answer', 'Time', 'Event']);

function Together({ lines }: { lines: readonly IncomingLine[] }): ReactNode {
  const clear = useMarks((state) => state.clear);
  const senders = [...new Set(lines.map((line) => line.sender.name || line.sender.address || 'you'))];
  return (
    <section aria-label="Marked" className="mb-3 border border-plum bg-plum-wash p-3">
      <h3 className="font-head text-md font-semibold">{count(lines.length, 'thing')} marked</h3>
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

function whenOf(me: Me, today: string, day: string | null, { proposed }: TimeChoice): string {
  if (!proposed) return day ? sayDay(day, today) : '';
  return `${sayDay(dayOf(proposed.slot.start, me.zone), today)}, ${sayTime(proposed.slot.start, me.zone)}`;
}

/** The whole proposed decision; calm when nothing is sure. */
function Card({
  line,
  today,
  when,
  list,
  accept,
  children,
}: {
  line: IncomingLine;
  today: string;
  /** The proposed day, with the proposed time on it. */
  when: string;
  list: string | null;
  accept: () => void;
  children: ReactNode;
}): ReactNode {
  const { suggestion } = line;
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
        <Where suggestion={{ ...suggestion, list }} when={when} today={today} />
      </p>
      <ul className="mt-[2px] mb-2 text-xs text-soft">
        {suggestion.reasons.slice(0, 4).map((reason) => (
          <li key={reason} className="truncate" title={reason}>
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

const PLAIN: Partial<Record<Suggestion['to'], string>> = {
  drop: 'Drop it',
  reference: 'Keep it for reference',
  shelf: 'Put it on the shelf',
  done: 'Done already',
  'hand-over': 'Hand it over',
  answer: 'Say yes',
  person: 'Keep the sender as a person',
};

function Where({ suggestion, when, today }: { suggestion: Suggestion; when: string; today: string }): ReactNode {
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
          {sayDay(suggestion.start.slice(0, 10), today)}, {suggestion.start.slice(11)}
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
  } else parts.push(<span key="o">{PLAIN[suggestion.to] ?? suggestion.to}</span>);
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
