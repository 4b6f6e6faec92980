/** How a question is answered: in words, on a scale, by yes or no, or by one of some words. */
export const QUESTION_KINDS = ['words', 'scale', 'yes-no', 'choice'] as const;
export type QuestionKind = (typeof QUESTION_KINDS)[number];

/** One question of a check-in. */
export interface Question {
  id: string;
  text: string;
  kind: QuestionKind;
  /** What the two ends of a scale mean. */
  low: string;
  high: string;
  /** The words one chooses among. */
  choices: string[];
}

/** Where a scale begins and ends. */
export const SCALE = { least: 1, most: 5 } as const;
export const MOST_QUESTIONS = 8;
export const MOST_CHOICES = 12;
export const MOST_ANSWER = 5000;

export type AnswerValue = string | number | boolean;

/** An answer with its question as it was asked. */
export interface CheckInAnswered {
  question: Question;
  value: AnswerValue;
}
export type CheckInAnswers = CheckInAnswered[];

/** What is wrong with a question, as a sentence; null where nothing is. */
export function wrongQuestion({ text, kind, low, high, choices }: Omit<Question, 'id'>): string | null {
  if (!text.trim()) return 'A question needs words.';
  if (kind === 'scale' && !(low.trim() && high.trim())) return 'Name both ends of the scale.';
  if (kind !== 'choice') return null;
  const named = choices.map((choice) => choice.trim());
  if (named.length < 2 || named.some((choice) => !choice)) return 'A choice is among two or more words.';
  return new Set(named).size < named.length ? 'Two of the words are the same.' : null;
}

/** What is wrong with an answer, as a sentence; null where nothing is. */
export function wrongAnswer({ kind, choices }: Question, value: unknown): string | null {
  switch (kind) {
    case 'words':
      return typeof value === 'string' && value.trim() && value.length <= MOST_ANSWER
        ? null
        : `Words are 1 to ${MOST_ANSWER} characters.`;
    case 'scale':
      return Number.isInteger(value) && Number(value) >= SCALE.least && Number(value) <= SCALE.most
        ? null
        : `The scale goes from ${SCALE.least} to ${SCALE.most}.`;
    case 'yes-no':
      return typeof value === 'boolean' ? null : 'This is yes or no.';
    case 'choice':
      return choices.includes(value as string) ? null : 'This is none of the words to choose among.';
  }
}

/** An answer as it is read: `4 of 5, near “clear”`, `yes`, a word, or what was written. */
export function sayAnswer({ question, value }: CheckInAnswered): string {
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (question.kind !== 'scale' || typeof value !== 'number') return String(value);
  const { low, high } = question;
  const end = value === SCALE.least ? low : value === SCALE.most ? high : '';
  return `${value} of ${SCALE.most}${end && `, ${end}`}`;
}
