import type { IncomingLine, Me } from '@corvun/contract';
import { count, dayOf, plainSubject, sayAge, sayMinutes } from '@corvun/core';
import { useDraggable } from '@dnd-kit/core';
import { useVirtualizer } from '@tanstack/react-virtual';
import {
  ArrowDownUp,
  CalendarPlus,
  CalendarSync,
  FileUp,
  Mail,
  MessageSquareText,
  NotebookText,
  Paperclip,
  PenLine,
  Scissors,
  SquareKanban,
} from 'lucide-react';
import { memo, useCallback, useEffect, useLayoutEffect, useRef, type MouseEvent, type ReactNode } from 'react';
import { Deadline } from '../../parts/signs';
import { useDrafts } from './draft';
import { isChanged } from './proposal';
import { useStays } from './useStays';
import { ONLY, useSelection, type Only } from './selection';

/** Pixels. */
const [ROW, ROW_CLOSE] = [74, 67];

interface StackProps {
  me: Me;
  now: number;
  lines: IncomingLine[];
  total: number;
  /** How many are to be decided, in words. */
  says: string;
  /** How many wait behind the filter. */
  hidden: number;
  showOnly: (only: Only) => void;
  selectedId: string | null;
  order: 'oldest' | 'newest';
  turn: () => void;
  select: (id: string) => void;
  take: (files: Iterable<File>) => void;
  more: () => void;
}

/** The queue: who, what, how old, where from. Only what is in view is drawn, so that ten thousand stay smooth. */
export const Stack = memo(function Stack({
  me,
  now,
  lines,
  total,
  says,
  hidden,
  showOnly,
  selectedId,
  order,
  turn,
  select,
  take,
  more,
}: StackProps): ReactNode {
  const only = useSelection((state) => state.only);
  const scroller = useRef<HTMLDivElement>(null);
  const picker = useRef<HTMLInputElement>(null);
  const latest = useRef({ lines, selectedId });
  useLayoutEffect(() => {
    latest.current = { lines, selectedId };
  });
  const height = me.settings.density === 'close' ? ROW_CLOSE : ROW;
  const rows = useVirtualizer({
    count: lines.length,
    getScrollElement: () => scroller.current,
    estimateSize: () => height,
    overscan: 8,
    getItemKey: (at) => lines[at]?.id ?? at,
  });
  const touched = useCallback(
    (id: string, { ctrlKey, metaKey, shiftKey }: Pick<MouseEvent, 'ctrlKey' | 'metaKey' | 'shiftKey'>) => {
      const { marking, turn: mark, add } = useSelection.getState();
      const ids = latest.current.lines.map((line) => line.id);
      const [from, to] = [ids.indexOf(latest.current.selectedId ?? ''), ids.indexOf(id)].sort((a, b) => a - b);
      if (shiftKey && from !== undefined && from >= 0) add(ids.slice(from, (to ?? from) + 1));
      else if (marking || ctrlKey || metaKey) mark(id);
      else select(id);
    },
    [select],
  );
  const look = useStays(scroller, lines, order, height);
  const items = rows.getVirtualItems();
  const lastShown = items.at(-1)?.index ?? 0;
  useEffect(() => {
    if (lastShown > lines.length - 30) more();
  }, [lastShown, lines.length, more]);
  const at = lines.findIndex((line) => line.id === selectedId);
  useEffect(() => {
    if (at >= 0) rows.scrollToIndex(at, { align: 'auto' });
  }, [at, rows]);
  return (
    <section
      aria-label="Stack"
      className="flex w-[300px] shrink-0 flex-col border-r border-rule min-h-0 @max-[1080px]/sort:w-auto @max-[1080px]/sort:flex-1 @max-[1080px]/sort:border-r-0"
    >
      <header className="flex h-9 shrink-0 items-center justify-between gap-2 pr-2 pl-4 text-xs text-soft">
        <span>
          {says}, {order} first
        </span>
        <span className="flex">
          <select
            aria-label="Show"
            title="Show only some"
            className={`w-[74px] bg-transparent text-xs ${only === 'all' ? '' : 'font-semibold text-teal'}`}
            value={only}
            onChange={(event) => showOnly(event.target.value as Only)}
          >
            {Object.entries(ONLY).map(([value, name]) => (
              <option key={value} value={value} className="bg-card text-ink">
                {name}
              </option>
            ))}
          </select>
          <button
            type="button"
            className="grid size-7 place-items-center hover:text-ink"
            aria-label={order === 'oldest' ? 'Show the newest first' : 'Show the oldest first'}
            title="Turn the order"
            onClick={turn}
          >
            <ArrowDownUp size={14} aria-hidden="true" />
          </button>
          <button
            type="button"
            className="grid size-7 place-items-center hover:text-ink"
            aria-label="Take in files"
            title="Take in files: .eml, mbox, .ics, .vcf, .csv, .md"
            onClick={() => picker.current?.click()}
          >
            <FileUp size={14} aria-hidden="true" />
          </button>
          <input
            ref={picker}
            type="file"
            multiple
            accept=".eml,.mbox,.ics,.vcf,.csv,.md"
            className="hidden"
            aria-label="Files"
            onChange={(event) => {
              if (event.target.files) take([...event.target.files]);
              event.target.value = '';
            }}
          />
        </span>
      </header>
      <div ref={scroller} className="relative min-h-0 flex-1 overflow-y-auto" onScroll={look}>
        <ul aria-label="Waiting" className="relative" style={{ height: rows.getTotalSize() }}>
          {items.map((item) => {
            const line = lines[item.index];
            return (
              line && (
                <Row
                  key={item.key}
                  me={me}
                  now={now}
                  line={line}
                  top={item.start}
                  height={height}
                  place={item.index + 1}
                  total={total}
                  selected={line.id === selectedId}
                  touched={touched}
                />
              )
            );
          })}
        </ul>
        {hidden > 0 && (
          <p className="px-4 py-3 text-xs text-soft" role="status">
            {hidden} more behind the filter “{ONLY[only]}”.{' '}
            <button type="button" className="underline underline-offset-2" onClick={() => showOnly('all')}>
              Show everything
            </button>
          </p>
        )}
      </div>
    </section>
  );
});

interface RowProps {
  me: Me;
  now: number;
  line: IncomingLine;
  top: number;
  height: number;
  place: number;
  total: number;
  selected: boolean;
  touched: (id: string, event: MouseEvent) => void;
}

const ICONS: Partial<Record<IncomingLine['kind'], typeof Mail>> = {
  typed: PenLine,
  chat: MessageSquareText,
  invitation: CalendarPlus,
  card: SquareKanban,
  'note-line': NotebookText,
  'feed-entry': CalendarSync,
  clipped: Scissors,
};

/** Where a line stands; its content is drawn anew only when that changes, not when all move up. */
function Row({ top, height, place, total, ...content }: RowProps): ReactNode {
  return (
    <li className="absolute inset-x-0 pl-3" style={{ top, height }} aria-setsize={total} aria-posinset={place}>
      <RowContent {...content} />
    </li>
  );
}

const RowContent = memo(function RowContent({
  me,
  now,
  line,
  selected,
  touched,
}: Omit<RowProps, 'top' | 'height' | 'place' | 'total'>): ReactNode {
  const { setNodeRef, listeners, isDragging } = useDraggable({ id: `line-${line.id}`, data: { line } });
  const marked = useSelection((state) => state.marked.has(line.id));
  const changed = useDrafts((state) => isChanged(state.drafts[line.id]));
  const Icon = ICONS[line.kind] ?? Mail;
  const sender = line.kind === 'typed' ? 'You' : line.sender.name || line.sender.address || 'Unknown sender';
  return (
    <>
      {selected && (
        <span
          className="absolute top-[29px] left-0 z-10 border-y-8 border-l-8 border-y-transparent border-l-ink"
          aria-hidden="true"
        />
      )}
      <button
        ref={setNodeRef}
        type="button"
        {...listeners}
        aria-current={selected ? 'true' : undefined}
        onClick={(event) => touched(line.id, event)}
        className={`block h-full w-full touch-manipulation border-t border-rule px-3 py-2 text-left select-none ${selected ? 'border-l bg-card' : 'border-l border-l-transparent hover:bg-card/60'} ${isDragging ? 'opacity-40' : ''} ${marked ? 'bg-plum-wash' : ''}`}
      >
        <span className="flex items-baseline gap-2">
          <Icon size={14} className="translate-y-[2px] shrink-0" aria-hidden="true" />
          <b className="truncate font-semibold">{sender}</b>
          {marked && <span className="shrink-0 bg-plum px-1 text-xs text-paper">marked</span>}
          <span className="ml-auto shrink-0 text-xs text-soft">{sayAge(Date.parse(line.received), now)}</span>
        </span>
        <span className="block truncate">{line.subject ? plainSubject(line.subject) : 'No subject'}</span>
        <span className="flex gap-2 truncate text-xs text-soft">
          <Summary line={line} today={dayOf(now, me.zone)} />
          {changed && <span className="text-teal">changed</span>}
        </span>
      </button>
    </>
  );
});

function Summary({ line, today }: { line: IncomingLine; today: string }): ReactNode {
  const { asks, deadline, deadlineFixed, minutes } = line.summary;
  const quiet = line.note
    ? ''
    : line.bulk
      ? 'sent to many'
      : line.kind === 'typed'
        ? 'typed'
        : asks || deadline
          ? ''
          : 'asks nothing';
  return (
    <>
      {line.note && (
        <span className="truncate text-plum" title={line.note}>
          {line.note}
        </span>
      )}
      {asks > 0 && !line.note && <span>{count(asks, 'ask')}</span>}
      {deadline && <Deadline deadline={deadline} fixed={deadlineFixed} today={today} />}
      {minutes !== null && <span>{sayMinutes(minutes)}</span>}
      {quiet && <span>{quiet}</span>}
      {line.attachments > 0 && (
        <span className="inline-flex items-center gap-[2px]">
          <Paperclip size={11} aria-hidden="true" />
          {count(line.attachments, 'file')}
        </span>
      )}
    </>
  );
}
