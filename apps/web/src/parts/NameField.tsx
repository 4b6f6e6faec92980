import { useRef, useState, type ReactNode } from 'react';

interface NameFieldProps {
  label: string;
  name: string;
  most: number;
  /** Whether the whole name is marked, to be written over; else it is gone on with. */
  over?: boolean;
  className: string;
  /** Is given the new name, null where it stays; `byKey` where the field was left with a key. */
  keep: (name: string | null, byKey: boolean) => void;
}

/** A name that is written anew where it stands; Enter or leaving keeps it, Escape does not. */
export function NameField({ label, name, most, over = false, className, keep }: NameFieldProps): ReactNode {
  const [text, setText] = useState(name);
  const left = useRef(false);
  const leave = (kept: boolean, byKey: boolean) => {
    // With a key it is taken away, and thereby left once more.
    if (left.current) return;
    left.current = true;
    const said = text.trim();
    keep(kept && said && said !== name ? said : null, byKey);
  };
  return (
    <input
      ref={(field) => {
        if (!field || document.activeElement === field) return;
        field.focus();
        if (over) field.select();
      }}
      aria-label={label}
      className={`border-b border-teal bg-transparent ${className}`}
      value={text}
      maxLength={most}
      autoComplete="off"
      onChange={(event) => setText(event.target.value)}
      onBlur={() => leave(true, false)}
      onKeyDown={(event) => {
        if (event.key !== 'Enter' && event.key !== 'Escape') return;
        event.preventDefault();
        event.stopPropagation();
        leave(event.key === 'Enter', true);
      }}
    />
  );
}
