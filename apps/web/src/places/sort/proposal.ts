import type { AlsoInput, DecideInput, IncomingLine } from '@corvun/contract';
import { DESTINATIONS, type Priority } from '@corvun/core';

/** What the user changed of a proposal before deciding. Absent: as proposed. */
export interface DecisionDraft {
  title?: string;
  deadline?: string | null;
  fixed?: boolean;
  minutes?: number | null;
  tags?: string[];
  priority?: Priority;
  /** Name of the list, where another than the proposed one was chosen; empty for none. */
  list?: string;
  notes?: string;
  steps?: string[];
  /** Ids of the attachments to carry along; absent: all. */
  keep?: string[];
  /** A repeat rule, and the words it was said in. */
  repeat?: { rule: string; words: string } | null;
  /** Taken from the text: where an event is, and whom something is handed to. */
  place?: string;
  /** Words of the text that say when: for an event, or for a day. */
  when?: string;
  handTo?: string;
  /** Other asks of the message that become tasks, too, by their number in it. */
  also?: Record<number, AlsoInput>;
  /** A mail being written. */
  mail?: { kind: 'reply' | 'forward'; text: string; to: string } | null;
}

export interface Proposal {
  title: string;
  deadline: string | null;
  fixed: boolean;
  minutes: number | null;
  tags: string[];
  priority: Priority;
  list: string | null;
  /** The proposed day, never after the deadline. */
  day: string | null;
}

/** The proposal with the user's changes. */
export function proposalOf(
  { suggestion, subject }: Pick<IncomingLine, 'suggestion' | 'subject'>,
  draft: DecisionDraft = {},
): Proposal {
  const deadline = draft.deadline === undefined ? (suggestion?.deadline ?? null) : draft.deadline;
  const last = deadline?.slice(0, 10);
  const day = suggestion?.day ?? null;
  return {
    title: draft.title ?? suggestion?.title ?? subject,
    deadline,
    day: day && last && last < day ? last : day,
    fixed: draft.fixed ?? suggestion?.deadlineFixed ?? false,
    minutes: draft.minutes === undefined ? (suggestion?.minutes ?? null) : draft.minutes,
    tags: draft.tags ?? suggestion?.tags ?? [],
    priority: draft.priority ?? suggestion?.priority ?? 'normal',
    list: draft.list === undefined ? (suggestion?.list ?? null) : draft.list || null,
  };
}

/** The fields every destination takes from the proposal. What is neither proposed nor said is left to the server. */
export function fieldsOf(
  { title, deadline, fixed, minutes, tags, priority, list }: Proposal,
  draft: DecisionDraft = {},
): Partial<DecideInput> {
  const said = <K extends 'deadline' | 'minutes'>(key: K, value: Proposal[K]) =>
    value !== null || draft[key] !== undefined ? { [key]: value } : {};
  return {
    ...(title.trim() ? { title: title.trim() } : {}),
    ...said('deadline', deadline),
    ...said('minutes', minutes),
    fixed,
    tags,
    priority,
    list: draft.list === '' ? '' : list,
    ...extrasOf(draft),
  };
}

/** What was put with it before it goes. */
function extrasOf({ notes, steps, keep, repeat }: DecisionDraft): Partial<DecideInput> {
  const said = (steps ?? []).map((step) => step.trim()).filter(Boolean);
  return {
    ...(notes?.trim() ? { notes: notes.trim() } : {}),
    ...(said.length ? { steps: said } : {}),
    ...(keep ? { keep } : {}),
    ...(repeat ? { repeat: repeat.rule } : {}),
  };
}

/** The other asks that were ticked, where the destination makes tasks at all. */
export function alsoOf(to: DecideInput['to'], { also = {} }: DecisionDraft = {}): Pick<DecideInput, 'also'> {
  const more = Object.values(also);
  return more.length && DESTINATIONS[to].makesTask ? { also: more } : {};
}

/** Whether anything was really changed: what was opened and left again is no change. */
export const isChanged = ({ mail, also, ...fields }: DecisionDraft = {}): boolean =>
  Boolean(mail) || Object.keys(also ?? {}).length > 0 || Object.values(fields).some((value) => value !== undefined);
