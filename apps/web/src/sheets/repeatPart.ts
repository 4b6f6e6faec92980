import { readRepeat, sayRule } from '@corvun/core';
import { capital, type Part, type Saying } from './part';

const REPEATS = [
  'FREQ=DAILY',
  'FREQ=WEEKLY;BYDAY=MO,TU,WE,TH,FR',
  'FREQ=WEEKLY',
  'FREQ=WEEKLY;INTERVAL=2',
  'FREQ=MONTHLY',
  'FREQ=YEARLY',
];

/** How something repeats, in words; several rules are parted by line breaks. */
export const repeatPart = (
  repeat: string | null,
  saying: Pick<Saying, 'today' | 'now' | 'zone'>,
): Part<{ repeat?: string | null }> => ({
  label: 'Repeats',
  shown:
    repeat &&
    repeat
      .split('\n')
      .map((rule) => sayRule(rule, saying.today))
      .join(' and '),
  words: {
    text: repeat ? sayRule(repeat, saying.today) : '',
    placeholder: 'every other Tuesday',
    read: (text) => {
      const rule = readRepeat(text, saying);
      return rule
        ? { change: { repeat: rule }, says: sayRule(rule, saying.today) }
        : 'Not a repeat. Write “every Mon and Thu”, “every 2 weeks” or “every last Friday of the month”.';
    },
  },
  choices: [
    ...REPEATS.map((rule) => ({ says: capital(sayRule(rule, saying.today)), on: repeat === rule, change: { repeat: rule } })),
    { says: 'Does not repeat', on: repeat === null, change: repeat === null ? {} : { repeat: null } },
  ],
});
