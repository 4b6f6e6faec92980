import { useEffect, useRef, type KeyboardEvent, type ReactNode } from 'react';
import { Key } from '../../parts/signs';

export interface Choice {
  id: string;
  content: ReactNode;
  choose: () => void;
}

/** A short list of choices: digits choose at once unless they mean something else, arrows and Enter walk. Has the focus while it is open. */
export function Choices({
  label,
  choices,
  preferred = 0,
  digits = true,
  takesFocus = true,
}: {
  label: string;
  choices: Choice[];
  preferred?: number;
  digits?: boolean;
  takesFocus?: boolean;
}): ReactNode {
  const frame = useRef<HTMLDivElement>(null);
  useEffect(() => {
    if (takesFocus) frame.current?.querySelectorAll('button')[preferred]?.focus();
  }, [preferred, takesFocus]);
  const onKeyDown = (event: KeyboardEvent<HTMLDivElement>) => {
    const buttons = [...(frame.current?.querySelectorAll('button') ?? [])];
    const at = buttons.indexOf(document.activeElement as HTMLButtonElement);
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const digit = digits && /^[1-9]$/.test(event.key) ? Number(event.key) - 1 : -1;
    if (step) buttons[(at + step + buttons.length) % buttons.length]?.focus();
    else if (choices[digit]) choices[digit]?.choose();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div ref={frame} role="group" aria-label={label} onKeyDown={onKeyDown}>
      {choices.map((choice, at) => (
        <button
          key={choice.id}
          type="button"
          className="flex min-h-[27px] w-full items-center gap-2 px-1 py-[2px] text-left hover:bg-card focus:bg-card"
          onClick={choice.choose}
        >
          {digits ? <Key>{at < 9 ? at + 1 : ' '}</Key> : null}
          {choice.content}
        </button>
      ))}
    </div>
  );
}
