import { Type } from 'class-transformer';
import {
  ArrayMaxSize,
  ArrayMinSize,
  ArrayUnique,
  IsArray,
  IsBoolean,
  IsIn,
  IsInt,
  IsObject,
  IsString,
  Length,
  Matches,
  Max,
  MaxLength,
  Min,
  ValidateNested,
} from 'class-validator';
import {
  MOST_CHOICES,
  MOST_QUESTIONS,
  QUESTION_KINDS,
  type AnswerValue,
  type CheckInAnswers,
  type Question,
  type QuestionKind,
} from '@corvun/core';
import type { Added, Done } from './answers';
import { IsDay, Maybe, NotBlank } from './rules';
import type { IsoTime } from './things';

/** A few questions that come back. */
export interface CheckInInfo {
  id: string;
  name: string;
  /** ISO weekdays on which it asks, and `HH:MM` at which it does. */
  weekdays: number[];
  time: string;
  questions: Question[];
  byMail: boolean;
  paused: boolean;
  /** The day for which it asks and was not answered yet; null: it does not ask now. */
  open: string | null;
  /** When it asks next. */
  next: IsoTime | null;
  version: number;
}

/** What was answered for a day; nothing: it was left out. */
export interface CheckInAnswerInfo {
  id: string;
  day: string;
  answers: CheckInAnswers;
  at: IsoTime;
}

const choices = { message: `A choice is among 2 to ${MOST_CHOICES} words.` };
const end = { message: 'The name of an end has at most 60 characters.' };

export class CheckInQuestion {
  /** Of a question that is there; left out: it is a new one. */
  @Maybe() @IsString() @Length(1, 100) id?: string;
  @IsString() @Length(1, 300, { message: 'A question has 1 to 300 characters.' }) text: string;
  @IsIn(QUESTION_KINDS, { message: `A question is answered by ${QUESTION_KINDS.join(', ')}.` }) kind: QuestionKind;
  @Maybe() @IsString() @MaxLength(60, end) low?: string;
  @Maybe() @IsString() @MaxLength(60, end) high?: string;
  @Maybe()
  @IsArray(choices)
  @ArrayMaxSize(MOST_CHOICES, choices)
  @IsString({ each: true, ...choices })
  @MaxLength(60, { each: true, message: 'A word to choose has at most 60 characters.' })
  choices?: string[];
}

const name = { message: 'The name has 1 to 100 characters.' };
const days = { message: 'Give the weekdays on which it asks, 1 to 7.' };
const time = { message: 'Write the time as HH:MM.' };
const questions = { message: `A check-in has 1 to ${MOST_QUESTIONS} questions.` };
const CLOCK = /^(?:[01]\d|2[0-3]):[0-5]\d$/;

export class CheckInInput {
  @IsString() @Length(1, 100, name) @NotBlank('The name') name: string;
  @IsArray(days)
  @ArrayMinSize(1, days)
  @ArrayUnique(days)
  @IsInt({ each: true, ...days })
  @Min(1, { each: true, ...days })
  @Max(7, { each: true, ...days })
  weekdays: number[];
  @Matches(CLOCK, time) time: string;
  @IsArray(questions)
  @ArrayMinSize(1, questions)
  @ArrayMaxSize(MOST_QUESTIONS, questions)
  @ValidateNested({ each: true })
  @Type(() => CheckInQuestion)
  questions: CheckInQuestion[];
  @Maybe() @IsBoolean() byMail?: boolean;
}

export class CheckInChange {
  @Maybe() @IsInt() version?: number;
  @Maybe() @IsString() @Length(1, 100, name) @NotBlank('The name') name?: string;
  @Maybe()
  @IsArray(days)
  @ArrayMinSize(1, days)
  @ArrayUnique(days)
  @IsInt({ each: true, ...days })
  @Min(1, { each: true, ...days })
  @Max(7, { each: true, ...days })
  weekdays?: number[];
  @Maybe() @Matches(CLOCK, time) time?: string;
  @Maybe()
  @IsArray(questions)
  @ArrayMinSize(1, questions)
  @ArrayMaxSize(MOST_QUESTIONS, questions)
  @ValidateNested({ each: true })
  @Type(() => CheckInQuestion)
  questions?: CheckInQuestion[];
  @Maybe() @IsBoolean() byMail?: boolean;
  /** It does not ask until it goes on. */
  @Maybe() @IsBoolean() paused?: boolean;
}

export class CheckInAnswerInput {
  @IsDay() day: string;
  /** By the ids of the questions; none at all: it is left out for this day. */
  @IsObject({ message: 'Answers are given by the ids of their questions.' }) answers: Record<string, AnswerValue>;
}

export interface CheckInRoutes {
  'GET /check-ins': { answer: CheckInInfo[] };
  'POST /check-ins': { body: CheckInInput; answer: Added; errors: 'bad-field' };
  'PATCH /check-ins/:id': { body: CheckInChange; answer: Done; errors: 'bad-field' };
  /** Takes it away with its answers. */
  'DELETE /check-ins/:id': { answer: Done };
  /** All answers, the latest day first. */
  'GET /check-ins/:id/answers': { answer: CheckInAnswerInfo[] };
  /** Answers for a day, or answers it anew. */
  'POST /check-ins/:id/answers': { status: 200; body: CheckInAnswerInput; answer: Done; errors: 'bad-field' };
}
