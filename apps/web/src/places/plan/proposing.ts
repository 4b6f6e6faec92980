import type { PlanTaking, Proposal, ProposalQuery } from '@corvun/contract';
import { useEffect, useRef } from 'react';
import { create } from 'zustand';
import { propose, takePlan } from '../../data/planning';

interface Proposing {
  /** What was asked for; null: no plan is looked at. */
  query: ProposalQuery | null;
  answer: Proposal | null;
  /** Whether it is worked out just now. */
  busy: boolean;
  problem: Error | null;
  /** What is not to be done of it, by name; see `nameOf`. */
  not: ReadonlySet<string>;
}

const NOTHING: Proposing = { query: null, answer: null, busy: false, problem: null, not: new Set() };

/** A plan as it would be, while it is looked at; nothing of it is kept. */
export const useProposing = create<Proposing>(() => NOTHING);

/** Names what a plan would set aside or give back. */
export const nameOf = (one: { taskId: string; start: string } | { block: string; taskId: string; gone: true }): string =>
  'gone' in one ? `gone ${one.block}` : `${one.taskId} ${one.start}`;

/** Has a plan worked out. What was left out of the one before stays left out where it is the same. */
export async function begin(query: ProposalQuery): Promise<void> {
  useProposing.setState({ query, busy: true, problem: null });
  const latest = () => useProposing.getState().query === query;
  try {
    const answer = await propose(query);
    if (latest()) useProposing.setState({ answer, busy: false });
  } catch (problem) {
    if (latest()) useProposing.setState({ problem: problem instanceof Error ? problem : new Error(), busy: false, answer: null });
  }
}

export const leave = (): void => useProposing.setState(NOTHING);

/** Leaves something of the plan out, or takes it in again. */
export function turn(name: string): void {
  const not = new Set(useProposing.getState().not);
  if (!not.delete(name)) not.add(name);
  useProposing.setState({ not });
}

/** What is to be done of a plan. */
export function wanted({ blocks, gone }: Proposal, not: ReadonlySet<string>): PlanTaking & { gone: string[] } {
  return {
    blocks: blocks
      .filter((one) => !not.has(nameOf(one)))
      .map(({ taskId, start, minutes, block }) => ({ taskId, start, minutes, ...(block ? { block } : {}) })),
    gone: gone.filter((one) => !not.has(nameOf({ ...one, gone: true }))).map(({ block }) => block),
  };
}

/** Blocks that would leave where they stand. */
export function leaving({ blocks, gone }: Proposal, not: ReadonlySet<string>): Set<string> {
  const moved = blocks.filter((one) => one.block !== null && !not.has(nameOf(one))).map(({ block }) => block ?? '');
  return new Set([...moved, ...gone.filter((one) => !not.has(nameOf({ ...one, gone: true }))).map(({ block }) => block)]);
}

/** Does what is wanted of it. */
export async function take(): Promise<void> {
  const { answer, not, busy } = useProposing.getState();
  if (!answer || busy) return;
  useProposing.setState({ busy: true });
  const done = await takePlan(wanted(answer, not));
  if (done) leave();
  else useProposing.setState({ busy: false });
}

/** What is looked at is left when Plan is, and worked out again where the days have changed meanwhile. @param changed when they did */
export function useFresh(changed: number): void {
  const known = useRef(changed);
  useEffect(() => {
    const { query, busy } = useProposing.getState();
    if (known.current !== changed && query && !busy) void begin(query);
    known.current = changed;
  }, [changed]);
  useEffect(() => leave, []);
}
