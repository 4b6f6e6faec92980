import { useEffect, useRef, useState, type ReactNode } from 'react';
import { saysWrong } from '../data/api';
import { useLongDraft } from './drafts';

interface PartProps {
  label: string;
  /** Where nothing is said yet, what is offered. */
  short?: string;
  /** What leads to it in the sentence. */
  lead: string;
  value: string;
  /** Whether it is the first of those that say nothing yet. */
  first?: boolean;
  /** @throws Error with what is wrong */
  save: (text: string) => Promise<void>;
}

/** A part of a sentence that is changed where it stands; one that says nothing is offered after “and”. */
export function SaidPart({ label, short = label.toLowerCase(), lead, value, first = false, save }: PartProps): ReactNode {
  const [text, setText] = useState<string | null>(null);
  const [problem, setProblem] = useState('');
  const opener = useRef<HTMLButtonElement>(null);
  const was = useRef(false);
  useEffect(() => {
    if (was.current && text === null) opener.current?.focus();
    was.current = text !== null;
  }, [text]);
  const keep = async () => {
    if (text === null || text.trim() === value) {
      setProblem('');
      return setText(null);
    }
    try {
      await save(text.trim());
      setProblem('');
      setText(null);
    } catch (wrong) {
      setProblem(saysWrong(wrong));
    }
  };
  if (text === null)
    return (
      <>
        {value ? `${lead} ` : first ? 'and ' : ', '}
        <button
          ref={opener}
          type="button"
          aria-label={value ? `${label}: ${value}` : `Add: ${label}`}
          className={`border-b border-dotted border-soft break-all hover:border-solid hover:border-ink ${value ? 'font-semibold' : 'text-soft'}`}
          onClick={() => setText(value)}
        >
          {value || `${short} …`}
        </button>
        {value && '. '}
      </>
    );
  const id = `part-${lead.replace(/\W+/g, '-')}`;
  return (
    <span className="my-1 block">
      <label htmlFor={id} className="block text-xs text-soft">
        {label}
      </label>
      <input
        id={id}
        autoFocus
        autoComplete="off"
        className="w-full border-b border-ink bg-transparent py-1"
        value={text}
        aria-invalid={problem !== ''}
        aria-describedby={`${id}-says`}
        onChange={(event) => setText(event.target.value)}
        onBlur={() => void keep()}
        onKeyDown={(event) => {
          if (event.key === 'Enter') void keep();
          if (event.key !== 'Escape') return;
          event.stopPropagation();
          setProblem('');
          setText(null);
        }}
      />
      <span id={`${id}-says`} role="alert" className="block text-xs text-brick empty:hidden">
        {problem}
      </span>
    </span>
  );
}

interface TextProps {
  id: string;
  label: string;
  value: string;
  placeholder?: string;
  className?: string;
  /** A text of several lines: its key among what is being written. Enter begins another line, and Escape keeps it. */
  draft?: string;
  save: (text: string) => Promise<void>;
}

/** A text that is written where it stands, and kept when it is left. */
export function SaidText({ id, label, value, placeholder, className = '', draft, save }: TextProps): ReactNode {
  const [line, setLine] = useState<string | null>(null);
  const [lines, setLines] = useLongDraft(draft ?? '');
  const [text, setText] = draft ? [lines, setLines] : [line, setLine];
  const [problem, setProblem] = useState('');
  const keep = () => {
    if (text === null || text === value) return setText(null);
    save(text).then(
      () => {
        setText(null);
        setProblem('');
      },
      (wrong: unknown) => setProblem(saysWrong(wrong)),
    );
  };
  return (
    <>
      <textarea
        id={id}
        rows={1}
        aria-label={label}
        aria-invalid={problem !== ''}
        aria-describedby={`${id}-says`}
        placeholder={placeholder}
        className={`field-sizing-content block w-full resize-none border-b border-transparent bg-transparent py-1 hover:border-rule focus:border-ink ${className}`}
        value={text ?? value}
        onChange={(event) => setText(draft ? event.target.value : event.target.value.replaceAll('\n', ' '))}
        onBlur={keep}
        onKeyDown={(event) => {
          if (draft ? event.key === 'Escape' || (event.key === 'Enter' && event.ctrlKey) : event.key === 'Enter') {
            event.preventDefault();
            event.stopPropagation();
            event.currentTarget.closest<HTMLElement>('[data-sheet]')?.focus();
            event.currentTarget.blur();
            return;
          }
          if (event.key !== 'Escape') return;
          event.stopPropagation();
          setText(null);
          setProblem('');
        }}
      />
      <p id={`${id}-says`} role="alert" className="text-xs text-brick empty:hidden">
        {problem}
      </p>
    </>
  );
}
