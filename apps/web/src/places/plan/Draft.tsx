import type { Me, Proposal, ProposalQuery, ProposedBlock } from '@corvun/contract';
import { count, dayOf, sayDay, sayMinutes, sayTime } from '@corvun/core';
import { useEffect, useLayoutEffect, useRef, type ReactNode } from 'react';
import { Link } from 'react-router';
import { Key } from '../../parts/signs';
import { Failed } from '../../parts/states';
import { useOpenTask } from '../../sheets/open';
import { usePlanning } from './planning';
import { begin, leave, nameOf, take, turn, useProposing, wanted } from './proposing';

type What = NonNullable<ProposalQuery['what']>;

/** The plan that is looked at, in words: what of it is wanted, and what finds no place. */
export function Draft({ me, today }: { me: Me; today: string }): ReactNode {
  const { query, answer, busy, problem, not } = useProposing();
  const frame = useRef<HTMLFormElement>(null);
  const submit = useRef<HTMLButtonElement>(null);
  // What is said stands above it.
  useLayoutEffect(() => {
    const draftBar = frame.current?.offsetHeight ?? 0;
    if (usePlanning.getState().draftBar !== draftBar) usePlanning.setState({ draftBar });
  });
  useEffect(() => () => usePlanning.setState({ draftBar: 0 }), []);
  const there = answer !== null;
  useEffect(() => {
    if (there) submit.current?.focus();
  }, [there]);
  useEffect(() => {
    const before = document.activeElement;
    return () => {
      if (before instanceof HTMLElement && before !== document.body && before.isConnected) before.focus();
    };
  }, []);
  if (!query) return null;
  const chosen = answer && wanted(answer, not);
  const all = answer ? answer.blocks.length + answer.gone.length : 0;
  const some = chosen ? chosen.blocks.length + chosen.gone.length : 0;
  return (
    <form
      ref={frame}
      aria-label="A plan for these days"
      className="flex max-h-[33vh] shrink-0 flex-col gap-2 border-t border-ink bg-card px-[18px] py-2 max-md:px-3"
      onSubmit={(event) => {
        event.preventDefault();
        void take();
      }}
      onKeyDown={(event) => {
        if (event.key !== 'Escape') return;
        event.stopPropagation();
        leave();
      }}
    >
      <div className="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-2">
        <h2 className="font-head text-[17px] font-semibold">{answer ? daysOf(answer, today) : 'A plan for these days'}</h2>
        <p role="status" className="text-soft">
          {busy ? 'Working it out …' : answer ? sayPlan(answer) : ''}
        </p>
        <Link to="/settings#share" className="text-xs text-soft underline underline-offset-2 hover:text-ink">
          {sayRoom(me)}
        </Link>
        <span className="ml-auto flex flex-wrap items-center gap-3">
          <label className="flex min-h-6 items-center gap-1 text-xs">
            of
            <select
              aria-label="What is planned"
              className="min-h-6 border border-soft bg-card px-1"
              value={query.what ?? 'due'}
              onChange={(event) => void begin({ ...query, what: event.target.value as What })}
            >
              <option value="these">what is for these days</option>
              <option value="due">that, and what is due soon</option>
              <option value="all">everything open</option>
              <option value="shortlist">the shortlist, one a day</option>
            </select>
          </label>
          {query.what !== 'shortlist' && (
            <label className="flex min-h-6 items-center gap-1 text-xs">
              <input
                type="checkbox"
                className="accent-teal"
                checked={query.again === 'true'}
                onChange={(event) => void begin({ ...query, again: event.target.checked ? 'true' : 'false' })}
              />
              what has its time may move
            </label>
          )}
          <button
            ref={submit}
            type="submit"
            disabled={busy || some === 0}
            className="flex items-center gap-2 bg-teal px-3 py-1 font-semibold text-on-teal disabled:bg-rule disabled:text-soft"
          >
            {some === all ? 'Do all of it' : `Do ${some} of ${all}`}
          </button>
          <button
            type="button"
            className="flex items-center gap-2 border border-ink px-2 py-[3px] hover:bg-paper"
            onClick={leave}
          >
            Leave it <Key>Esc</Key>
          </button>
        </span>
      </div>
      {problem !== null && <Failed problem={problem} retry={() => void begin(query)} />}
      {answer && all > 0 && (
        <div className="grid min-h-0 grid-cols-[repeat(auto-fill,minmax(218px,1fr))] gap-x-4 gap-y-2 overflow-y-auto">
          {byDay(answer, me).map(([day, blocks, gone]) => (
            <div key={day} role="group" aria-label={`Planned on ${sayDay(day, today)}`} className="min-w-0">
              <h3 className="flex justify-between border-b border-rule text-xs font-semibold">
                {sayDay(day, today)}
                <span className="font-normal text-soft">{sayMinutes(blocks.reduce((sum, one) => sum + one.minutes, 0))}</span>
              </h3>
              <ul>
                {blocks.map((one) => (
                  <Line key={nameOf(one)} name={nameOf(one)} off={not.has(nameOf(one))}>
                    {sayBlock(one, me, today)}
                  </Line>
                ))}
                {gone.map((one) => {
                  const name = nameOf({ ...one, gone: true });
                  return (
                    <Line key={name} name={name} off={not.has(name)}>
                      {sayTime(Date.parse(one.start), me.zone)} free again: {one.title}
                    </Line>
                  );
                })}
              </ul>
            </div>
          ))}
        </div>
      )}
      {answer && answer.without.length > 0 && <Without answer={answer} />}
    </form>
  );
}

/** What the plan leaves free. */
function sayRoom({ settings: { planning } }: Me): string {
  const left = planning.share < 100 ? `${100 - planning.share} % of a day stay free` : 'days are filled to the end';
  return planning.pauses ? `${left}, with pauses and lunch` : left;
}

function Line({ name, off, children }: { name: string; off: boolean; children: ReactNode }): ReactNode {
  return (
    <li>
      <label className={`flex min-h-6 items-center gap-[6px] text-xs ${off ? 'text-soft line-through' : ''}`}>
        <input type="checkbox" className="shrink-0 accent-teal" checked={!off} onChange={() => turn(name)} />
        <span className="truncate">{children}</span>
      </label>
    </li>
  );
}

/** What finds no place, why, and what would let it in. */
function Without({ answer }: { answer: Proposal }): ReactNode {
  const open = useOpenTask();
  return (
    <details className="max-h-[130px] shrink-0 overflow-y-auto text-xs" open={answer.without.length <= FEW}>
      <summary className="cursor-pointer leading-6 font-semibold text-amber">
        No place for {count(answer.without.length + answer.further, 'task')}
      </summary>
      <ul>
        {answer.without.map(({ taskId, title, minutes, reason, change }) => (
          <li key={taskId} className="leading-6">
            <button type="button" className="font-semibold underline underline-offset-2" onClick={() => open(taskId)}>
              {title}
            </button>{' '}
            <span className="text-soft">{sayMinutes(minutes)}</span> · {reason} {change}
          </li>
        ))}
        {answer.further > 0 && <li className="leading-6 text-soft">and {answer.further} more, which are less pressing</li>}
      </ul>
    </details>
  );
}

/** So many without a place are read at once. */
const FEW = 3;

type OfDay = [day: string, blocks: ProposedBlock[], gone: Proposal['gone']];

function byDay({ blocks, gone }: Proposal, { zone }: Me): OfDay[] {
  const dayIn = ({ start }: { start: string }) => dayOf(Date.parse(start), zone);
  const days = [...new Set([...blocks, ...gone].map(dayIn))].sort();
  return days.map((day) => [day, blocks.filter((one) => dayIn(one) === day), gone.filter((one) => dayIn(one) === day)]);
}

const daysOf = ({ from, to }: Proposal, today: string): string =>
  from === to ? `A plan for ${sayDay(from, today)}` : `A plan for ${sayDay(from, today)} – ${sayDay(to, today)}`;

function sayPlan({ blocks, gone, stays, without }: Proposal): string {
  const anew = blocks.filter(({ block }) => block === null);
  const tasks = new Set(anew.map(({ taskId }) => taskId)).size;
  const moved = blocks.length - anew.length;
  const minutes = anew.reduce((sum, one) => sum + one.minutes, 0);
  const parts = [
    tasks ? `${count(tasks, 'task')} ${tasks === 1 ? 'gets' : 'get'} ${sayMinutes(minutes)}` : '',
    moved ? `${count(moved, 'block')} ${moved === 1 ? 'moves' : 'move'}` : '',
    gone.length ? `${count(gone.length, 'block')} given back` : '',
    stays ? `${stays} ${stays === 1 ? 'stays' : 'stay'}` : '',
  ].filter(Boolean);
  if (parts.length > 0 && blocks.length + gone.length > 0) return parts.join(', ');
  return without.length ? 'Nothing of it finds a place.' : 'Everything that is for these days has its time.';
}

function sayBlock({ start, title, was, late }: ProposedBlock, me: Me, today: string): ReactNode {
  const from = Date.parse(start);
  return (
    <>
      {sayTime(from, me.zone)} {title}
      {was && <span className="text-soft">, from {sayWas(was.start, from, me, today)}</span>}
      {late && <span className="text-amber">, after it is due</span>}
    </>
  );
}

function sayWas(was: string, to: number, { zone }: Me, today: string): string {
  const at = Date.parse(was);
  const day = dayOf(at, zone);
  return `${day === dayOf(to, zone) ? '' : `${sayDay(day, today)} `}${sayTime(at, zone)}`;
}
