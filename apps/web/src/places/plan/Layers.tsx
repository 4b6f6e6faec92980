import { Layers as LayersIcon } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import { Fragment, type ReactNode } from 'react';
import { changeCalendar } from '../../data/thingActions';
import { useCalendars } from '../../data/queries';
import { Code } from '../../parts/signs';

/** Which calendars are shown, and which of them take time; a hidden one may still do. */
export function Layers(): ReactNode {
  const calendars = useCalendars();
  const all = calendars.data ?? [];
  const hidden = all.filter((calendar) => !calendar.shown).length;
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger className="flex items-center gap-2 text-soft hover:text-ink">
        <LayersIcon size={15} aria-hidden="true" />
        Layers{hidden ? ` · ${hidden} hidden` : ''}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content align="end" sideOffset={4} className="z-50 min-w-[220px] border border-ink bg-card py-1 shadow-lg">
          {all.map((calendar) => (
            <Fragment key={calendar.id}>
              <Choice on={calendar.shown} set={(shown) => void changeCalendar(calendar.id, { shown })}>
                <Code code={calendar.code} hue={calendar.hue} /> {calendar.name}
                <span className="ml-auto text-xs text-soft">{calendar.origin === 'own' ? '' : 'from outside'}</span>
              </Choice>
              <Choice on={calendar.busy} set={(busy) => void changeCalendar(calendar.id, { busy })} below>
                <span className="text-soft">
                  <span className="sr-only">{calendar.name}</span> takes time{calendar.shown ? '' : ', though hidden'}
                </span>
              </Choice>
            </Fragment>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
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
      className={`flex items-center gap-2 py-1 pr-3 outline-none data-[highlighted]:bg-teal-wash ${below ? 'pb-2 pl-9' : 'pl-3'}`}
    >
      <span
        className={`grid size-[13px] place-items-center border border-ink text-xs ${on ? 'bg-ink text-paper' : ''}`}
        aria-hidden="true"
      >
        {on ? '✓' : ''}
      </span>
      {children}
    </DropdownMenu.CheckboxItem>
  );
}
