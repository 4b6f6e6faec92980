import type { CalendarInfo, ListInfo } from '@corvun/contract';
import { count } from '@corvun/core';
import { Layers as LayersIcon } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { Fragment, useRef, useState, type ReactNode } from 'react';
import { useCalendars, useLists } from '../../data/queries';
import { changeCalendar } from '../../data/thingActions';
import { NameField } from '../../parts/NameField';
import { Code } from '../../parts/signs';
import { useSettings, type LayerSet } from '../../state/settings';

const panel = 'z-50 max-h-[78vh] min-w-[230px] overflow-y-auto border border-ink bg-card py-1 shadow-lg';
const item = 'flex items-center justify-between px-3 py-1 outline-none data-[highlighted]:bg-teal-wash';

/** Which calendars, lists and deadlines are shown, softly or whole, and which calendars take time; a hidden one may still do. */
export function Layers({ hidden: entries }: { hidden: number }): ReactNode {
  const calendars = useCalendars().data ?? [];
  const lists = useLists().data ?? [];
  const { plan, setPlan } = useSettings();
  const [naming, setNaming] = useState(false);
  // The field is there once the menu is gone, which would take the focus from it.
  const asked = useRef(false);
  const trigger = useRef<HTMLButtonElement>(null);
  const hidden = calendars.filter((calendar) => !calendar.shown).length + plan.hiddenLists.length;
  const turned = (all: readonly string[], id: string, on: boolean) => (on ? [...all, id] : all.filter((one) => one !== id));
  return (
    <div className="flex items-center gap-2">
      {naming && (
        <NameField
          label="Name of these layers"
          name=""
          most={80}
          className="w-40 text-xs"
          keep={(name, byKey) => {
            setNaming(false);
            if (byKey) trigger.current?.focus();
            if (name) setPlan({ sets: [...plan.sets.filter((one) => one.name !== name), setNow(name, calendars, plan)] });
          }}
        />
      )}
      <DropdownMenu.Root>
        <DropdownMenu.Trigger ref={trigger} className="flex items-center gap-2 whitespace-nowrap text-soft hover:text-ink">
          <LayersIcon size={15} aria-hidden="true" />
          Layers{hidden ? ` · ${hidden} hidden${entries ? `, ${count(entries, 'entry', 'entries')}` : ''}` : ''}
        </DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="end"
            sideOffset={4}
            className={panel}
            onCloseAutoFocus={(event) => {
              if (!asked.current) return;
              event.preventDefault();
              asked.current = false;
              setNaming(true);
            }}
          >
            {calendars.map((calendar) => (
              <Fragment key={calendar.id}>
                <Choice on={calendar.shown} set={(shown) => void changeCalendar(calendar.id, { shown })}>
                  <Code code={calendar.code} hue={calendar.hue} /> {calendar.name}
                  <span className="ml-auto text-xs text-soft">{calendar.origin === 'feed' ? 'from outside' : ''}</span>
                </Choice>
                <Choice on={calendar.busy} set={(busy) => void changeCalendar(calendar.id, { busy })} below>
                  <span className="text-soft">
                    <span className="sr-only">{calendar.name}</span> takes time{calendar.shown ? '' : ', though hidden'}
                  </span>
                </Choice>
                {calendar.shown && (
                  <Choice
                    on={plan.faded.includes(calendar.id)}
                    set={(on) => setPlan({ faded: turned(plan.faded, calendar.id, on) })}
                    below
                  >
                    <span className="text-soft">
                      <span className="sr-only">{calendar.name}</span> shown softly
                    </span>
                  </Choice>
                )}
              </Fragment>
            ))}
            <DropdownMenu.Separator className="my-1 h-px bg-rule" />
            <Choice on={plan.deadlines} set={(deadlines) => setPlan({ deadlines })}>
              Deadlines on their days
            </Choice>
            <Sub title="Tasks by list">
              {lists.map((list) => (
                <ListChoice
                  key={list.id}
                  list={list}
                  on={!plan.hiddenLists.includes(list.id)}
                  set={(on) => setPlan({ hiddenLists: turned(plan.hiddenLists, list.id, !on) })}
                />
              ))}
            </Sub>
            <Choice on={plan.colourBy === 'category'} set={(on) => setPlan({ colourBy: on ? 'category' : 'calendar' })}>
              Colours by category
            </Choice>
            <DropdownMenu.Separator className="my-1 h-px bg-rule" />
            {plan.sets.map((set) => (
              <Sub key={set.name} title={set.name}>
                <DropdownMenu.Item className={item} onSelect={() => show(set, calendars, setPlan)}>
                  Show these layers
                </DropdownMenu.Item>
                <DropdownMenu.Item
                  className={item}
                  onSelect={() => setPlan({ sets: plan.sets.filter((one) => one.name !== set.name) })}
                >
                  Forget “{set.name}”
                </DropdownMenu.Item>
              </Sub>
            ))}
            <DropdownMenu.Item className={item} onSelect={() => (asked.current = true)}>
              Keep these layers under a name …
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
    </div>
  );
}

type PlanNow = ReturnType<typeof useSettings.getState>['plan'];

const setNow = (name: string, calendars: readonly CalendarInfo[], { faded, hiddenLists, deadlines }: PlanNow): LayerSet => ({
  name,
  shown: calendars.filter((calendar) => calendar.shown).map(({ id }) => id),
  faded,
  hiddenLists,
  deadlines,
});

/** Shows the layers of a set; calendars that came since it was kept stay as they are. */
function show(
  { shown, faded, hiddenLists, deadlines }: LayerSet,
  calendars: readonly CalendarInfo[],
  setPlan: (plan: Partial<PlanNow>) => void,
): void {
  for (const { id, shown: now } of calendars) if (shown.includes(id) !== now) void changeCalendar(id, { shown: !now });
  setPlan({ faded, hiddenLists, deadlines });
}

function ListChoice({ list, on, set }: { list: ListInfo; on: boolean; set: (on: boolean) => void }): ReactNode {
  return (
    <Choice on={on} set={set}>
      <Code code={list.code} hue={list.hue} /> {list.name}
    </Choice>
  );
}

function Sub({ title, children }: { title: string; children: ReactNode }): ReactNode {
  return (
    <DropdownMenu.Sub>
      <DropdownMenu.SubTrigger className={item}>
        {title} <span aria-hidden="true">›</span>
      </DropdownMenu.SubTrigger>
      <DropdownMenu.Portal>
        <DropdownMenu.SubContent className={panel} collisionPadding={8}>
          {children}
        </DropdownMenu.SubContent>
      </DropdownMenu.Portal>
    </DropdownMenu.Sub>
  );
}

interface ChoiceProps {
  on: boolean;
  set: (on: boolean) => void;
  /** It belongs to the one above. */
  below?: boolean;
  children: ReactNode;
}

function Choice({ on, set, below, children }: ChoiceProps): ReactNode {
  return (
    <DropdownMenu.CheckboxItem
      checked={on}
      onCheckedChange={set}
      onSelect={(event) => event.preventDefault()}
      className={`flex items-center gap-2 py-1 pr-3 outline-none data-[highlighted]:bg-teal-wash ${below ? 'pl-9' : 'pl-3'}`}
    >
      <span
        className={`grid size-[13px] shrink-0 place-items-center border border-ink text-xs ${on ? 'bg-ink text-paper' : ''}`}
        aria-hidden="true"
      >
        {on ? '✓' : ''}
      </span>
      {children}
    </DropdownMenu.CheckboxItem>
  );
}
