import type { InputHTMLAttributes, ReactNode } from 'react';

interface FieldProps extends Omit<InputHTMLAttributes<HTMLInputElement>, 'onChange'> {
  id: string;
  label: ReactNode;
  value: string;
  change: (value: string) => void;
  /** What was understood of it, or what is wrong with it; a line is kept free for it where it is given at all. */
  says?: string;
  wrong?: boolean;
}

/** A line to write in: its name above, and below what was understood or what is wrong. */
export function Field({ id, label, value, change, says, wrong = false, ...input }: FieldProps): ReactNode {
  return (
    <div className="mt-1">
      <label htmlFor={id} className="block pb-[3px] text-xs text-soft">
        {label}
      </label>
      <input
        id={id}
        className="w-full border-b border-soft bg-transparent py-1"
        value={value}
        autoComplete="off"
        aria-invalid={wrong}
        aria-describedby={says === undefined ? undefined : `${id}-says`}
        onChange={(event) => change(event.target.value)}
        {...input}
      />
      {says !== undefined && (
        <p id={`${id}-says`} className={`min-h-4 text-xs ${wrong ? 'text-brick' : 'text-soft'}`}>
          {says}
        </p>
      )}
    </div>
  );
}
