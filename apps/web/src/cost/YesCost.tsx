import type { EndangeredDeadline, Me, Overlap, YesCost as Cost } from '@corvun/contract';
import { count, dayOf, sayDay, sayMinutes, sayMoment, saySpan, wallOf } from '@corvun/core';
import { Fragment, type ReactNode } from 'react';
import { DayStrips } from './DayStrips';
import { movesOf } from './cost';

const BESIDE: Record<Cost['buffers'][number]['kind'], string> = {
  prep: 'before',
  travel: 'travel',
  'follow-up': 'after',
  pause: 'pause',
};

interface CostProps {
  me: Me;
  today: string;
  cost: Cost;
  /** What it is the cost of. */
  name?: string;
  /** Says yes, and lets own time give way. */
  move?: (() => void) | undefined;
  /** Proposes another time. */
  propose?: ((start: string) => void) | undefined;
}

const when = (iso: string, today: string, { zone }: Me) => sayMoment(wallOf(Date.parse(iso), zone), today);

/** What a yes costs: what it stands on, where that would go, what that endangers, and what is left of the day. */
export function YesCost({ me, today, cost, name = 'What a yes costs', move, propose }: CostProps): ReactNode {
  const moves = movesOf(cost);
  const day = sayDay(dayOf(Date.parse(cost.start), me.zone), today);
  return (
    <section aria-label={name} className="text-xs">
      <p className="flex flex-wrap items-baseline justify-between gap-x-4 px-3 py-2">
        <b className="text-base font-semibold">{name}</b>
        <span className="text-soft">{inAll(cost, moves.length)}</span>
      </p>
      <dl className="grid grid-cols-[64px_minmax(0,1fr)] [&>*]:border-t [&>*]:border-rule [&>*]:px-3 [&>*]:py-[5px]">
        {cost.overlaps.map((one) => (
          <Fragment key={one.id + one.start}>
            <dt className="text-soft">{one.movable || one.kind === 'block' ? 'overlaps' : 'meets'}</dt>
            <dd className="flex flex-wrap items-baseline justify-between gap-x-4">
              <span className="min-w-0">
                <b className="font-semibold">{one.title}</b>{' '}
                <span className="text-soft">
                  {one.allDay ? 'all day' : saySpan(Date.parse(one.start), Date.parse(one.end), me.zone)},{' '}
                  {one.calendar ?? 'own time'}
                </span>
              </span>
              <span className={`shrink-0 ${one.moveTo && !one.late ? '' : 'text-amber'}`}>{whereTo(one, today, me)}</span>
            </dd>
          </Fragment>
        ))}
        {cost.buffers.map((one) => (
          <Fragment key={one.kind + one.start}>
            <dt className="text-soft">{BESIDE[one.kind]}</dt>
            <dd className="flex flex-wrap items-baseline justify-between gap-x-4">
              <span className="min-w-0">
                <b className="font-semibold">{sayMinutes(one.wanted)}</b>
                {one.kind === 'travel' && (
                  <>
                    {' '}
                    from {one.from} to {one.to}
                  </>
                )}{' '}
                {one.minutes > 0 && (
                  <span className="text-soft">{saySpan(Date.parse(one.start), Date.parse(one.end), me.zone)}</span>
                )}
              </span>
              {one.minutes < one.wanted && (
                <span className="shrink-0 text-amber">
                  {one.minutes ? `only ${sayMinutes(one.minutes)} of it fits` : 'does not fit'}
                </span>
              )}
            </dd>
          </Fragment>
        ))}
        {cost.deadlines.map((one) => (
          <Fragment key={one.taskId}>
            <dt className="text-soft">then</dt>
            <dd className="flex flex-wrap items-baseline justify-between gap-x-4">
              <span className="min-w-0">
                <span className={`peg mr-1 ${one.fixed ? 'peg-fixed' : ''}`} aria-hidden="true" />
                <b className="font-semibold">{one.title}</b>{' '}
                <span className="text-soft">
                  due {sayMoment(one.deadline, today)}
                  {one.was ? `, last safe start was ${when(one.was, today, me)}` : ', was too late before'}
                </span>
              </span>
              <span className="shrink-0 text-amber">{danger(one)}</span>
            </dd>
          </Fragment>
        ))}
        <dt className="text-soft">stays</dt>
        <dd className="text-soft">
          {cost.working.length === 0
            ? `${day} has no working hours`
            : `${day} keeps ${sayMinutes(cost.left.minutes)} free${cost.left.minutes ? `, ${cost.left.gaps ? count(cost.left.gaps, 'gap') : 'no gap'} of half an hour or more` : ''}`}
        </dd>
        {cost.guests.some(({ busy }) => busy !== null) && (
          <>
            <dt className="text-soft">with</dt>
            <dd>
              <WithGuests guests={cost.guests} />
            </dd>
          </>
        )}
        {propose && cost.instead.length > 0 && (
          <>
            <dt className="text-soft">instead</dt>
            <dd className="flex flex-wrap items-baseline gap-x-3">
              {cost.instead.map((one) => (
                <button
                  key={one.start}
                  type="button"
                  className="min-h-6 underline underline-offset-2 hover:text-teal"
                  title={`Propose it: ${one.reasons.join(', ')}`}
                  onClick={() => propose(one.start)}
                >
                  {when(one.start, today, me)}
                </button>
              ))}
              <span className="text-soft">
                {cost.instead.length > 1 ? 'cost' : 'costs'} nothing
                {suits(cost)}; proposed by a click
              </span>
            </dd>
          </>
        )}
      </dl>
      {!cost.allDay && <DayStrips cost={cost} zone={me.zone} />}
      {move && moves.length > 0 && (
        <p className="px-3 pb-3">
          <button type="button" className="border border-ink bg-card px-3 py-[3px] text-base hover:bg-teal-wash" onClick={move}>
            Yes, and move {moves.length === 1 ? 'it' : 'them'}
          </button>
        </p>
      )}
    </section>
  );
}

function WithGuests({ guests }: Pick<Cost, 'guests'>): ReactNode {
  const of = (wanted: boolean | null) => guests.filter(({ busy }) => busy === wanted).map(({ name }) => name);
  const [busy, free, unknown] = [of(true), of(false), of(null)];
  const parts = [
    free.length ? `${names(free)} ${free.length === 1 ? 'is' : 'are'} free` : '',
    unknown.length ? `the time of ${names(unknown)} is not known` : '',
  ].filter(Boolean);
  return (
    <>
      {busy.length > 0 && (
        <span className="text-amber">
          {names(busy)} {busy.length === 1 ? 'is' : 'are'} busy then
        </span>
      )}
      {parts.length > 0 && <span className="text-soft">{`${busy.length ? '; ' : ''}${parts.join('; ')}`}</span>}
    </>
  );
}

/** Whom the other times suit, too. */
function suits({ guests }: Cost): string {
  const known = guests.filter(({ busy }) => busy !== null).map(({ name }) => name);
  return known.length ? ` and suit ${names(known)}` : '';
}

const names = (all: readonly string[]): string =>
  all.length > 3 ? `${all.slice(0, 2).join(', ')} and ${all.length - 2} more` : all.join(' and ');

function inAll({ overlaps, deadlines, minutes, allDay }: Cost, moves: number): string {
  if (allDay) return 'it is there all day';
  const missed = deadlines.filter(({ lateMinutes }) => lateMinutes > 0).length;
  const close = deadlines.length - missed;
  const met = overlaps.filter(({ kind }) => kind === 'event').length;
  const stuck = overlaps.filter(({ movable, moveTo }) => movable && !moveTo).length;
  const parts = [
    moves ? `${count(moves, 'block')} ${moves === 1 ? 'moves' : 'move'}, ${sayMinutes(minutes)} in all` : '',
    stuck ? `${count(stuck, 'block')} without a place` : '',
    met ? `${count(met, 'event')} at the same time` : '',
    missed ? `${count(missed, 'deadline')} missed` : '',
    close ? `${count(close, 'deadline')} ${close === 1 ? 'gets' : 'get'} close` : '',
  ].filter(Boolean);
  return parts.join('; ') || 'nothing';
}

function whereTo({ moveTo, movable, kind, late }: Overlap, today: string, me: Me): string {
  if (moveTo) return `moves to ${when(moveTo.start, today, me)}${late ? ', after its deadline' : ''}`;
  if (movable) return 'finds no place in working hours';
  return kind === 'event' ? 'is promised, too' : 'has begun';
}

const danger = ({ lateMinutes, slackMinutes }: EndangeredDeadline): string =>
  lateMinutes > 0
    ? `${sayMinutes(lateMinutes)} of it find no place`
    : `${slackMinutes ? sayMinutes(slackMinutes) : 'nothing'} of slack left`;
