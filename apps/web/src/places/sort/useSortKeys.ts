import type { IncomingFull, IncomingLine, Undecided } from '@corvun/contract';
import type { Destination } from '@corvun/core';
import { KEYS } from '../../keys';
import { useKeys } from '../../parts/useKeys';
import { destinationKeys } from './destinations';
import { openMail, useDrafts } from './draft';
import { turnAllAsks } from './MoreAsks';
import { firstPart, type TimeChoice } from './timeChoice';

interface SortKeys {
  current: IncomingLine | undefined;
  incoming: IncomingFull | undefined;
  lines: readonly IncomingLine[];
  panel: Destination | null;
  /** Whether several are marked. */
  together: boolean;
  choice: TimeChoice;
  /** What has its extra fields open. */
  beforeItGoes: string | null;
  move: (by: number) => void;
  select: (id: string | undefined) => void;
  turnMark: (id: string) => void;
  addMarks: (ids: string[]) => void;
  clearMarks: () => void;
  decide: (input: Undecided) => Promise<void>;
  turnSheet: () => void;
  /** Goes back to where the message was opened from. */
  back: (() => void) | null;
}

/** The keys of Sort. */
export function useSortKeys(sort: SortKeys): void {
  const { current, incoming, lines, panel, together, choice, beforeItGoes, move, select, decide } = sort;
  const { open, openBeforeItGoes } = useDrafts.getState();
  const waiting = current?.state === 'waiting' ? current : undefined;
  const digits = Object.fromEntries(choice.lit.map((gap) => [String(gap.number), () => choice.take(gap)]));
  useKeys({
    [KEYS.sort.next]: () => move(1),
    [KEYS.sort.previous]: () => move(-1),
    ...(panel ? {} : { Home: () => select(lines[0]?.id), End: () => select(lines.at(-1)?.id) }),
    Escape: () => (panel ? open(null) : together || !sort.back ? sort.clearMarks() : sort.back()),
    ...(waiting
      ? {
          [KEYS.sort.mark]: () => {
            sort.turnMark(waiting.id);
            move(1);
          },
          [KEYS.sort.markSender]: () =>
            sort.addMarks(lines.filter((line) => line.sender.address === waiting.sender.address).map((line) => line.id)),
          [KEYS.sort.markShown]: () => sort.addMarks(lines.map((line) => line.id)),
          ...destinationKeys({ line: waiting, incoming, together }, decide, open),
          ...(waiting.kind === 'mail'
            ? {
                [KEYS.sort.writeBack]: () => openMail(waiting.id, 'reply'),
                [KEYS.sort.passOn]: () => openMail(waiting.id, 'forward'),
              }
            : {}),
          [KEYS.sort.more]: () => {
            if (panel === 'time') choice.setSeveral(choice.several ? null : { minutes: firstPart(choice.minutes), starts: [] });
            else if (incoming) turnAllAsks(incoming);
          },
          [KEYS.sort.beforeItGoes]: () => openBeforeItGoes(beforeItGoes === waiting.id ? null : waiting.id),
          ...(waiting.kind === 'chat' ? { [KEYS.sort.writeBack]: () => document.getElementById('chat-reply')?.focus() } : {}),
          [KEYS.sort.name]: () => document.getElementById('decide-title')?.focus(),
          ...digits,
        }
      : {}),
    [KEYS.sort.turn]: sort.turnSheet,
    [KEYS.sort.original]: () => current && window.open(`/api/incoming/${current.id}/original`, '_self'),
  });
}
