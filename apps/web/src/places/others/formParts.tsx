import type { MeetRules } from '@corvun/contract';
import type { ReactNode } from 'react';
import { field } from '../sources/common';

export const Wrong = ({ says }: { says: string | undefined }): ReactNode => says && <p className="text-xs text-brick">{says}</p>;

interface TextProps {
  label: string;
  value: string;
  most: number;
  wrong: string | undefined;
  set: (text: string) => void;
  ref?: React.Ref<HTMLInputElement>;
}

export function Text({ label, value, most, wrong, set, ref }: TextProps): ReactNode {
  const id = `meet-${label.toLowerCase().replace(/\W+/g, '-')}`;
  return (
    <div>
      <label htmlFor={id} className="block text-xs text-soft">
        {label}
      </label>
      <input
        id={id}
        ref={ref}
        className={field}
        maxLength={most}
        autoComplete="off"
        value={value}
        aria-invalid={Boolean(wrong)}
        aria-describedby={`${id}-wrong`}
        onChange={(event) => set(event.target.value)}
      />
      <p id={`${id}-wrong`} className="text-xs text-brick empty:hidden">
        {wrong}
      </p>
    </div>
  );
}

export function Chosen({
  label,
  value,
  all,
  choose,
}: {
  label: string;
  value: number;
  all: readonly (readonly [number, string])[];
  choose: (value: number) => void;
}): ReactNode {
  const id = `meet-${label.toLowerCase().replace(/\W+/g, '-')}`;
  const known = all.some(([one]) => one === value);
  return (
    <div>
      <label htmlFor={id} className="block text-xs text-soft">
        {label}
      </label>
      <select
        id={id}
        className="border border-soft bg-card px-1 py-1"
        value={value}
        onChange={(event) => choose(Number(event.target.value))}
      >
        {!known && <option value={value}>{value}</option>}
        {all.map(([one, name]) => (
          <option key={one} value={one}>
            {name}
          </option>
        ))}
      </select>
    </div>
  );
}

export const Radio = ({
  name,
  label,
  on,
  choose,
}: {
  name: string;
  label: string;
  on: boolean;
  choose: () => void;
}): ReactNode => (
  <label className="flex min-h-6 items-center gap-1">
    <input type="radio" name={`meet-${name}`} className="accent-teal" checked={on} onChange={choose} />
    {label}
  </label>
);

export function Questions({
  questions,
  wrong,
  set,
}: {
  questions: MeetRules['questions'];
  wrong: string | undefined;
  set: (questions: MeetRules['questions']) => void;
}): ReactNode {
  return (
    <fieldset>
      <legend className="text-xs text-soft">Questions to whoever books</legend>
      {questions.map((question, at) => (
        <p key={at} className="mb-1 flex flex-wrap items-center gap-2">
          <input
            aria-label={`Question ${at + 1}`}
            className="min-w-0 flex-1 border-b border-soft bg-transparent py-1"
            maxLength={200}
            autoComplete="off"
            value={question.label}
            onChange={(event) => set(questions.with(at, { ...question, label: event.target.value }))}
          />
          <label className="flex min-h-6 items-center gap-1 text-xs">
            <input
              type="checkbox"
              className="accent-teal"
              checked={question.required}
              onChange={(event) => set(questions.with(at, { ...question, required: event.target.checked }))}
            />
            wants an answer
          </label>
          <button
            type="button"
            className="min-h-6 text-xs underline underline-offset-2 hover:text-teal"
            aria-label={`Remove question ${at + 1}`}
            onClick={() => set(questions.filter((_, index) => index !== at))}
          >
            remove
          </button>
        </p>
      ))}
      <button
        type="button"
        className="min-h-6 text-xs underline underline-offset-2 hover:text-teal"
        onClick={() => set([...questions, { label: '', required: false }])}
      >
        Another question
      </button>
      <Wrong says={wrong} />
    </fieldset>
  );
}
