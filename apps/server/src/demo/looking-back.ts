import { sayAnswer, type AnswerValue, type CheckInAnswers, type Question } from '@corvun/core';
import type { EntityManager } from 'typeorm';
import { newId } from '../base/ids';
import { CheckIn, CheckInAnswer } from '../lookback/check-in.entities';
import { LogLine } from '../lookback/log-line.entity';
import type { Around } from './world';

/** Working days back from today, and what was answered then. */
const EVENINGS: [back: number, well: string, clear: number, where: string, outside: boolean][] = [
  [1, 'The quote for the decking is read and answered.', 4, 'At the desk', true],
  [2, 'Nobody rang before ten.', 4, 'At the desk', true],
  [3, 'The crew found the old posts under the reed.', 3, 'On site', true],
  [4, '', 2, 'At the desk', false],
  [5, 'Pia has eleven for Saturday.', 4, 'On site', true],
  [7, 'Half of the results chapter stands.', 5, 'At the desk', false],
  [8, 'The county answered.', 3, 'On the way', false],
  [9, '', 2, 'At the desk', false],
  [10, 'Gauges are all back up.', 4, 'On site', true],
  [12, 'Emil and I agree on the half-year figures.', 3, 'At the desk', true],
  [14, 'A day without the phone.', 4, 'On site', true],
  [16, '', 2, 'At the desk', false],
  [18, 'The seed order fits the budget.', 3, 'At the desk', false],
  [21, 'First orchids counted.', 4, 'On site', true],
  [23, '', 3, 'On the way', false],
];
const LINES: [back: number, time: string | null, text: string][] = [
  [1, '07:50', 'Fog over the reed until ten, no gauge could be read.'],
  [3, '13:20', 'Karl asked about the gate again; he wants a key of his own.'],
  [5, null, 'Write down next time where the boat key is.'],
  [9, '16:40', 'Two cranes at the north bank.'],
];

/** What Maren wrote down of her days, and what she asks herself in the evening. */
export async function makeLookingBack(manager: EntityManager, ownerId: string, around: Around): Promise<void> {
  const begun = around.at(around.workday(-24), '08:00');
  const row = (at: number) => ({ id: newId(), ownerId, version: 1, created: at, changed: at });
  const question = (text: string, own: Partial<Question>): Question => ({
    ...{ id: newId(), text, kind: 'words', low: '', high: '', choices: [] },
    ...own,
  });
  const questions = [
    question('What went well?', {}),
    question('How clear was the day?', { kind: 'scale', low: 'muddled', high: 'clear' }),
    question('Where?', { kind: 'choice', choices: ['At the desk', 'On site', 'On the way'] }),
    question('Lunch outside?', { kind: 'yes-no' }),
  ];
  const evening = {
    ...row(begun),
    ...{ name: 'End of the day', weekdays: [1, 2, 3, 4, 5], time: '17:00', questions, byMail: false, paused: false },
    ...{ position: begun, askedOn: around.workday(-1) },
  };
  await manager.insert(CheckIn, evening);
  for (const [back, ...values] of EVENINGS) {
    const day = around.workday(-back);
    const at = around.at(day, '17:05');
    const answers: CheckInAnswers = questions.flatMap((asked, place) => {
      const value: AnswerValue = values[place] ?? '';
      return value === '' ? [] : [{ question: asked, value }];
    });
    const words = answers.map(sayAnswer).join('\n');
    await manager.insert(CheckInAnswer, { ...row(at), checkInId: evening.id, day, who: '', answers, words, answeredAt: at });
  }
  for (const [back, time, text] of LINES) {
    const day = around.workday(-back);
    await manager.insert(LogLine, { ...row(around.at(day, time ?? '17:00')), day, time, text });
  }
}
