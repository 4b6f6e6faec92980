import { X } from 'lucide-react';
import { useMemo, type KeyboardEvent, type ReactNode, type Ref } from 'react';
import { KEYS, keyName } from '../keys';
import { Key } from '../parts/signs';
import { Failed, Waiting } from '../parts/states';
import { RequestError } from '../data/api';
import { entryOf } from './open';

interface FrameProps {
  ref: Ref<HTMLElement>;
  /** What it is the sheet of. */
  id: string;
  /** For assistive technology: what is open. */
  label: string;
  /** Whether the place makes room for it; else it lies over the place. */
  beside: boolean;
  /** What stands at the top: where it belongs. */
  head: ReactNode;
  /** Further controls at the top. */
  controls?: ReactNode;
  close: () => void;
  onKeyDown: (event: KeyboardEvent) => void;
  children: ReactNode;
}

/** A sheet at the right over the place it was opened from, at the left where its own entry stands there; on a narrow screen the whole page. */
export function SheetFrame({ ref, id, label, beside, head, controls, close, onKeyDown, children }: FrameProps): ReactNode {
  const hides = useMemo(() => wouldHide(id), [id]);
  const isLeft = hides && !beside;
  return (
    <aside
      ref={ref}
      data-sheet
      tabIndex={-1}
      aria-label={label}
      className={`absolute inset-y-0 z-10 w-[452px] overflow-y-auto border-ink bg-paper !outline-none max-md:inset-x-0 max-md:w-full max-md:border-x-0 ${isLeft ? 'left-0 border-r' : 'right-0 border-l'} ${beside ? '' : 'shadow-lg'}`}
      onKeyDown={onKeyDown}
    >
      <header className="sticky top-0 z-[5] flex h-9 items-center gap-2 bg-paper pr-3 pl-6 text-xs text-soft max-md:pl-4">
        <span className="min-w-0 flex-1 truncate">{head}</span>
        {controls}
        <button type="button" className="flex h-7 items-center gap-1 px-1 hover:text-ink" onClick={close}>
          <span className="sr-only">Close</span>
          <X size={14} aria-hidden="true" /> <Key>{keyName(KEYS.sheet.close)}</Key>
        </button>
      </header>
      {children}
    </aside>
  );
}

/** Pixels that a sheet takes. */
const WIDE = 452;

/** Whether it would lie over what it is the sheet of if it stood at the right. */
function wouldHide(id: string): boolean {
  const entry = entryOf(id)?.getBoundingClientRect();
  return entry !== undefined && entry.left > WIDE && entry.right > window.innerWidth - WIDE;
}

interface NotThereProps {
  /** How it is called: `task`, `card`. */
  what: string;
  problem: Error | null;
  retry: () => void;
}

/** What stands in a sheet whose thing is not there, or not yet. */
export function NotThere({ what, problem, retry }: NotThereProps): ReactNode {
  if (problem instanceof RequestError && problem.status === 404)
    return (
      <p className="px-6 py-4 max-md:px-4">This {what} is not there any more. What was taken back can be done again with ⇧U.</p>
    );
  return problem ? <Failed problem={problem} retry={retry} /> : <Waiting what={`Opening the ${what}`} />;
}
