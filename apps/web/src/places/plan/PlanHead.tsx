import type { DayInfo, Me } from '@corvun/contract';
import { weekOf } from '@corvun/core';
import { ChevronLeft, ChevronRight } from 'lucide-react';
import { useCallback, useState, type ReactNode } from 'react';
import { DeedsMenu } from '../../parts/DeedsMenu';
import { useSettings } from '../../state/settings';
import { AtRisk } from './AtRisk';
import { GoTo } from './GoTo';
import { Layers } from './Layers';
import { PrintedPlan } from './PrintedPlan';
import type { Shown } from './shown';
import { beginOffering } from './useOffering';

const COUNTS = [1, 2, 3, 5, 7] as const;

interface HeadProps {
  me: Me;
  today: string;
  narrow: boolean;
  heading: string;
  shown: Shown;
  days: readonly DayInfo[];
  /** How many entries layers hide on these days. */
  hidden: number;
  go: (by: number) => void;
  /** Has a plan worked out for the days that are shown. */
  draft: () => void;
  goTo: (day: string | null) => void;
}

/** Which days are shown, how, and what of them. */
export function PlanHead({ me, today, narrow, heading, shown, days, hidden, go, goTo, draft }: HeadProps): ReactNode {
  const { planDays, setPlanDays, plan, setPlan } = useSettings();
  const [printing, setPrinting] = useState(false);
  const printed = useCallback(() => setPrinting(false), []);
  const views: [name: string, on: boolean, choose: () => void][] = [
    ...COUNTS.map((number): [string, boolean, () => void] => [
      number === 7 ? '7 days' : String(number),
      plan.view === 'grid' && number === planDays,
      () => {
        setPlanDays(number);
        setPlan({ view: 'grid' });
      },
    ]),
    ['4 weeks', plan.view === 'weeks', () => setPlan({ view: 'weeks' })],
    ['Spread', plan.view === 'spread', () => setPlan({ view: 'spread' })],
  ];
  return (
    // Beside a pass there is less room than the window has.
    <div className="@container shrink-0">
      <div className="flex h-11 items-center gap-3 border-b border-rule px-[18px] @max-[1100px]:h-auto @max-[1100px]:flex-wrap @max-[1100px]:gap-x-2 @max-[1100px]:gap-y-0 @max-[1100px]:py-1 max-md:px-3">
        <h1 className="font-head text-[20px] font-semibold whitespace-nowrap max-md:text-[17px]">
          <span className="sr-only">Plan, </span>
          {heading}
        </h1>
        <span className="whitespace-nowrap text-soft @max-[1100px]:hidden">week {Number(weekOf(shown.first).slice(6))}</span>
        <div className="flex items-center text-soft">
          <button
            type="button"
            className="grid size-8 place-items-center hover:text-ink"
            aria-label="Earlier"
            onClick={() => go(-1)}
          >
            <ChevronLeft size={17} aria-hidden="true" />
          </button>
          <button type="button" className="min-h-6 px-1 hover:text-ink" onClick={() => goTo(null)}>
            today
          </button>
          <button
            type="button"
            className="grid size-8 place-items-center hover:text-ink"
            aria-label="Later"
            onClick={() => go(1)}
          >
            <ChevronRight size={17} aria-hidden="true" />
          </button>
          <GoTo me={me} today={today} from={shown.days[0] ?? today} goTo={goTo} />
        </div>
        <div role="radiogroup" aria-label="How many days" className={`flex border border-rule ${narrow ? 'ml-auto' : ''}`}>
          {views
            .filter(([name]) => !narrow || ['1', '4 weeks', 'Spread'].includes(name))
            .map(([name, on, choose]) => (
              <button
                key={name}
                type="button"
                role="radio"
                aria-checked={on || (narrow && name === '1' && plan.view === 'grid')}
                className={`border-l border-rule px-[9px] py-[3px] whitespace-nowrap first:border-l-0 max-md:min-h-6 max-md:min-w-6 max-md:px-[6px] max-md:text-xs ${on || (narrow && name === '1' && plan.view === 'grid') ? 'bg-ink text-paper' : 'text-soft hover:text-ink'}`}
                onClick={choose}
              >
                {name}
              </button>
            ))}
        </div>
        {!narrow && (
          <>
            {plan.view === 'grid' && planDays === 1 && (
              <Tick says="side by side" on={plan.side} set={(side) => setPlan({ side })} />
            )}
            <DeedsMenu
              label="more …"
              called="more … of Plan"
              className="hidden whitespace-nowrap text-soft hover:text-ink @max-[1400px]:block"
              deeds={[
                { name: plan.weekends ? 'Hide weekends' : 'Show weekends', run: () => setPlan({ weekends: !plan.weekends }) },
                { name: 'Print', run: () => setPrinting(true) },
                { name: 'Offer times', run: () => beginOffering(me.settings.lengths.medium) },
              ]}
            />
            <Tick says="weekends" on={plan.weekends} set={(weekends) => setPlan({ weekends })} />
            <button
              type="button"
              className="min-h-6 text-xs text-soft underline underline-offset-2 hover:text-ink @max-[1400px]:hidden"
              onClick={() => setPrinting(true)}
            >
              print
            </button>
            <button
              type="button"
              className="min-h-6 text-xs whitespace-nowrap text-soft underline underline-offset-2 hover:text-ink @max-[1400px]:hidden"
              onClick={() => beginOffering(me.settings.lengths.medium)}
            >
              offer times
            </button>
            <AtRisk me={me} today={today} />
            <Layers hidden={hidden} />
          </>
        )}
        {narrow && <AtRisk me={me} today={today} />}
        <button
          type="button"
          className="border-[1.4px] border-teal bg-card px-3 py-[3px] font-semibold whitespace-nowrap text-teal hover:bg-teal-wash max-md:min-h-6 max-md:px-2 max-md:text-xs"
          onClick={draft}
        >
          Fill the gaps …
        </button>
        {/* Right after a change of view the days of the one before stand here: all of them are waited for. */}
        {printing && days.length === shown.days.length && (
          <PrintedPlan me={me} title={heading} days={days} weeks={plan.view === 'weeks'} over={printed} />
        )}
      </div>
    </div>
  );
}

const Tick = ({ says, on, set }: { says: string; on: boolean; set: (on: boolean) => void }): ReactNode => (
  <label className="flex min-h-6 items-center gap-1 text-xs whitespace-nowrap text-soft @max-[1400px]:hidden">
    <input type="checkbox" className="accent-teal" checked={on} onChange={(event) => set(event.target.checked)} />
    {says}
  </label>
);
