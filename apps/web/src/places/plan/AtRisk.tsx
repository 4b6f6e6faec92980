import type { Me } from '@corvun/contract';
import { count, isAtRiskItself } from '@corvun/core';
import { Popover } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { useRisks } from '../../data/planning';
import { RiskLine, sayRisk } from './RiskLine';

/** Deadlines that are at risk while something can still be done about them. */
export function AtRisk({ me, today }: { me: Me; today: string }): ReactNode {
  const all = useRisks().data ?? [];
  // Those that cause most of it stand first; who is safe without them is not at risk by itself.
  const causes = all.filter(({ cause }) => cause !== null);
  const risks = [...causes, ...all.filter((one) => isAtRiskItself(one) && one.cause === null)];
  const behind = new Set(causes.flatMap(({ cause }) => cause?.spares ?? [])).size;
  const [shown, setShown] = useState(false);
  const [first] = risks;
  if (!first) return <span className="ml-auto max-md:hidden" />;
  return (
    <Popover.Root open={shown} onOpenChange={setShown}>
      <Popover.Trigger className="ml-auto flex min-h-6 min-w-0 items-baseline gap-1 text-left text-amber hover:underline max-md:order-last max-md:w-full">
        <span className={`peg shrink-0 ${first.fixed ? 'peg-fixed' : ''}`} aria-hidden="true" />
        <span className="truncate" title={`${first.title}, ${sayRisk(first, me, today)}`}>
          {count(risks.length, 'deadline')} at risk{behind > 0 && `, and ${behind} behind ${causes.length === 1 ? 'it' : 'them'}`}
          : {first.title}, {sayRisk(first, me, today)}
        </span>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          aria-label="Deadlines at risk"
          align="end"
          sideOffset={4}
          collisionPadding={8}
          className="z-50 max-h-[60vh] w-[380px] overflow-y-auto border border-ink bg-card p-3 shadow-lg max-md:w-[calc(100vw-16px)]"
        >
          <ul className="flex flex-col gap-2">
            {risks.map((one) => (
              <RiskLine key={one.taskId} risk={one} me={me} today={today} close={() => setShown(false)} />
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
