import type { Me, PassInfo } from '@corvun/contract';
import { dayOf } from '@corvun/core';
import { useEffect, useRef, type KeyboardEvent, type ReactNode } from 'react';
import { Link, useLocation, useNavigate } from 'react-router';
import { endPass, goInPass, undoPass, usePasses, wasBegun } from '../data/passes';
import { KEYS, isTyping, keyName } from '../keys';
import { Key } from '../parts/signs';
import { useNow } from '../parts/useNow';
import { PASS_NAMES } from './due';
import { STEPS, TITLES, type Step } from './steps';

/** A guided pass beside the place it leads through. */
export function PassPanel({ me }: { me: Me }): ReactNode {
  const pass = usePasses().data?.running;
  return pass ? <Pass key={pass.id} me={me} pass={pass} /> : null;
}

function Pass({ me, pass }: { me: Me; pass: PassInfo }): ReactNode {
  const panel = useRef<HTMLElement>(null);
  const heading = useRef<HTMLHeadingElement>(null);
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const today = dayOf(useNow(), me.zone);
  const steps = STEPS[pass.kind];
  const found = steps.findIndex(({ id }) => id === pass.step);
  const at = Math.max(0, found);
  const step = steps[at] as Step;
  const { done, leave } = TITLES[pass.kind];
  const begun = PASS_NAMES[pass.kind];
  const last = at === steps.length - 1;
  const place = step.place(today);
  const there = place === null || pathname === place || pathname.startsWith(`${place}/`);
  const lead = (to: string | null) => {
    if (to !== null && pathname !== to) void navigate(to);
  };
  const first = useRef(() => lead(place));
  useEffect(() => {
    // An address that one asked for wins over a pass that is under way.
    if (wasBegun()) first.current();
  }, []);
  useEffect(() => {
    heading.current?.focus({ preventScroll: true });
    panel.current?.scrollTo(0, 0);
  }, [step.id]);
  // Each step leads to where its things stand; afterwards one may go anywhere.
  const go = (by: 1 | -1) => {
    const next = steps[at + by];
    if (next) {
      void goInPass(pass, { step: next.id });
      lead(next.place(today));
    } else if (by > 0) void endPass(pass, 'done', done);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (event.defaultPrevented || isTyping(event.nativeEvent) || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === KEYS.pass.next) go(1);
    else if (event.key === KEYS.pass.previous) go(-1);
    // The pass stays; one is in the place beside it again.
    else if (event.key === 'Escape') document.getElementById('place')?.focus();
    else {
      if (!Object.values(KEYS.everywhere).includes(event.key)) event.stopPropagation();
      return;
    }
    event.preventDefault();
    event.stopPropagation();
  };
  const { View } = step;
  return (
    // Its keys are heard wherever the focus is in it.
    <aside
      ref={panel}
      aria-label={begun}
      data-pass
      className="flex w-[356px] shrink-0 flex-col overflow-y-auto border-r border-ink bg-paper max-md:max-h-[54vh] max-md:w-full max-md:border-r-0 max-md:border-b"
      onKeyDown={onKeyDown}
    >
      <header className="px-5 pt-4">
        <p className="flex items-center justify-between text-xs text-soft">
          <span>{begun}</span>
          <span>
            {at + 1} of {steps.length}
          </span>
        </p>
        <ol aria-hidden="true" className="mt-1 flex gap-[3px]">
          {steps.map(({ id }, index) => (
            <li key={id} className={`h-[5px] flex-1 border border-ink ${index <= at ? 'bg-ink' : ''}`} />
          ))}
        </ol>
        <h2 ref={heading} tabIndex={-1} className="mt-3 w-fit font-head text-[17px] font-semibold tracking-tight">
          {step.title}
        </h2>
        <p className="mt-1 text-xs text-soft">
          {step.says}
          {!there && (
            <>
              {' '}
              <Link to={place} className="text-teal underline underline-offset-2">
                Go to where it stands
              </Link>
            </>
          )}
        </p>
      </header>
      <div className="flex-1 px-5 py-3">
        <View key={step.id} me={me} today={today} pass={pass} go={() => go(1)} />
      </div>
      <footer className="sticky bottom-0 flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-rule bg-paper px-5 py-3 text-xs">
        <button type="button" className="bg-teal px-3 py-1 font-semibold text-on-teal" onClick={() => go(1)}>
          {last ? leave : 'Go on'} <Key>{keyName(KEYS.pass.next)}</Key>
        </button>
        {at > 0 && (
          <button type="button" className="min-h-6 underline underline-offset-2" onClick={() => go(-1)}>
            Back <Key>{keyName(KEYS.pass.previous)}</Key>
          </button>
        )}
        <button
          type="button"
          className="ml-auto min-h-6 text-soft underline underline-offset-2 hover:text-ink"
          onClick={() => void undoPass(pass.id)}
        >
          Take it all back
        </button>
        <button
          type="button"
          className="min-h-6 text-soft underline underline-offset-2 hover:text-ink"
          onClick={() => void endPass(pass, 'left', '')}
        >
          Leave
        </button>
      </footer>
    </aside>
  );
}
