import type { Me, PassKind } from '@corvun/contract';
import { SlidersHorizontal } from 'lucide-react';
import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';
import { useNavigate } from 'react-router';
import { remove } from '../data/api';
import { beginPass } from '../data/passes';
import { client } from '../data/queries';
import { useSources } from '../data/sources';
import { useSettings, type Theme } from '../state/settings';
import { PASS_NAMES } from '../passes/due';
import { CommandItem } from './CommandItem';
import { menuKeys } from './menuKeys';
import { forgetKept } from '../state/kept';
import { MENU } from './menuLooks';

const PASSES = Object.keys(PASS_NAMES) as PassKind[];
const THEMES: [Theme, string][] = [
  ['system', 'As the system'],
  ['light', 'Light'],
  ['dark', 'Dark'],
];
const item = 'flex items-center justify-between gap-6 px-3 py-1 outline-none data-[highlighted]:bg-teal-wash';

export function SettingsMenu({ me, openHelp }: { me: Me; openHelp: () => void }): ReactNode {
  const { theme, setTheme } = useSettings();
  const navigate = useNavigate();
  const sources = useSources();
  const troubled = sources.data?.some((one) => one.problem || one.outbox.failed > 0);
  return (
    <DropdownMenu.Root>
      <DropdownMenu.Trigger aria-label="Settings" className="grid w-11 shrink-0 place-items-center text-soft hover:text-ink">
        <span className="relative">
          <SlidersHorizontal size={17} aria-hidden="true" />
          {troubled && (
            <span className="absolute -top-1 -right-2 size-[7px] rotate-45 bg-amber" title="A source needs a look">
              <span className="sr-only">A source needs a look</span>
            </span>
          )}
        </span>
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content onKeyDownCapture={menuKeys} align="end" sideOffset={2} className={`${MENU} min-w-[260px]`}>
          <p className="px-3 pb-1 font-semibold">{me.name}</p>
          <p className="px-3 text-xs text-soft">Mail to</p>
          <p className="px-3 pb-2 text-xs break-all select-text">{me.captureAddress}</p>
          <DropdownMenu.Label className="border-t border-rule px-3 pt-2 text-xs text-soft">Light or dark</DropdownMenu.Label>
          <DropdownMenu.RadioGroup value={theme} onValueChange={(value) => setTheme(value as Theme)}>
            {THEMES.map(([value, name]) => (
              <DropdownMenu.RadioItem key={value} value={value} className={item}>
                {name}
                <DropdownMenu.ItemIndicator className="font-bold text-teal">●</DropdownMenu.ItemIndicator>
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
          <DropdownMenu.Separator className="my-1 border-t border-rule" />
          {PASSES.map((kind) => (
            <DropdownMenu.Item key={kind} className={item} onSelect={() => void beginPass(kind)}>
              {PASS_NAMES[kind]}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="my-1 border-t border-rule" />
          <CommandItem where="everywhere" command="people" run={() => void navigate('/people')} />
          <CommandItem where="everywhere" command="others" run={() => void navigate('/others')} />
          <CommandItem where="everywhere" command="sources" run={() => void navigate('/sources')} />
          <CommandItem where="everywhere" command="data" run={() => void navigate('/data')} />
          <CommandItem where="everywhere" command="settings" run={() => void navigate('/settings')} />
          <CommandItem where="everywhere" command="gather" run={() => void navigate('/gather')} />
          <CommandItem where="everywhere" command="help" run={openHelp} />
          <DropdownMenu.Item
            className={item}
            onSelect={() =>
              void remove('/session')
                .then(forgetKept)
                .then(() => client.clear())
                .then(() => window.location.assign('/'))
            }
          >
            Sign out
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}
