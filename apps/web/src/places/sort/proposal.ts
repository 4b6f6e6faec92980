import type { AlsoInput, DecidingTask, IncomingLine, TaskInput, Undecided } from '@corvun/contract';
import { DESTINATIONS, type Priority } from '@corvun/core';

/** A reply or a forward that is being written; one that is closed waits with its text to be gone on with. */
export interface MailDraft {
  kind: 'reply' | 'forward';
  text: string;
  to: string;
  closed?: boolean;
}

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
  mail?: MailDraft | null;
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

/** A decision with what is proposed and what was put with it, as far as its destination takes it. */
export function decisionOf(input: Undecided, proposal: Proposal, draft: DecisionDraft = {}): Undecided {
  const title = proposal.title.trim();
  const notes = draft.notes?.trim();
  const named = title ? { title } : {};
  const noted = notes ? { notes } : {};
  // Emptied by hand it stays empty: where a task's notes are absent, the server takes what the ask says of why.
  if (makesTask(input)) return { ...named, ...(notes === undefined ? {} : { notes }), ...taskFields(proposal, draft), ...input };
  if (input.to === 'event') return { ...named, ...noted, ...minutesOf(proposal, draft), ...input };
  return input.to === 'reference' ? { ...named, ...noted, ...input } : { ...named, ...input };
}

const makesTask = (input: Undecided): input is Omit<TaskInput, 'incoming'> => DESTINATIONS[input.to].makesTask;

const minutesOf = ({ minutes }: Proposal, draft: DecisionDraft) =>
  minutes !== null || draft.minutes !== undefined ? { minutes } : {};

/** What a task takes from the proposal. What is neither proposed nor said is left to the server. */
function taskFields(proposal: Proposal, draft: DecisionDraft): Partial<DecidingTask> {
  const { deadline, fixed, tags, priority, list } = proposal;
  const { steps = [], keep, repeat, also = {} } = draft;
  const said = steps.map((step) => step.trim()).filter(Boolean);
  const more = Object.values(also);
  return {
    ...(deadline !== null || draft.deadline !== undefined ? { deadline } : {}),
    ...minutesOf(proposal, draft),
    fixed,
    tags,
    priority,
    list: draft.list === '' ? '' : list,
    ...(said.length ? { steps: said } : {}),
    ...(keep ? { keep } : {}),
    ...(repeat ? { repeat: repeat.rule } : {}),
    ...(more.length ? { also: more } : {}),
  };
}

/** Whether anything was really changed: what was opened and left again is no change. */
export const isChanged = ({ mail, also, ...fields }: DecisionDraft = {}): boolean =>
  Boolean(mail) || Object.keys(also ?? {}).length > 0 || Object.values(fields).some((value) => value !== undefined);
