import type { ListInfo, ViewInfo } from '@corvun/contract';
import { DropdownMenu } from 'radix-ui';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { changeView, orderLists, removeView } from '../../data/thingActions';

const item = 'flex items-center gap-2 px-3 py-1 outline-none data-[highlighted]:bg-teal-wash';
const MOST_LETTERS = 80;

/** A name that is written anew where it stands; Enter or leaving keeps it, Escape does not. */
function NameField({ label, name, keep }: { label: string; name: string; keep: (name: string | null) => void }): ReactNode {
  const [text, setText] = useState(name);
  const said = () => keep(text.trim() && text.trim() !== name ? text.trim() : null);
  return (
    <input
      ref={(field) => {
        if (field && document.activeElement !== field) field.select();
      }}
      aria-label={label}
      className="min-h-6 w-full border-b border-teal bg-transparent"
      value={text}
      maxLength={MOST_LETTERS}
      autoComplete="off"
      onChange={(event) => setText(event.target.value)}
      onBlur={said}
      onKeyDown={(event) => {
        if (event.key !== 'Enter' && event.key !== 'Escape') return;
        event.preventDefault();
        event.stopPropagation();
        if (event.key === 'Enter') said();
        else keep(null);
      }}
    />
  );
}

interface Deed {
  name: string;
  run: () => void;
}

function Deeds({ of, label, deeds }: { of: string; label: string; deeds: Deed[] }): ReactNode {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        aria-label={of}
        className="ml-auto min-h-6 shrink-0 px-1 text-xs text-soft underline underline-offset-2 opacity-0 group-hover:opacity-100 hover:text-ink focus-visible:opacity-100 data-[state=open]:opacity-100 [@media(hover:none)]:opacity-100"
      >
        {label}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content
          align="end"
          sideOffset={2}
          collisionPadding={8}
          className="z-50 min-w-[180px] border border-ink bg-card py-1 shadow-lg"
          onCloseAutoFocus={(event) => {
            // Writing a name anew begins when the menu is closed, and takes the focus itself.
            if (document.activeElement instanceof HTMLInputElement) event.preventDefault();
          }}
        >
          {deeds.map(({ name, run }) => (
            <DropdownMenu.Item key={name} className={item} onSelect={run}>
              {name}
            </DropdownMenu.Item>
          ))}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

interface GroupProps {
  group: string;
  /** In their order. */
  groups: readonly string[];
  lists: readonly ListInfo[];
  read: (ids: string[]) => void;
}

/** The name of a group of lists, and what can be done with all of it. */
export function GroupHead({ group, groups, lists, read }: GroupProps): ReactNode {
  const [naming, setNaming] = useState(false);
  const own = lists.filter((list) => list.group === group);
  const to = (name: string) => orderLists(placed(lists, groups, (one) => (one === group ? name : one)));
  const move = (by: number) => {
    const order = groups.filter((one) => one !== group);
    order.splice(groups.indexOf(group) + by, 0, group);
    return orderLists(placed(lists, order));
  };
  const at = groups.indexOf(group);
  return (
    <h2 className="group mb-1 flex min-h-6 items-center text-xs text-soft">
      {naming ? (
        <NameField
          label={`Name of the group ${group}`}
          name={group}
          keep={(name) => {
            setNaming(false);
            if (name) void to(name);
          }}
        />
      ) : (
        <>
          {group || 'Lists'}
          <Deeds
            of={`What can be done with the group ${group || 'Lists'}`}
            label="group"
            deeds={[
              { name: 'Read together', run: () => read(own.map(({ id }) => id)) },
              { name: group ? 'Rename' : 'Name this group', run: () => setTimeout(() => setNaming(true)) },
              ...(at > 0 ? [{ name: 'Move up', run: () => void move(-1) }] : []),
              ...(at < groups.length - 1 ? [{ name: 'Move down', run: () => void move(1) }] : []),
              ...(group ? [{ name: 'Dissolve, its lists stay', run: () => void to('') }] : []),
            ]}
          />
        </>
      )}
    </h2>
  );
}

/** All lists in the order of their groups, each in the group it is then in. */
const placed = (lists: readonly ListInfo[], groups: readonly string[], to: (group: string) => string = (group) => group) =>
  [...lists]
    .sort((a, b) => groups.indexOf(a.group) - groups.indexOf(b.group) || lists.indexOf(a) - lists.indexOf(b))
    .map(({ id, group }) => ({ id, group: to(group) }));

/** A view that was kept under a name: it is read, renamed and taken away. */
export function KeptViewLine({ view, className }: { view: ViewInfo; className: string }): ReactNode {
  const [naming, setNaming] = useState(false);
  return (
    <li className="group flex items-center border-t border-rule pl-2">
      {naming ? (
        <NameField
          label={`Name of the view ${view.name}`}
          name={view.name}
          keep={(name) => {
            setNaming(false);
            if (name) void changeView(view.id, { name });
          }}
        />
      ) : (
        <>
          <Link to={`/lists/${view.query}`} className={`${className} min-w-0 flex-1 hover:bg-card`}>
            <span className="truncate">{view.name}</span>
          </Link>
          <Deeds
            of={`What can be done with the view ${view.name}`}
            label="view"
            deeds={[
              { name: 'Rename', run: () => setTimeout(() => setNaming(true)) },
              { name: 'Take away', run: () => void removeView(view.id) },
            ]}
          />
        </>
      )}
    </li>
  );
}
