import { Injectable } from '@nestjs/common';
import { InjectRepository } from '@nestjs/typeorm';
import type {
  Added,
  CheckInAnswerInfo,
  CheckInAnswerInput,
  CheckInChange,
  CheckInInfo,
  CheckInInput,
  Done,
  CheckInQuestion,
} from '@corvun/contract';
import {
  count,
  dayOf,
  isoInZone,
  lastAsked,
  nextAsked,
  sayAnswer,
  sayDay,
  wrongAnswer,
  wrongQuestion,
  type CheckInAnswers,
  type Question,
} from '@corvun/core';
import { In, MoreThanOrEqual, Repository } from 'typeorm';
import type { User } from '../accounts/user.entity';
import { Clock } from '../base/clock';
import { badField, notFound } from '../base/errors';
import { newId } from '../base/ids';
import { Kernel, byUser } from '../kernel/kernel.service';
import { CheckIn, CheckInAnswer } from './check-in.entities';

/** Who answers where nobody else is asked. */
export const ONESELF = '';

/** The questions one asks oneself again and again, and what was answered. */
@Injectable()
export class CheckInsService {
  constructor(
    @InjectRepository(CheckIn) private readonly checkIns: Repository<CheckIn>,
    @InjectRepository(CheckInAnswer) private readonly answers: Repository<CheckInAnswer>,
    private readonly kernel: Kernel,
    private readonly clock: Clock,
  ) {}

  async all(user: User): Promise<CheckInInfo[]> {
    const now = this.clock.now();
    const rows = await this.checkIns.find({ where: { ownerId: user.id }, order: { position: 'ASC', id: 'ASC' } });
    const asked = rows.map((row) => (row.paused ? null : lastAsked(row, now, row.created, user.zone)));
    const first = asked.flatMap((day) => day ?? []).sort()[0];
    const answered = first
      ? await this.answers.find({
          where: { ownerId: user.id, who: ONESELF, day: MoreThanOrEqual(first), checkInId: In(rows.map(({ id }) => id)) },
          select: { checkInId: true, day: true },
        })
      : [];
    const isAnswered = (id: string, day: string) => answered.some((one) => one.checkInId === id && one.day === day);
    return rows.map((row, at) => {
      const { id, name, weekdays, time, questions, byMail, paused, version } = row;
      const day = asked[at] ?? null;
      const next = paused ? null : nextAsked(row, now, user.zone);
      return {
        ...{ id, name, weekdays, time, questions, byMail, paused, version },
        open: day !== null && !isAnswered(id, day) ? day : null,
        next: next === null ? null : isoInZone(next, user.zone),
      };
    });
  }

  async add(user: User, { name, weekdays, time, questions, byMail = false }: CheckInInput): Promise<Added> {
    const asked = questionsOf(questions, []);
    const { decision, sentence, result } = await this.kernel.transact(byUser(user), async (work) => {
      const row = await work.insert('checkIn', {
        ...{ name: name.trim(), weekdays: [...weekdays].sort(), time, questions: asked, byMail },
        ...{ paused: false, position: work.now, askedOn: '' },
      });
      work.say({ action: 'change', sentence: `“${row.name}” asks ${count(asked.length, 'question')}` });
      return row.id;
    });
    return { decision, sentence, id: result };
  }

  async change(user: User, id: string, { version, questions, name, weekdays, ...change }: CheckInChange): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const row = await work.find('checkIn', id);
      const after = await work.update(
        'checkIn',
        row,
        {
          ...change,
          ...(name === undefined ? {} : { name: name.trim() }),
          ...(weekdays === undefined ? {} : { weekdays: [...weekdays].sort() }),
          ...(questions === undefined ? {} : { questions: questionsOf(questions, row.questions) }),
        },
        version,
      );
      const said = change.paused === undefined ? 'was changed' : after.paused ? 'does not ask until it goes on' : 'asks again';
      work.say({ action: 'change', sentence: `“${after.name}” ${said}` });
    });
    return { decision, sentence };
  }

  async remove(user: User, id: string): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const row = await work.find('checkIn', id);
      const answers = await work.manager.findBy(CheckInAnswer, { ownerId: user.id, checkInId: id });
      for (const answer of answers) await work.remove('checkInAnswer', answer);
      await work.remove('checkIn', row);
      const lost = answers.filter((one) => one.answers.length).length;
      work.say({
        action: 'remove',
        sentence: `“${row.name}” was taken away${lost ? `, with ${count(lost, 'answer')}` : ''}`,
      });
    });
    return { decision, sentence };
  }

  async answersOf(user: User, id: string): Promise<CheckInAnswerInfo[]> {
    if (!(await this.checkIns.existsBy({ id, ownerId: user.id }))) throw notFound('check-in with this id');
    const rows = await this.answers.find({ where: { ownerId: user.id, checkInId: id, who: ONESELF }, order: { day: 'DESC' } });
    return rows.map((row) => ({ id: row.id, day: row.day, answers: row.answers, at: isoInZone(row.answeredAt, user.zone) }));
  }

  /** Answers for a day; what was answered for it before is replaced. @throws Refusal 422 */
  async answer(user: User, id: string, { day, answers }: CheckInAnswerInput): Promise<Done> {
    const { decision, sentence } = await this.kernel.transact(byUser(user), async (work) => {
      const checkIn = await work.find('checkIn', id);
      const today = dayOf(work.now, user.zone);
      if (day > today) throw badField('day', `${sayDay(day, today)} is still to come.`);
      const before = await work.manager.findOneBy(CheckInAnswer, { ownerId: user.id, checkInId: id, day, who: ONESELF });
      // What was asked then can be answered then, even where it is not asked any more.
      const known = [...checkIn.questions, ...(before?.answers.map(({ question }) => question) ?? [])];
      const given = answersTo(known, answers);
      const own = { answers: given, words: given.map(sayAnswer).join('\n'), answeredAt: before?.answeredAt ?? work.now };
      if (before) await work.update('checkInAnswer', before, own);
      else await work.insert('checkInAnswer', { checkInId: id, day, who: ONESELF, ...own });
      const when = day === today ? '' : ` for ${sayDay(day, today)}`;
      work.say({ action: 'change', sentence: `“${checkIn.name}” is ${given.length ? 'answered' : 'left out'}${when}` });
    });
    return { decision, sentence };
  }
}

/** Questions that were sent, those that were there with their ids. @throws Refusal 422 */
function questionsOf(sent: readonly CheckInQuestion[], present: readonly Question[]): Question[] {
  const taken = new Set<string>();
  return sent.map(({ id, text, kind, low = '', high = '', choices = [] }) => {
    const own = { text: text.trim(), kind, low: low.trim(), high: high.trim(), choices: choices.map((one) => one.trim()) };
    const wrong = wrongQuestion(own);
    if (wrong) throw badField('questions', wrong);
    const known = id !== undefined && !taken.has(id) && present.some((one) => one.id === id) ? id : newId();
    taken.add(known);
    return { id: known, ...own };
  });
}

/** Answers with their questions, in the order of these. @throws Refusal 422 */
function answersTo(questions: readonly Question[], answers: Record<string, unknown>): CheckInAnswers {
  for (const id of Object.keys(answers))
    if (!questions.some((one) => one.id === id)) throw badField('answers', 'There is no such question in this check-in.');
  const seen = new Set<string>();
  return questions.flatMap((question): CheckInAnswers => {
    if (!Object.hasOwn(answers, question.id) || seen.has(question.id)) return [];
    seen.add(question.id);
    const value = answers[question.id];
    const wrong = wrongAnswer(question, value);
    if (wrong) throw badField('answers', `${question.text} ${wrong}`);
    return [{ question, value: value as CheckInAnswers[number]['value'] }];
  });
}
