import type { IncomingLine, Me, Undecided } from '@corvun/contract';
import { dayOf, type NumberedGap } from '@corvun/core';
import {
  DndContext,
  DragOverlay,
  PointerSensor,
  pointerWithin,
  useSensor,
  useSensors,
  type DragEndEvent,
  type DragStartEvent,
} from '@dnd-kit/core';
import { useCallback, useEffect, useMemo, useState, type ReactNode } from 'react';
import { useNavigate, useParams } from 'react-router';
import { decide } from '../../data/actions';
import { beginImport } from '../../data/sources';
import { arrived, putBack, takeOut } from '../../data/inbox';
import { client, prefetchIncoming, useDays, useInbox, useIncoming } from '../../data/queries';
import { KEYS } from '../../keys';
import { Failed, Waiting } from '../../parts/states';
import { useKeys } from '../../parts/useKeys';
import { useNow } from '../../parts/useNow';
import { useSettings } from '../../state/settings';
import { DayStrip } from './DayStrip';
import { stripDays } from './strip-days';
import { DecidePane } from './DecidePane';
import { destinationKeys } from './destinations';
import { useDrafts } from './draft';
import { turnAllAsks } from './MoreAsks';
import { firstPart, useTimeChoice } from './timeChoice';
import type { Decide } from './decide';
import { decisionOf, proposalOf } from './proposal';
import { openMail } from './WriteBack';
import { FileDrop } from './FileDrop';
import { useImportSentence } from './importSentence';
import { isShown, useMarks } from './marks';
import { NothingWaits } from './NothingWaits';
import { Sheet } from './Sheet';
import { Stack } from './Stack';
import { useAcceptKey } from './useAcceptKey';

/** So many proposals after a decision are asked for again. */
const RENEWED = 8;

/** Where everything that arrived is read and decided, one at a time. */
export function SortPlace({ me }: { me: Me }): ReactNode {
  const navigate = useNavigate();
  const { id: wanted } = useParams();
  const now = useNow();
  const today = dayOf(now, me.zone);
  const { order, setOrder } = useSettings();
  const inbox = useInbox(order);
  const { marked, only, turn: turnMark, add: addMarks, clear: clearMarks, setOnly } = useMarks();
  const loaded = useMemo(() => inbox.data?.pages.flatMap((page) => page.items) ?? [], [inbox.data]);
  const lines = useMemo(() => loaded.filter((line) => isShown(line, only)), [loaded, only]);
  const together = useMemo(() => lines.filter((line) => marked.has(line.id)), [lines, marked]);
  const total = inbox.data?.pages[0]?.total ?? 0;
  const selected = lines.find((line) => line.id === wanted) ?? (wanted ? undefined : lines[0]);
  const sheetId = wanted ?? selected?.id ?? null;
  const sheet = useIncoming(sheetId);
  const current = selected ?? (sheet.data?.id === sheetId ? sheet.data : undefined);
  const days = useDays(today, 14);
  const watch = useImportSentence();
  const { drafts, panel, open, forget, extras, openExtras } = useDrafts();
  const [dragged, setDragged] = useState<IncomingLine | null>(null);
  const [asSent, setAsSent] = useState(false);

  const select = useCallback(
    (id: string | undefined, replace = false) => {
      open(null);
      setAsSent(false);
      void navigate(id ? `/sort/${id}` : '/sort', { replace });
    },
    [navigate, open],
  );

  const index = lines.findIndex((line) => line.id === current?.id);
  useEffect(() => {
    for (const near of [lines[index + 1], lines[index + 2], lines[index - 1]]) if (near) void prefetchIncoming(near.id);
  }, [index, lines]);

  const decideTogether = useCallback(
    async (input: Undecided) => {
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
    },
    [together, lines, select, clearMarks, addMarks],
  );

  const decideOn: Decide = useCallback(
    async (input, of = current) => {
      if (together.length && of?.id === current?.id && !('mail' in input)) return decideTogether(input);
      if (!of || of.state === 'decided') return;
      const proposal = proposalOf(of, drafts[of.id]);
      const at = lines.findIndex((line) => line.id === of.id);
      if (of.id === current?.id) select((lines[at + 1] ?? lines[at - 1])?.id, true);
      takeOut([of.id]);
      const done = await decide({ ...decisionOf(input, proposal, drafts[of.id]), incoming: [of.id] });
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
    },
    [current, drafts, forget, lines, select, together, decideTogether],
  );

  const timed = dragged ?? (panel === 'time' ? current : null) ?? null;
  const shown = stripDays(days.data ?? [], today);
  const choice = useTimeChoice({ me, now, days: days.data ?? [], shown, timed, current, decide: decideOn });

  const accept = () => {
    if (together.length) return;
    const suggestion = current?.suggestion;
    if (!suggestion?.sure || !current) return;
    const { day, list } = proposalOf(current, drafts[current.id]);
    if (suggestion.to === 'list' && !list) return open('list');
    if (suggestion.to === 'time') return choice.proposed ? choice.placeAt(choice.proposed.slot.start) : open('time');
    if (suggestion.to === 'answer') return void decideOn({ to: 'answer', reply: 'yes' });
    if (suggestion.to === 'event')
      return void decideOn({ to: 'event', ...(suggestion.start ? { start: suggestion.start } : {}) });
    if (suggestion.to === 'day') return void decideOn({ to: 'day', ...(day ? { day } : {}) });
    void decideOn({ to: suggestion.to });
  };

  const move = (by: number) => {
    const next = lines[Math.min(lines.length - 1, Math.max(0, index + by))];
    if (next) select(next.id);
  };
  const digits = Object.fromEntries(choice.lit.map((gap) => [String(gap.number), () => choice.take(gap)]));
  useKeys({
    [KEYS.next]: () => move(1),
    [KEYS.previous]: () => move(-1),
    ...(panel ? {} : { Home: () => select(lines[0]?.id), End: () => select(lines.at(-1)?.id) }),
    Escape: () => (panel ? open(null) : clearMarks()),
    ...(current?.state === 'waiting'
      ? {
          [KEYS.mark]: () => {
            turnMark(current.id);
            move(1);
          },
          [KEYS.markSender]: () =>
            addMarks(lines.filter((line) => line.sender.address === current.sender.address).map((line) => line.id)),
          [KEYS.markShown]: () => addMarks(lines.map((line) => line.id)),
        }
      : {}),
    ...(current && current.state === 'waiting'
      ? {
          ...destinationKeys(
            { line: current, incoming: sheet.data?.id === current.id ? sheet.data : undefined, together: together.length > 0 },
            decideOn,
            open,
          ),
          ...(current.kind === 'mail'
            ? { [KEYS.writeBack]: () => openMail(current.id, 'reply'), [KEYS.passOn]: () => openMail(current.id, 'forward') }
            : {}),
          [KEYS.more]: () => {
            if (panel === 'time') choice.setSeveral(choice.several ? null : { minutes: firstPart(choice.minutes), starts: [] });
            else if (sheet.data?.id === current.id) turnAllAsks(sheet.data);
          },
          [KEYS.extras]: () => openExtras(extras === current.id ? null : current.id),
          ...(current.kind === 'chat' ? { [KEYS.writeBack]: () => document.getElementById('chat-reply')?.focus() } : {}),
          [KEYS.name]: () => document.getElementById('decide-title')?.focus(),
          ...digits,
        }
      : {}),
    [KEYS.turn]: () => setAsSent((turned) => !turned),
    [KEYS.original]: () => current && window.open(`/api/incoming/${current.id}/original`, '_self'),
  });
  useAcceptKey(accept);

  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 6 } }));
  const onDragStart = ({ active }: DragStartEvent) => setDragged((active.data.current as { line: IncomingLine }).line);
  const onDragEnd = ({ over, active }: DragEndEvent) => {
    setDragged(null);
    const { line } = active.data.current as { line: IncomingLine };
    const target = over?.data.current as { input?: Undecided; gap?: NumberedGap } | undefined;
    if (target?.gap) choice.take(target.gap, line);
    else if (target?.input) void decideOn(target.input, line);
  };
  const take = async (files: Iterable<File>) => {
    const runs = await beginImport(files);
    if (!runs) return;
    if (runs.some((run) => run.state === 'columns')) return void navigate('/sources/files');
    watch(runs.map((run) => run.id));
  };

  if (inbox.isPending) return <Waiting what="Opening the inbox" />;
  if (inbox.error && !inbox.data) return <Failed problem={inbox.error} retry={() => void inbox.refetch()} />;
  return (
    <FileDrop take={(files) => void take(files)}>
      <DndContext
        sensors={sensors}
        collisionDetection={pointerWithin}
        onDragStart={onDragStart}
        onDragEnd={onDragEnd}
        onDragCancel={() => setDragged(null)}
        autoScroll={false}
      >
        <div className="flex h-full flex-col max-md:h-auto max-md:min-h-full">
          <h1 className="sr-only">Sort</h1>
          <div className="flex min-h-0 flex-1 max-lg:flex-wrap max-lg:overflow-y-auto max-md:overflow-visible">
            <Stack
              me={me}
              now={now}
              lines={lines}
              total={total}
              showOnly={(value) => {
                setOnly(value);
                select(undefined, true);
              }}
              hidden={only === 'all' ? 0 : total - lines.length}
              selectedId={current?.id ?? null}
              order={order}
              turn={() => {
                setOrder(order === 'oldest' ? 'newest' : 'oldest');
                select(undefined);
              }}
              select={select}
              take={(files) => void take(files)}
              more={() => {
                if (inbox.hasNextPage && !inbox.isFetchingNextPage) void inbox.fetchNextPage();
              }}
            />
            {current ? (
              <>
                <Sheet
                  me={me}
                  today={today}
                  incoming={sheet.data?.id === current.id ? sheet.data : undefined}
                  line={current}
                  problem={sheet.error}
                  retry={() => void sheet.refetch()}
                  asSent={asSent}
                  setAsSent={setAsSent}
                  decide={decideOn}
                />
                <DecidePane
                  me={me}
                  today={today}
                  line={current}
                  days={days.data ?? []}
                  choice={choice}
                  dragging={dragged !== null}
                  together={together}
                  incoming={sheet.data?.id === current.id ? sheet.data : undefined}
                  decide={decideOn}
                  accept={accept}
                />
              </>
            ) : wanted && sheet.error ? (
              <div className="flex-1 bg-card">
                <Failed problem={sheet.error} retry={() => select(undefined)} next="Back to the stack" />
              </div>
            ) : (
              <div className="flex-1 bg-card">{wanted && sheet.isPending ? null : <NothingWaits me={me} />}</div>
            )}
          </div>
          <DayStrip
            me={me}
            now={now}
            days={shown}
            lit={choice.lit}
            taken={choice.several?.starts ?? []}
            place={(gap) => choice.take(gap, dragged ?? undefined)}
          />
        </div>
        <DragOverlay dropAnimation={null}>
          {dragged && (
            <div className="w-[260px] truncate border border-plum bg-plum-wash px-3 py-2 font-semibold shadow-lg">
              {proposalOf(dragged, drafts[dragged.id]).title}
            </div>
          )}
        </DragOverlay>
      </DndContext>
    </FileDrop>
  );
}
