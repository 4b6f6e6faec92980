import type { ListInfo, ViewInfo } from '@corvun/contract';
import { useState, type ReactNode } from 'react';
import { Link } from 'react-router';
import { changeView, orderLists, removeView } from '../../data/thingActions';
import { DeedsMenu } from '../../parts/DeedsMenu';
import { NameField } from '../../parts/NameField';

const MOST_LETTERS = 80;
/** Seen where the pointer or the focus is, and always where there is no pointer. */
const aside =
  'ml-auto shrink-0 px-1 text-soft opacity-0 group-hover:opacity-100 hover:text-ink focus-visible:opacity-100 data-[state=open]:opacity-100 [@media(hover:none)]:opacity-100';
const field = { most: MOST_LETTERS, over: true, className: 'min-h-6 w-full' };

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
          {...field}
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
          <DeedsMenu
            className={aside}
            called={`What can be done with the group ${group || 'Lists'}`}
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
          {...field}
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
          <DeedsMenu
            className={aside}
            called={`What can be done with the view ${view.name}`}
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
