import type { CheckInInfo } from '@corvun/contract';
import { MOST_CHOICES, MOST_QUESTIONS, QUESTION_KINDS, wrongQuestion, type QuestionKind } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { saysWrong } from '../../data/api';
import { addCheckIn, changeCheckIn } from '../../data/lookback';
import { useDraft } from '../../sheets/drafts';
import { button, field, primary } from '../sources/common';

/** A question while it is written. */
interface Written {
  id?: string;
  text: string;
  kind: QuestionKind;
  low: string;
  high: string;
  /** Parted by commas. */
  choices: string;
}

interface Form {
  name: string;
  weekdays: number[];
  time: string;
  byMail: boolean;
  questions: Written[];
}

const KIND_NAMES: Record<QuestionKind, string> = {
  words: 'in words',
  scale: 'on a scale',
  'yes-no': 'by yes or no',
  choice: 'by choosing',
};
const DAYS = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const ONE: Written = { text: '', kind: 'words', low: '', high: '', choices: '' };
const FIRST: Form = { name: '', weekdays: [1, 2, 3, 4, 5], time: '17:00', byMail: false, questions: [ONE] };

const choicesOf = (text: string): string[] =>
  text
    .split(',')
    .map((one) => one.trim())
    .filter(Boolean);

const formOf = ({ name, weekdays, time, byMail, questions }: CheckInInfo): Form => ({
  ...{ name, weekdays, time, byMail },
  questions: questions.map(({ choices, ...question }) => ({ ...question, choices: choices.join(', ') })),
});

/** A few questions, and when they come back; what is written survives a reload. */
export function CheckInForm({ checkIn, close }: { checkIn?: CheckInInfo; close: () => void }): ReactNode {
  const [draft, write] = useDraft(`check-in-${checkIn?.id ?? 'new'}`);
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const form = draft === null ? (checkIn ? formOf(checkIn) : FIRST) : (JSON.parse(draft) as Form);
  const change = (own: Partial<Form>) => {
    setWrong({});
    write(JSON.stringify({ ...form, ...own }));
  };
  const changeQuestion = (at: number, own: Partial<Written>) =>
    change({ questions: form.questions.map((one, index) => (index === at ? { ...one, ...own } : one)) });
  const send = async () => {
    const time = form.time.trim().replace(/^(\d):/, '0$1:');
    const questions = form.questions.map(({ choices, ...one }) => ({ ...one, choices: choicesOf(choices) }));
    const odd: Record<string, string> = {
      ...(form.name.trim() ? {} : { name: 'Say what it is called.' }),
      ...(form.weekdays.length ? {} : { days: 'Choose a day at least.' }),
      ...(/^(?:[01]\d|2[0-3]):[0-5]\d$/.test(time) ? {} : { time: 'Write the time like 17:00.' }),
    };
    for (const [at, question] of questions.entries()) {
      const says =
        wrongQuestion(question) ??
        (question.choices.length > MOST_CHOICES ? `A choice is among ${MOST_CHOICES} words at most.` : null);
      if (says) odd[`question ${at}`] = says;
    }
    if (Object.keys(odd).length) return setWrong(odd);
    const input = { name: form.name.trim(), weekdays: form.weekdays, time, byMail: form.byMail, questions };
    try {
      await (checkIn ? changeCheckIn(checkIn.id, { ...input, version: checkIn.version }) : addCheckIn(input));
      write(null);
      close();
    } catch (problem) {
      setWrong({ all: saysWrong(problem) });
    }
    return undefined;
  };
  const leave = () => {
    write(null);
    close();
  };
  return (
    <form
      noValidate
      aria-label={checkIn ? `Change “${checkIn.name}”` : 'A new check-in'}
      className="max-w-[640px] border border-teal bg-card p-4"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      <label htmlFor="check-in-name" className="text-xs text-soft">
        What it is called
      </label>
      <input
        id="check-in-name"
        autoFocus
        maxLength={100}
        autoComplete="off"
        placeholder="End of the day"
        className={field}
        value={form.name}
        aria-invalid={Boolean(wrong['name'])}
        aria-describedby="check-in-name-wrong"
        onChange={({ target }) => change({ name: target.value })}
      />
      <Wrong id="check-in-name-wrong" says={wrong['name']} />
      <div className="mt-3 flex flex-wrap items-end gap-x-4 gap-y-2">
        <fieldset aria-describedby="check-in-days-wrong">
          <legend className="text-xs text-soft">It asks on</legend>
          <div className="flex">
            {DAYS.map((name, index) => {
              const day = index + 1;
              const on = form.weekdays.includes(day);
              return (
                <label
                  key={name}
                  className={`min-h-7 cursor-pointer border border-l-0 px-2 py-[2px] first:border-l has-focus-visible:outline-2 has-focus-visible:outline-teal ${on ? 'border-ink bg-ink text-paper' : 'border-soft'}`}
                >
                  <input
                    type="checkbox"
                    className="sr-only"
                    checked={on}
                    onChange={() =>
                      change({ weekdays: on ? form.weekdays.filter((one) => one !== day) : [...form.weekdays, day].sort() })
                    }
                  />
                  {name}
                </label>
              );
            })}
          </div>
        </fieldset>
        <label className="text-xs text-soft">
          at
          <input
            className={`${field} w-20 text-sm text-ink`}
            value={form.time}
            autoComplete="off"
            aria-invalid={Boolean(wrong['time'])}
            aria-describedby="check-in-time-wrong"
            onChange={({ target }) => change({ time: target.value })}
          />
        </label>
        <label className="flex min-h-7 items-center gap-2">
          <input
            type="checkbox"
            className="accent-teal"
            checked={form.byMail}
            onChange={({ target }) => change({ byMail: target.checked })}
          />
          by mail, too
        </label>
      </div>
      <Wrong id="check-in-days-wrong" says={wrong['days']} />
      <Wrong id="check-in-time-wrong" says={wrong['time']} />
      <ol className="mt-4">
        {form.questions.map((question, at) => (
          <QuestionFields
            key={question.id ?? at}
            at={at}
            question={question}
            wrong={wrong[`question ${at}`]}
            change={(own) => changeQuestion(at, own)}
            remove={
              form.questions.length > 1
                ? () => change({ questions: form.questions.filter((_, index) => index !== at) })
                : undefined
            }
          />
        ))}
      </ol>
      {form.questions.length < MOST_QUESTIONS && (
        <button
          type="button"
          className="min-h-6 text-xs underline underline-offset-2 hover:text-teal"
          onClick={() => change({ questions: [...form.questions, ONE] })}
        >
          One more question
        </button>
      )}
      <p role="alert" className="mt-2 text-xs text-brick empty:hidden">
        {wrong['all'] ?? ''}
      </p>
      <p className="mt-4 flex gap-2">
        <button type="submit" className={primary}>
          {checkIn ? 'Keep it so' : 'Let it ask'}
        </button>
        <button type="button" className={button} onClick={leave}>
          Leave it
        </button>
      </p>
    </form>
  );
}

const Wrong = ({ id, says = '' }: { id: string; says?: string | undefined }): ReactNode => (
  <p id={id} role="alert" className="text-xs text-brick empty:hidden">
    {says}
  </p>
);

interface QuestionProps {
  at: number;
  question: Written;
  wrong: string | undefined;
  change: (own: Partial<Written>) => void;
  remove: (() => void) | undefined;
}

function QuestionFields({ at, question, wrong, change, remove }: QuestionProps): ReactNode {
  const id = `question-${at}`;
  return (
    <li className="mb-3 border-l-[3px] border-rule pl-3">
      <div className="flex flex-wrap items-end gap-2">
        <label className="min-w-[220px] flex-1 text-xs text-soft">
          Question {at + 1}
          <input
            maxLength={300}
            autoComplete="off"
            placeholder="What went well?"
            className={`${field} text-sm text-ink`}
            value={question.text}
            aria-invalid={Boolean(wrong)}
            aria-describedby={`${id}-wrong`}
            onChange={({ target }) => change({ text: target.value })}
          />
        </label>
        <label className="text-xs text-soft">
          answered
          <select
            className={`${field} min-h-[30px] text-sm text-ink`}
            value={question.kind}
            onChange={({ target }) => change({ kind: target.value as QuestionKind })}
          >
            {QUESTION_KINDS.map((kind) => (
              <option key={kind} value={kind}>
                {KIND_NAMES[kind]}
              </option>
            ))}
          </select>
        </label>
        {remove && (
          <button
            type="button"
            className="min-h-[30px] text-xs text-soft underline underline-offset-2 hover:text-ink"
            onClick={remove}
          >
            take away<span className="sr-only"> question {at + 1}</span>
          </button>
        )}
      </div>
      {question.kind === 'scale' && (
        <div className="mt-1 flex gap-2">
          {(['low', 'high'] as const).map((end) => (
            <label key={end} className="flex-1 text-xs text-soft">
              {end === 'low' ? '1 means' : '5 means'}
              <input
                maxLength={60}
                autoComplete="off"
                placeholder={end === 'low' ? 'muddled' : 'clear'}
                className={`${field} text-sm text-ink`}
                value={question[end]}
                aria-describedby={`${id}-wrong`}
                onChange={({ target }) => change({ [end]: target.value })}
              />
            </label>
          ))}
        </div>
      )}
      {question.kind === 'choice' && (
        <label className="mt-1 block text-xs text-soft">
          Words to choose among, with commas between them
          <input
            autoComplete="off"
            placeholder="On site, at the desk, on the way"
            className={`${field} text-sm text-ink`}
            value={question.choices}
            aria-describedby={`${id}-wrong`}
            onChange={({ target }) => change({ choices: target.value })}
          />
        </label>
      )}
      <Wrong id={`${id}-wrong`} says={wrong} />
    </li>
  );
}
