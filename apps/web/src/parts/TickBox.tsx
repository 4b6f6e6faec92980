import { Check } from 'lucide-react';
import type { ReactNode } from 'react';

interface TickProps {
  id?: string;
  done: boolean;
  title: string;
  onTick: () => void;
}

export function TickBox({ id, done, title, onTick }: TickProps): ReactNode {
  return (
    <button
      {...(id && { id })}
      type="button"
      role="checkbox"
      aria-checked={done}
      aria-label={`Done: ${title}`}
      className="-ml-1 grid size-6 shrink-0 place-items-center"
      onClick={onTick}
    >
      <span
        className={`grid size-[13px] place-items-center rounded-sm border-[1.4px] border-ink ${done ? 'bg-ink text-paper' : ''}`}
      >
        {done && <Check size={10} strokeWidth={3} aria-hidden="true" />}
      </span>
    </button>
  );
}
