import { SCALE, wrongAnswer, type AnswerValue, type CheckInAnswers, type Question } from '@corvun/core';
import { useState, type ReactNode } from 'react';
import { saysWrong } from '../../data/api';
import { answerCheckIn, leaveOutCheckIn } from '../../data/lookback';
import { useLongDraft } from '../../sheets/drafts';
import { button, primary } from '../sources/common';

type Given = Record<string, AnswerValue>;

interface AnswerFormProps {
  /** Of the check-in. */
  id: string;
  day: string;
  questions: readonly Question[];
  /** What was answered before; absent: nothing was. */
  before?: CheckInAnswers;
  /** Called when it was kept or left. */
  close?: () => void;
}

/** The questions of a check-in, to be answered for a day; what is written survives a reload. */
export function AnswerForm({ id, day, questions, before, close }: AnswerFormProps): ReactNode {
  const [draft, write] = useLongDraft(`answer-${id}-${day}`);
  const [wrong, setWrong] = useState<Record<string, string>>({});
  const first = Object.fromEntries((before ?? []).map(({ question, value }) => [question.id, value]));
  const given: Given = draft === null ? first : (JSON.parse(draft) as Given);
  const say = (question: string, value: AnswerValue | null) => {
    const { [question]: _old, ...others } = given;
    setWrong({});
    write(JSON.stringify(value === null || value === '' ? others : { ...others, [question]: value }));
  };
  const send = async () => {
    const odd = Object.fromEntries(
      questions.flatMap((question) => {
        const says = question.id in given ? wrongAnswer(question, given[question.id]) : null;
        return says ? [[question.id, says]] : [];
      }),
    );
    if (!Object.keys(given).length) return setWrong({ all: 'Answer one of them at least, or leave it out this time.' });
    if (Object.keys(odd).length) return setWrong(odd);
    try {
      await answerCheckIn(id, { day, answers: given });
      write(null);
      close?.();
    } catch (problem) {
      setWrong({ all: saysWrong(problem) });
    }
    return undefined;
  };
  return (
    <form
      noValidate
      className="mt-2"
      onSubmit={(event) => {
        event.preventDefault();
        void send();
      }}
    >
      {questions.map((question) => (
        <Asked
          key={question.id}
          name={`${id}-${day}-${question.id}`}
          question={question}
          value={given[question.id] ?? null}
          wrong={wrong[question.id] ?? ''}
          say={(value) => say(question.id, value)}
        />
      ))}
      <p role="alert" className="text-xs text-brick empty:hidden">
        {wrong['all'] ?? ''}
      </p>
      <p className="mt-3 flex flex-wrap gap-2">
        <button type="submit" className={primary}>
          Keep the answers
        </button>
        {close ? (
          <button type="button" className={button} onClick={close}>
            Leave it
          </button>
        ) : (
          <button type="button" className={button} onClick={() => void leaveOutCheckIn(id, day)}>
            Not this time
          </button>
        )}
      </p>
    </form>
  );
}

interface AskedProps {
  name: string;
  question: Question;
  value: AnswerValue | null;
  wrong: string;
  say: (value: AnswerValue | null) => void;
}

function Asked({ name, question, value, wrong, say }: AskedProps): ReactNode {
  const { kind, text, low, high, choices } = question;
  const told = (
    <p id={`${name}-wrong`} role="alert" className="text-xs text-brick empty:hidden">
      {wrong}
    </p>
  );
  if (kind === 'words')
    return (
      <div className="mb-3">
        <label htmlFor={name}>{text}</label>
        <textarea
          id={name}
          rows={2}
          maxLength={5000}
          className="mt-1 block field-sizing-content max-h-60 min-h-12 w-full resize-none border border-soft bg-paper px-2 py-1"
          value={typeof value === 'string' ? value : ''}
          aria-invalid={wrong !== ''}
          aria-describedby={`${name}-wrong`}
          onChange={({ target }) => say(target.value)}
        />
        {told}
      </div>
    );
  const steps = Array.from({ length: SCALE.most - SCALE.least + 1 }, (_, at) => SCALE.least + at);
  const options: [value: AnswerValue, says: string][] =
    kind === 'scale'
      ? steps.map((step) => [step, String(step)])
      : kind === 'yes-no'
        ? [
            [true, 'yes'],
            [false, 'no'],
          ]
        : choices.map((choice) => [choice, choice]);
  return (
    <fieldset className="mb-3" aria-describedby={`${name}-wrong`}>
      <legend>{text}</legend>
      <div className="mt-1 flex flex-wrap items-center gap-x-1 gap-y-1">
        {kind === 'scale' && <span className="mr-1 text-xs text-soft">{low}</span>}
        {options.map(([own, says]) => (
          <label
            key={says}
            className={`flex min-h-7 cursor-pointer items-center justify-center border px-[9px] has-focus-visible:outline-2 has-focus-visible:outline-offset-1 has-focus-visible:outline-teal ${kind === 'scale' ? 'min-w-8' : ''} ${value === own ? 'border-ink bg-ink text-paper' : 'border-soft hover:border-ink'}`}
          >
            <input
              type="radio"
              name={name}
              className="sr-only"
              aria-label={kind === 'scale' ? sayStep(Number(own), low, high) : says}
              checked={value === own}
              onChange={() => say(own)}
            />
            <span aria-hidden="true">{says}</span>
          </label>
        ))}
        {kind === 'scale' && <span className="ml-1 text-xs text-soft">{high}</span>}
      </div>
      {told}
    </fieldset>
  );
}

const sayStep = (step: number, low: string, high: string): string =>
  `${step}${step === SCALE.least ? `, ${low}` : step === SCALE.most ? `, ${high}` : ''}`;
