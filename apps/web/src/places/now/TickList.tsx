import type { ReactNode } from 'react';
import { changeTask } from '../../data/thingActions';
import { TickBox } from '../../parts/TickBox';

interface Ticked {
  id: string;
  title: string;
  done: boolean;
  /** What is said of it besides. */
  more?: string;
}

/** Things that are ticked in place. */
export function TickList({ label, items }: { label: string; items: readonly Ticked[] }): ReactNode {
  if (!items.length) return null;
  return (
    <section aria-label={label}>
      <h3 className="font-head font-semibold">{label}</h3>
      <ul className="mt-1">
        {items.map(({ id, title, done, more }) => (
          <li key={id} className="flex min-h-6 items-start gap-2 py-[1px]">
            <TickBox
              done={done}
              title={title}
              onTick={() => void changeTask(id, { status: done ? 'NEEDS-ACTION' : 'COMPLETED' })}
            />
            <span className={`leading-6 ${done ? 'text-soft line-through' : ''}`}>{title}</span>
            {more && <span className="ml-auto text-xs leading-6 text-soft">{more}</span>}
          </li>
        ))}
      </ul>
    </section>
  );
}
