import type { DayInfo, Me } from '@corvun/contract';
import { wallOf } from '@corvun/core';
import { DndContext } from '@dnd-kit/core';
import { useEffect, useMemo, useRef, type ReactNode } from 'react';
import { useCalendars, useLists } from '../../data/queries';
import { ActingProvider, useWays } from '../plan/acting';
import { Grab } from '../plan/Grab';
import { usePlanning } from '../plan/planning';
import { TimeGrid } from '../plan/TimeGrid';
import { useMaking } from '../plan/useMaking';
import { usePlacingKeys } from '../plan/usePlacingKeys';
import { usePlanDrag } from '../plan/usePlanDrag';
import { DRAG_SAYS } from '../../parts/dragSays';

/** Hours before now that stay in sight. */
const BEFORE = 0.75;
const stays = () => undefined;
const none = () => [];

/** The rest of today as on Plan: what stands there is dragged, made longer and opened in the same way. */
export function RestOfDay({ me: whose, now, day }: { me: Me; now: number; day: DayInfo }): ReactNode {
  // There is no room for the hours of further zones.
  const me = useMemo(() => ({ ...whose, settings: { ...whose.settings, zones: [] } }), [whose]);
  const days = useMemo(() => [day], [day]);
  const columns = useRef<HTMLDivElement>(null);
  const ways = useWays();
  const { dragged, target, context } = usePlanDrag(me, days, columns);
  const making = useMaking();
  const placing = usePlanning((state) => state.placing);
  const keys = usePlacingKeys(me, days, now, dragged, stays);
  const calendars = useCalendars().data ?? [];
  const lists = useLists().data ?? [];
  useEffect(
    () => () => usePlanning.setState({ placing: null, dragged: null, asked: null, marked: new Set(), cards: new Set() }),
    [],
  );
  const clock = wallOf(now, me.zone).slice(11);
  return (
    <section aria-label="The rest of today" className="flex h-full min-h-0 flex-col" onKeyDownCapture={keys.onKeyDownCapture}>
      <DndContext accessibility={DRAG_SAYS} {...context} autoScroll={{ threshold: { x: 0, y: 0.12 } }}>
        <ActingProvider value={ways}>
          <Grab>
            <TimeGrid
              ref={columns}
              from={Number(clock.slice(0, 2)) + Number(clock.slice(3)) / 60 - BEFORE}
              beside={false}
              me={me}
              now={now}
              days={days}
              calendars={calendars}
              lists={lists}
              placing={dragged ?? placing}
              target={dragged ? target : (placing?.target ?? null)}
              gaps={keys.gaps}
              take={keys.take}
              making={making}
              dues={none}
              turn={stays}
            />
          </Grab>
        </ActingProvider>
      </DndContext>
    </section>
  );
}
