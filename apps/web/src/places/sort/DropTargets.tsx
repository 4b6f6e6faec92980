import type { DayInfo, Undecided } from '@corvun/contract';
import { sayDay, sayMinutes } from '@corvun/core';
import { useDroppable } from '@dnd-kit/core';
import type { ReactNode } from 'react';
import { useLists } from '../../data/queries';
import { stillFree } from '../../parts/gaps';
import { Code } from '../../parts/signs';
import { serverNow } from '../../parts/useNow';

/** While something is dragged: every list and day as a place to drop it on. Gaps light up in the strip. */
export function DropTargets({ days, today }: { days: DayInfo[]; today: string }): ReactNode {
  const lists = useLists();
  return (
    <>
      <h3 className="mb-1 font-head font-semibold">Drop on a list</h3>
      {lists.data?.map((list) => (
        <Target key={list.id} id={`list-${list.id}`} input={{ to: 'list', list: list.name }}>
          <Code code={list.code} hue={list.hue} /> {list.name}
        </Target>
      ))}
      <h3 className="mt-3 mb-1 font-head font-semibold">On a day</h3>
      {days.slice(0, 7).map((day) => (
        <Target key={day.day} id={`day-${day.day}`} input={{ to: 'day', day: day.day }}>
          {sayDay(day.day, today)}
          <span className="ml-auto text-xs text-soft">
            {day.load.over ? `${sayMinutes(day.load.over)} over` : `${sayMinutes(stillFree(day, serverNow()))} free`}
          </span>
        </Target>
      ))}
      <h3 className="mt-3 mb-1 font-head font-semibold">Or</h3>
      <Target id="to-shelf" input={{ to: 'shelf' }}>
        Shelf
      </Target>
      <Target id="to-reference" input={{ to: 'reference' }}>
        Reference
      </Target>
      <Target id="to-drop" input={{ to: 'drop' }}>
        Drop
      </Target>
    </>
  );
}

function Target({ id, input, children }: { id: string; input: Undecided; children: ReactNode }): ReactNode {
  const { setNodeRef, isOver } = useDroppable({ id, data: { input } });
  return (
    <div
      ref={setNodeRef}
      data-drop={id}
      className={`flex h-[27px] items-center gap-2 border-t border-rule px-2 ${isOver ? 'bg-teal text-on-teal' : ''}`}
    >
      {children}
    </div>
  );
}
