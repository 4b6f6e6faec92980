import type { MeetQuestion } from '@corvun/contract';
import { useId, type ReactNode } from 'react';
import { primary } from './parts';

/** What a visitor writes; kept while the page is open, a reload included. */
export interface Written {
  name: string;
  address: string;
  note: string;
  answers: string[];
}
export const NOTHING: Written = { name: '', address: '', note: '', answers: [] };

interface VisitorProps {
  written: Written;
  write: (written: Written) => void;
  questions: readonly MeetQuestion[];
  wrong: Record<string, string>;
  what: string;
  busy: boolean;
  send: () => void;
}

/** Who one is, and what is asked besides. */
export function Visitor({ written, write, questions, wrong, what, busy, send }: VisitorProps): ReactNode {
  return (
    <form
      noValidate
      className="mt-2"
      aria-label="Your details"
      onSubmit={(event) => {
        event.preventDefault();
        send();
      }}
    >
      <Line
        label="Your name"
        name="name"
        value={written.name}
        wrong={wrong['name']}
        set={(name) => write({ ...written, name })}
      />
      <Line
        label="Your mail address, to which the invitation goes"
        name="email"
        type="email"
        value={written.address}
        wrong={wrong['address']}
        set={(address) => write({ ...written, address })}
      />
      {questions.map(({ label, required }, at) => (
        <Line
          key={label}
          label={`${label}${required ? '' : ' (if you like)'}`}
          value={written.answers[at] ?? ''}
          wrong={required && !written.answers[at]?.trim() ? wrong['answers'] : undefined}
          set={(answer) =>
            write({ ...written, answers: questions.map((_, index) => (index === at ? answer : (written.answers[index] ?? ''))) })
          }
        />
      ))}
      <Line
        label="A note (if you like)"
        long
        value={written.note}
        wrong={wrong['note']}
        set={(note) => write({ ...written, note })}
      />
      <button type="submit" className={`mt-4 ${primary}`} disabled={busy}>
        {what}
      </button>
    </form>
  );
}

interface LineProps {
  label: string;
  value: string;
  set: (value: string) => void;
  wrong?: string | undefined;
  name?: string;
  type?: string;
  long?: boolean;
}

function Line({ label, value, set, wrong, name, type = 'text', long = false }: LineProps): ReactNode {
  const id = useId();
  const shared = {
    id,
    value,
    'aria-invalid': Boolean(wrong),
    'aria-describedby': `${id}-wrong`,
    className: `mt-1 block w-full max-w-[420px] rounded-sm border bg-card px-2 py-2 ${wrong ? 'border-brick' : 'border-soft'}`,
  };
  return (
    <div className="mt-3">
      <label htmlFor={id}>{label}</label>
      {long ? (
        <textarea {...shared} rows={3} maxLength={2000} onChange={(event) => set(event.target.value)} />
      ) : (
        <input {...shared} name={name} type={type} autoComplete={name ?? 'off'} onChange={(event) => set(event.target.value)} />
      )}
      <p id={`${id}-wrong`} className="min-h-4 text-xs text-brick">
        {wrong}
      </p>
    </div>
  );
}
