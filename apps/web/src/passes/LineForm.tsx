import { useEffect, useRef, useState, type ReactNode } from 'react';
import { useDraft } from '../sheets/drafts';

interface LineFormProps {
  /** What is asked for. */
  label: string;
  placeholder?: string;
  /** The name under which what is written survives a reload. */
  kept: string;
  /** What stands in it at first. */
  first?: string;
  /** Letters it has at most. */
  most?: number;
  /** Said where nothing was written. */
  empty: string;
  /** @returns something where it was taken */
  send: (line: string) => Promise<unknown>;
  /** What is wrong with what was written; empty where nothing is. */
  check?: (line: string) => string;
  close: () => void;
  /** Names that are offered. */
  offered?: readonly string[];
}

/** One line that is asked for below an item: Enter takes it, Escape leaves it. */
export function LineForm({
  label,
  placeholder,
  kept,
  first = '',
  most = 200,
  empty,
  send,
  check,
  close,
  offered = [],
}: LineFormProps): ReactNode {
  const [text, write] = useDraft(kept);
  const [wrong, setWrong] = useState('');
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => field.current?.focus(), []);
  const go = async () => {
    const line = (text ?? first).trim();
    const odd = line ? (check?.(line) ?? '') : empty;
    if (odd) return setWrong(odd);
    if (await send(line)) {
      write(null);
      close();
    }
    return undefined;
  };
  return (
    <form
      noValidate
      className="mx-2 mb-2 text-xs"
      onSubmit={(event) => {
        event.preventDefault();
        void go();
      }}
    >
      <label className="block text-soft">
        {label}
        <input
          ref={field}
          autoComplete="off"
          maxLength={most}
          placeholder={placeholder}
          list={offered.length ? `${kept}-offered` : undefined}
          className="block min-h-6 w-full border-b border-teal bg-transparent text-sm text-ink"
          value={text ?? first}
          aria-invalid={wrong !== ''}
          onChange={({ target }) => {
            setWrong('');
            write(target.value);
          }}
          onKeyDown={(event) => {
            if (event.key !== 'Escape') return;
            event.preventDefault();
            event.stopPropagation();
            close();
          }}
        />
      </label>
      {offered.length > 0 && (
        <datalist id={`${kept}-offered`}>
          {offered.map((name) => (
            <option key={name} value={name} />
          ))}
        </datalist>
      )}
      <p role="alert" className="text-brick empty:hidden">
        {wrong}
      </p>
    </form>
  );
}
