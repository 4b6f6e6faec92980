import { X } from 'lucide-react';
import { useEffect, type ReactNode } from 'react';
import { useSaid } from '../state/said';
import { Key } from './signs';
import { useTurn } from './useTurn';

const SHOWN_FOR = 12_000;

/** The line at the bottom that says what was done, with undo, or what went wrong. */
export function SaidLine(): ReactNode {
  const { line, hush } = useSaid();
  const { back } = useTurn();
  useEffect(() => {
    if (!line || line.tone === 'wrong') return undefined;
    const timer = window.setTimeout(hush, SHOWN_FOR);
    return () => window.clearTimeout(timer);
  }, [line, hush]);
  return (
    <div
      aria-live="polite"
      className="pointer-events-none absolute inset-x-0 bottom-[var(--said-bottom,142px)] z-20 flex justify-center px-4 max-md:bottom-[var(--said-bottom,12px)]"
    >
      {line && (
        <div
          role={line.tone === 'wrong' ? 'alert' : undefined}
          data-tone={line.tone}
          className={`flex max-w-[640px] items-center gap-3 rounded-sm px-3 py-2 text-paper shadow-lg ${line.tone === 'wrong' ? 'bg-brick' : 'bg-ink'}`}
        >
          <span>{line.text}</span>
          {line.undo && (
            <button
              type="button"
              className="pointer-events-auto flex min-h-6 items-center gap-1 whitespace-nowrap underline underline-offset-2"
              onClick={back}
            >
              Undo <Key>U</Key>
            </button>
          )}
          {line.also && (
            <button
              type="button"
              className="pointer-events-auto min-h-6 whitespace-nowrap underline underline-offset-2"
              onClick={() => {
                hush();
                line.also?.run();
              }}
            >
              {line.also.name}
            </button>
          )}
          <button
            type="button"
            aria-label="Close this line"
            className="pointer-events-auto grid size-6 place-items-center opacity-80 hover:opacity-100"
            onClick={hush}
          >
            <X size={14} aria-hidden="true" />
          </button>
        </div>
      )}
    </div>
  );
}
