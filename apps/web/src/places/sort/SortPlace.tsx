import type { IncomingLine, Me, Undecided } from '@corvun/contract';
import { dayOf, type NumberedGap } from '@corvun/core';
import { DndContext, DragOverlay } from '@dnd-kit/core';
import { useEffect, useMemo, useState, type ReactNode, useDeferredValue } from 'react';
import { useLocation, useNavigate, useParams } from 'react-router';
import { decide } from '../../data/actions';
import { beginImport } from '../../data/sources';
import { arrived, putBack, takeOut } from '../../data/inbox';
import { client, prefetchIncoming, useDays, useInbox, useIncoming } from '../../data/queries';
import { shownMoves } from '../../cost/cost';
import { Failed, Waiting } from '../../parts/states';
import { useStable } from '../../parts/useStable';
import { useNow } from '../../parts/useNow';
import { useSettings } from '../../state/settings';
import { DayStrip } from './DayStrip';
import { stripDays } from './strip-days';
import { DecidePane } from './DecidePane';
import { useDrafts } from './draft';
import { useSortDrag } from './useSortDrag';
import { useRoom } from './useRoom';
import { NO_DAYS, useTimeChoice } from './timeChoice';
import type { Decide } from './decide';
import { PhoneSort } from './PhoneSort';
import { decisionOf, proposalOf } from './proposal';
import { FileDrop } from './FileDrop';
import { useImportSentence } from './importSentence';
import { isShown, useSelection, type Only } from './selection';
import { NothingWaits } from './NothingWaits';
import { Sheet } from './Sheet';
import { Stack } from './Stack';
import { useAcceptKey } from './useAcceptKey';
import { useSortKeys } from './useSortKeys';

const NOTHING_TAKEN: number[] = [];
/** Milliseconds in which what was chosen is on the screen. */
const PAINTED = 60;
/** So many proposals after a decision are asked for again. */
const RENEWED = 8;

/** Where everything that arrived is read and decided, one at a time. */
export function SortPlace({ me }: { me: Me }): ReactNode {
  const navigate = useNavigate();
  const { id: wanted } = useParams();
  const isVisit = (useLocation().state as { back?: boolean } | null)?.back === true;
  const room = useRoom();
  const now = useNow();
  const today = dayOf(now, me.zone);
  const { order, setOrder } = useSettings();
  const inbox = useInbox(order);
  const { marked, only, turn: turnMark, add: addMarks, clear: clearMarks, setOnly } = useSelection();
  const loaded = useMemo(() => inbox.data?.pages.flatMap((page) => page.items) ?? [], [inbox.data]);
  const lines = useMemo(() => loaded.filter((line) => isShown(line, only)), [loaded, only]);
  const together = useMemo(() => lines.filter((line) => marked.has(line.id)), [lines, marked]);
  const total = inbox.data?.pages[0]?.total ?? 0;
  // What is not loaded yet may hold more of them.
  const least = only !== 'all' && inbox.hasNextPage ? 'at least ' : '';
  const says = only === 'all' ? `${total} to decide` : `${least}${lines.length} of ${total} to decide`;
  const selected = lines.find((line) => line.id === wanted) ?? (wanted ? undefined : lines[0]);
  const sheetId = wanted ?? selected?.id ?? null;
  const sheet = useIncoming(sheetId);
  const current = selected ?? (sheet.data?.id === sheetId ? sheet.data : undefined);
  const days = useDays(today, 14);
  const watch = useImportSentence();
  const panel = useDrafts((state) => state.panel);
  const beforeItGoes = useDrafts((state) => state.beforeItGoes);
  const { open, forget } = useDrafts.getState();
  const [dragged, setDragged] = useState<IncomingLine | null>(null);
  const [asSent, setAsSent] = useState(false);

  const select = useStable((id: string | undefined, replace?: boolean) => {
    open(null);
    setAsSent(false);
    void navigate(id ? `/sort/${id}` : '/sort', { replace: replace ?? false });
  });

  const index = lines.findIndex((line) => line.id === current?.id);
  useEffect(() => {
    // When this one is painted: what may come next can wait a moment.
    const timer = window.setTimeout(() => {
      for (const near of [lines[index + 1], lines[index + 2], lines[index - 1]]) if (near) void prefetchIncoming(near.id);
    }, PAINTED);
    return () => window.clearTimeout(timer);
  }, [index, lines]);

  /** Those who wrote are kept; what they wrote waits on. */
  const keepWhoWrote = async (of: readonly IncomingLine[]) => {
    open(null);
    await decide({ to: 'person', incoming: of.map((line) => line.id) });
  };

  const decideTogether = async (input: Undecided) => {
    if (input.to === 'person') return keepWhoWrote(together);
    const ids = together.map((line) => line.id);
    const rest = lines.filter((line) => !ids.includes(line.id));
    const last = lines.findIndex((line) => line.id === ids.at(-1));
    select((rest.find((line) => lines.indexOf(line) > last) ?? rest.at(-1))?.id, true);
    takeOut(ids);
    clearMarks();
    if (await decide({ ...input, incoming: ids })) return arrived(ids);
    putBack(together);
    addMarks(ids);
    select(ids[0], true);
    await client.invalidateQueries({ queryKey: ['inbox'] });
  };

  const decideOn: Decide = useStable(async (input, of = current) => {
    if (together.length && of?.id === current?.id && !('mail' in input)) return decideTogether(input);
    if (!of || of.state === 'decided') return;
    if (input.to === 'person') return keepWhoWrote([of]);
    const draft = useDrafts.getState().drafts[of.id];
    const proposal = proposalOf(of, draft);
    const at = lines.findIndex((line) => line.id === of.id);
    if (of.id === current?.id) select((lines[at + 1] ?? lines[at - 1])?.id, true);
    takeOut([of.id]);
    const done = await decide({ ...decisionOf(input, proposal, draft), incoming: [of.id] });
    if (done) {
      forget(of.id);
      // What was just decided is learnt at once: the proposals of the next ones may be others now.
      await arrived(
        [of.id],
        lines.slice(at + 1, at + 1 + RENEWED).map((line) => line.id),
      );
    } else {
      putBack([of]);
      select(of.id, true);
      await client.invalidateQueries({ queryKey: ['inbox'] });
    }
  });

  const timed = dragged ?? (panel === 'time' ? current : null) ?? null;
  const known = days.data ?? NO_DAYS;
  const shown = useMemo(() => stripDays(known, today), [known, today]);
  const choice = useTimeChoice({ me, now, free: days, shown, timed, current, decide: decideOn });

  const placeIn = useStable((gap: NumberedGap) => choice.take(gap, dragged ?? undefined));
  const accept = useStable(() => {
    if (together.length) return;
    const suggestion = current?.suggestion;
    if (!suggestion?.sure || !current) return;
    const { day, list } = proposalOf(current, useDrafts.getState().drafts[current.id]);
    if (suggestion.to === 'list' && !list) return open('list');
    if (suggestion.to === 'time') return choice.proposed ? choice.placeAt(choice.proposed.slot.start) : open('time');
    if (suggestion.to === 'answer')
      return void decideOn({ to: 'answer', reply: 'yes', ...shownMoves(sheet.data?.id === current.id ? sheet.data : undefined) });
    if (suggestion.to === 'event')
      return void decideOn({ to: 'event', ...(suggestion.start ? { start: suggestion.start } : {}) });
    if (suggestion.to === 'day') return void decideOn({ to: 'day', ...(day ? { day } : {}) });
    void decideOn({ to: suggestion.to });
  });

  const move = (by: number) => {
    const next = lines[Math.min(lines.length - 1, Math.max(0, index + by))];
    if (next) select(next.id);
  };
  useSortKeys({
    current,
    incoming: sheet.data?.id === current?.id ? sheet.data : undefined,
    lines,
    panel,
    together: together.length > 0,
    choice,
    beforeItGoes,
    back: isVisit ? () => void navigate(-1) : null,
    ...{ move, select, turnMark, addMarks, clearMarks, decide: decideOn, turnSheet: () => setAsSent((turned) => !turned) },
  });
  // Before it is known what is free, the key belongs to what is asked.
  useAcceptKey(accept, panel !== 'time' || days.data !== undefined);

  const { ghost, context } = useSortDrag(me, setDragged, choice, decideOn);
  const take = async (files: Iterable<File>) => {
    const runs = await beginImport(files);
    if (!runs) return;
    if (runs.some((run) => run.state === 'columns')) return void navigate('/sources/files');
    watch(runs.map((run) => run.id));
  };

  const takeFiles = useStable((files: Iterable<File>) => void take(files));
  const showOnly = useStable((value: Only) => {
    setOnly(value);
    select(undefined, true);
  });
  const turnOrder = useStable(() => {
    setOrder(order === 'oldest' ? 'newest' : 'oldest');
    select(undefined);
  });
  const more = useStable(() => {
    if (inbox.hasNextPage && !inbox.isFetchingNextPage) void inbox.fetchNextPage();
  });
  const retry = useStable(() => void sheet.refetch());
  const incoming = sheet.data?.id === current?.id ? sheet.data : undefined;
  // The message is painted first; what can be done with it follows in the next frame.
  const pane = useDeferredValue({ line: current, choice, together, incoming });

  if (inbox.isPending) return <Waiting what="Opening the inbox" />;
  if (inbox.error && !inbox.data) return <Failed problem={inbox.error} retry={() => void inbox.refetch()} />;
  const stack = (
    <Stack
      me={me}
      now={now}
      lines={lines}
      total={total}
      says={says}
      showOnly={showOnly}
      hidden={only === 'all' ? 0 : total - lines.length}
      selectedId={current?.id ?? null}
      order={order}
      turn={turnOrder}
      select={select}
      take={takeFiles}
      more={more}
    />
  );
  const opened = current ? (
    <Sheet
      me={me}
      today={today}
      incoming={incoming}
      line={current}
      problem={sheet.error}
      retry={retry}
      asSent={asSent}
      setAsSent={setAsSent}
      decide={decideOn}
    />
  ) : (
    <div className="flex-1 bg-card">
      {wanted && sheet.error ? (
        <Failed problem={sheet.error} retry={() => select(undefined)} next="Back to the stack" />
      ) : wanted && sheet.isPending ? null : (
        <NothingWaits me={me} />
      )}
    </div>
  );
  const decidePane = current && (
    <DecidePane
      me={me}
      today={today}
      days={known}
      dragging={dragged !== null}
      decide={decideOn}
      accept={accept}
      {...pane}
      line={pane.line ?? current}
    />
  );
  const strip = (
    <DayStrip
      me={me}
      now={now}
      days={shown}
      lit={choice.lit}
      taken={choice.several?.starts ?? NOTHING_TAKEN}
      place={placeIn}
      ghost={ghost}
    />
  );
  return (
    <FileDrop take={takeFiles}>
      <DndContext {...context} autoScroll={false}>
        {room !== 'all' ? (
          <PhoneSort
            {...{ me, today, incoming, order, move, says, accept, stack, pane: decidePane, strip }}
            beside={room === 'two'}
            line={current}
            days={known}
            choice={choice}
            decide={decideOn}
            sheet={opened}
          />
        ) : (
          <div className="@container/sort flex h-full flex-col">
            <h1 className="sr-only">Sort</h1>
            <div className="flex min-h-0 flex-1">
              {stack}
              {opened}
              {decidePane}
            </div>
            {strip}
          </div>
        )}
        <DragOverlay dropAnimation={null}>{dragged && <Dragged line={dragged} />}</DragOverlay>
      </DndContext>
    </FileDrop>
  );
}

/** What is under the pointer while an incoming is dragged. */
function Dragged({ line }: { line: IncomingLine }): ReactNode {
  const draft = useDrafts((state) => state.drafts[line.id]);
  return (
    <div className="w-[260px] truncate border border-plum bg-plum-wash px-3 py-2 font-semibold shadow-lg">
      {proposalOf(line, draft).title}
    </div>
  );
}
