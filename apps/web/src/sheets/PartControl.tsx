import { Popover } from 'radix-ui';
import { useId, useState, type KeyboardEvent, type ReactNode } from 'react';
import type { Part } from './part';

interface PartProps<C extends object> {
  part: Part<C>;
  save: (change: C) => void;
  /** It was asked for by name, and is opened at once. */
  open?: boolean;
  closed?: () => void;
}

/** A part of the sentence: a button that says it, and opens what it can be instead right below. */
export function PartControl<C extends object>({ part, save, open: asked = false, closed }: PartProps<C>): ReactNode {
  const [open, setOpen] = useState(asked);
  const turn = (next: boolean) => {
    setOpen(next);
    if (!next) closed?.();
  };
  const take = (change: C) => {
    save(change);
    turn(false);
  };
  return (
    <Popover.Root open={open} onOpenChange={turn}>
      <Popover.Trigger className="border-b border-ink font-semibold break-words hover:border-teal hover:text-teal">
        <span className="sr-only">{part.label}: </span>
        {part.shown ?? 'not said'}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="start"
          sideOffset={4}
          collisionPadding={8}
          aria-label={part.label}
          className="z-50 w-[270px] border border-ink bg-card shadow-lg"
          onKeyDown={(event) => event.stopPropagation()}
          onOpenAutoFocus={(event) => {
            // The popover would select what stands in the field, also where one writes on behind it.
            event.preventDefault();
            const content = event.currentTarget as HTMLElement;
            (content.querySelector<HTMLElement>('input,[data-choice]') ?? content).focus();
          }}
        >
          <Editor part={part} take={take} />
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Editor<C extends object>({
  part: { label, words, choices },
  take,
}: {
  part: Part<C>;
  take: (change: C) => void;
}): ReactNode {
  const id = useId();
  // What is written is meant for what one saw, also where that changes meanwhile.
  const [kept] = useState(() => take);
  const [text, setText] = useState(words?.text ?? '');
  const [sent, setSent] = useState(false);
  const changed = words !== undefined && text.trim() !== '' && text !== words.text;
  const read = changed ? words.read(text) : null;
  const wrong = typeof read === 'string' && sent;
  const onKeyDown = (event: KeyboardEvent<HTMLElement>) => {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!by) return;
    event.preventDefault();
    const stops = [...event.currentTarget.querySelectorAll<HTMLElement>('input,[data-choice]')];
    const at = stops.indexOf(document.activeElement as HTMLElement);
    stops[(at + by + stops.length) % stops.length]?.focus();
  };
  return (
    <div onKeyDown={onKeyDown} role="presentation">
      {words && (
        <form
          noValidate
          className="border-b border-rule p-2"
          onSubmit={(event) => {
            event.preventDefault();
            setSent(true);
            if (read && typeof read !== 'string') kept(read.change);
            else if (!changed && text === words.text && text) kept({} as C);
          }}
        >
          <label htmlFor={id} className="block text-xs text-soft">
            {label}
          </label>
          <input
            id={id}
            className="w-full border-b border-soft bg-transparent py-[2px]"
            value={text}
            placeholder={words.placeholder}
            autoComplete="off"
            aria-invalid={wrong}
            aria-describedby={`${id}-says`}
            onFocus={({ target }) => (words.adds ? target.setSelectionRange(text.length, text.length) : target.select())}
            onChange={(event) => {
              setText(event.target.value);
              setSent(false);
            }}
          />
          <p id={`${id}-says`} aria-live="polite" className={`mt-1 min-h-4 text-xs ${wrong ? 'text-brick' : 'text-soft'}`}>
            {wrong ? read : read && typeof read !== 'string' ? `${read.says} · Enter keeps it` : ''}
          </p>
        </form>
      )}
      <ul className="max-h-[300px] overflow-y-auto py-1" aria-label={`${label}: choose`}>
        {choices.map((choice, at) => (
          <li key={at}>
            <button
              type="button"
              data-choice
              aria-pressed={choice.on}
              className={`flex w-full items-center justify-between gap-3 px-3 py-1 text-left hover:bg-teal-wash focus-visible:bg-teal-wash ${choice.on ? 'font-semibold' : ''}`}
              onClick={() => take(choice.change)}
            >
              <span>{choice.says}</span>
              {choice.more && <span className="text-xs font-normal text-soft">{choice.more}</span>}
            </button>
          </li>
        ))}
      </ul>
    </div>
  );
}
