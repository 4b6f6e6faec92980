import { instantOf } from '../time/zones';
import { readMessage, type MessageFacts } from './facts';

/** A message, and what a careful reader finds in it. Written on Sunday, 2 August 2026, 18:20. */
interface Marked {
  text: string;
  /** Beginnings of the sentences that ask something. */
  asks: string[];
  /** Value and role of each date that is still ahead. */
  dates: [string, string][];
  minutes: number | null;
}

const CORPUS: Marked[] = [
  {
    text: 'Hi Maren,\n\ncan you check the budget by Friday? It should take an hour.\n\nThanks\nEmil',
    asks: ['can you check the budget'],
    dates: [['2026-08-07', 'deadline']],
    minutes: 60,
  },
  {
    text: 'Dear Ms Holt,\n\nthe permit for the west ditch is granted. No action is needed.\n\nCounty Permit Office',
    asks: [],
    dates: [],
    minutes: null,
  },
  {
    text: 'Hello,\n\nplease return the signed form no later than 12 August. Kindly state the number of volunteers.\n\nLowland Mutual',
    asks: ['please return the signed form', 'Kindly state the number'],
    dates: [['2026-08-12', 'deadline']],
    minutes: null,
  },
  {
    text: 'Maren,\n\nshall we talk on Tuesday at 15:00? 45 minutes are enough.\n\nCheers\nLea',
    asks: ['shall we talk'],
    dates: [['2026-08-04T15:00', 'meeting']],
    minutes: 45,
  },
  {
    text: 'Hello Maren,\n\nthe crane is back. We start on Monday with section C.\n\nInes',
    asks: [],
    dates: [['2026-08-03', 'mention']],
    minutes: null,
  },
  {
    text: 'Could you let me know until when the boardwalk is closed? We go to print on 6 August.\n\nDana Frost',
    asks: ['Could you let me know'],
    dates: [['2026-08-06', 'mention']],
    minutes: null,
  },
  {
    text: 'Hi,\n\nI need the photos from you before Thursday. The leaflet waits for them.\n\nPia',
    asks: ['I need the photos'],
    dates: [['2026-08-06', 'deadline']],
    minutes: null,
  },
  {
    text: 'Dear Maren,\n\nthank you for the figures. They are complete.\n\nKind regards\nRuth',
    asks: [],
    dates: [],
    minutes: null,
  },
  {
    text: 'Would you write a few lines for the thank-you cards? By end of next week would be great.\n\nPia',
    asks: ['Would you write a few lines'],
    dates: [['2026-08-07', 'deadline']],
    minutes: null,
  },
  {
    text: 'Hello Maren,\n\ndo you have nets for 24 children? They come on 20 August at 9:00.\n\nVera Stein',
    asks: ['do you have nets'],
    dates: [['2026-08-20T09:00', 'mention']],
    minutes: null,
  },
  {
    text: 'The invoice is due on 13 August. Please check it against the delivery note; ten minutes will do.\n\nEmil',
    asks: ['The invoice is due', 'Please check it'],
    dates: [['2026-08-13', 'deadline']],
    minutes: 10,
  },
  {
    text: 'Hello,\n\nthere was a loose dog near the lapwings again. I just wanted you to know.\n\nHanna Vogt',
    asks: [],
    dates: [],
    minutes: null,
  },
  {
    text: 'Maren, order the hose today, it must be here before Thursday. Can you?\n\nJonas',
    asks: ['Maren, order the hose', 'Can you?'],
    dates: [
      ['2026-08-02', 'deadline'],
      ['2026-08-06', 'deadline'],
    ],
    minutes: null,
  },
  {
    text: 'Dear all,\n\nthe rehearsal is on Friday at 19:30 in the old school this time.\n\nGerd',
    asks: [],
    dates: [['2026-08-07T19:30', 'meeting']],
    minutes: null,
  },
  {
    text: 'Hi Maren,\n\nplease find the minutes attached.\n\nGerd',
    asks: [],
    dates: [],
    minutes: null,
  },
  {
    text: 'Hello Maren,\n\nif you want to speak at the hearing, please register by 11 August.\n\nCounty Permit Office',
    asks: ['if you want to speak'],
    dates: [['2026-08-11', 'deadline']],
    minutes: null,
  },
  {
    text: 'Who has the keys of the minibus, do you know? We leave at half past eight.\n\nPia',
    asks: ['Who has the keys'],
    dates: [],
    minutes: null,
  },
  {
    text: 'Hello,\n\nyou asked for the old maps. They are in the hut.\n\nTomas Rieger',
    asks: [],
    dates: [],
    minutes: null,
  },
  {
    text: 'We must ask you to move the seed boxes out of the shed before 31 August. It took us 2 hours last year.\n\nHanna Vogt',
    asks: ['We must ask you'],
    dates: [['2026-08-31', 'deadline']],
    minutes: 120,
  },
  {
    text: 'Hi,\n\nthe map in scale 1:1000 is missing. Please submit it by close of business tomorrow.\n\nPermits',
    asks: ['Please submit it'],
    dates: [['2026-08-03', 'deadline']],
    minutes: null,
  },
  {
    text: 'Hello Maren,\n\nI saw two cranes at the bird hide on Friday. They stayed for 20 minutes.\n\nHanna',
    asks: [],
    dates: [['2026-08-07', 'mention']],
    minutes: 20,
  },
  {
    text: 'You still owe me the timesheet. Could you send it tomorrow?\n\nEmil',
    asks: ['You still owe me', 'Could you send it'],
    dates: [['2026-08-03', 'deadline']],
    minutes: null,
  },
  {
    text: 'Dear Maren,\n\nour board meets in week 35. I would be grateful for your outline before that.\n\nRuth',
    asks: ['I would be grateful'],
    dates: [['2026-W35', 'meeting']],
    minutes: null,
  },
  {
    text: '- Mina counts the orchids\n- Maren: call the school about the nets, 10 min\n- next meeting Friday, 8:30',
    asks: ['Maren: call the school'],
    dates: [['2026-08-07T08:30', 'meeting']],
    minutes: 10,
  },
  {
    text: 'Liebe Frau Holt,\n\nbitte rufen Sie mich wegen der Weide an. Ich bin am Dienstag zu Hause.\n\nKarl Moos',
    asks: ['bitte rufen Sie mich'],
    dates: [['2026-08-04', 'mention']],
    minutes: null,
  },
  {
    text: 'Liebe Frau Holt,\n\ndie Kühe sind wieder auf der Weide. Das Wetter ist gut.\n\nMit freundlichen Grüßen\nKarl Moos',
    asks: [],
    dates: [],
    minutes: null,
  },
  {
    text: 'Hallo Maren,\n\nwir brauchen die Liste bis spätestens 10. August. Das dauert etwa anderthalb Stunden.\n\nViele Grüße\nUte',
    asks: ['wir brauchen die Liste'],
    dates: [['2026-08-10', 'deadline']],
    minutes: 90,
  },
  {
    text: 'Guten Tag,\n\nkönnten wir uns nächsten Mittwoch um 10 Uhr am Gatter treffen? Eine halbe Stunde reicht.\n\nKarl Moos',
    asks: ['könnten wir uns'],
    dates: [['2026-08-05T10:00', 'meeting']],
    minutes: 30,
  },
  {
    text: 'Liebe Frau Holt,\n\nhaben Sie den Schlüssel noch? Ich brauche ihn bis Freitag zurück.\n\nKarl Moos',
    asks: ['haben Sie den Schlüssel', 'Ich brauche ihn'],
    dates: [['2026-08-07', 'deadline']],
    minutes: null,
  },
  {
    text: 'Sehr geehrte Frau Holt,\n\nder Antrag ist vollständig. Die Frist ist der 31. August.\n\nAmt für Wasser',
    asks: [],
    dates: [['2026-08-31', 'deadline']],
    minutes: null,
  },
  {
    text: 'Hello Maren,\n\nmany thanks.\n\nOn Sat, 1 Aug 2026 at 10:00, Maren Holt wrote:\n> Could you send the plan by Monday?\n> It takes 15 minutes.',
    asks: [],
    dates: [],
    minutes: null,
  },
  {
    text: 'New plugs are in. Order now and save until 15 August.\n\nYou receive this mail because you are a customer. Unsubscribe: https://sedge-seed.example/leave',
    asks: [],
    dates: [['2026-08-15', 'deadline']],
    minutes: null,
  },
  {
    text: 'Hi Maren,\n\ncould you look at plot 12 in the next days? If you have any questions, feel free to call.\n\nLea',
    asks: ['could you look at plot 12'],
    dates: [],
    minutes: null,
  },
  {
    text: 'The water board meets on 18 August at 17:00 in room 12. Your written comments must reach us by 14 August.\n\nTomas Rieger',
    asks: ['Your written comments must reach us'],
    dates: [
      ['2026-08-18T17:00', 'meeting'],
      ['2026-08-14', 'deadline'],
    ],
    minutes: null,
  },
  {
    text: 'Maren,\n\nthe mayor can do lunch on 11 August at 12:30. Would you join us?\n\nOda',
    asks: ['Would you join us'],
    dates: [['2026-08-11T12:30', 'meeting']],
    minutes: null,
  },
  {
    text: 'Hello Maren,\n\nthe handrail costs 3 940. The price holds until 17 August. Please let me know whether you want oak or larch.\n\nInes',
    asks: ['Please let me know'],
    dates: [['2026-08-17', 'deadline']],
    minutes: null,
  },
];

interface Score {
  right: number;
  found: number;
  wanted: number;
}

function score(found: string[], wanted: string[]): Score {
  const left = [...wanted];
  let right = 0;
  for (const one of found) {
    const at = left.indexOf(one);
    if (at < 0) continue;
    left.splice(at, 1);
    right += 1;
  }
  return { right, found: found.length, wanted: wanted.length };
}

function sum(scores: Score[]): { precision: number; recall: number } {
  const total = scores.reduce((a, b) => ({ right: a.right + b.right, found: a.found + b.found, wanted: a.wanted + b.wanted }));
  return { precision: total.right / total.found, recall: total.right / total.wanted };
}

const facts = CORPUS.map(({ text }): MessageFacts =>
  readMessage({ text, written: instantOf('2026-08-02T18:20', 'Europe/Vienna'), zone: 'Europe/Vienna', names: ['Maren'] }),
);

const askScores = CORPUS.map(({ asks }, at) =>
  score(
    (facts[at]?.asks ?? []).map((ask) => asks.find((begin) => ask.text.startsWith(begin)) ?? `not asked: ${ask.text}`),
    asks,
  ),
);
const dateScores = CORPUS.map(({ dates }, at) =>
  score(
    (facts[at]?.dates ?? []).filter((date) => date.value >= '2026-08-02').map((date) => `${date.value} ${date.role}`),
    dates.map((date) => date.join(' ')),
  ),
);
const durationScores = CORPUS.map(({ minutes }, at) =>
  score(facts[at]?.minutes === null ? [] : [String(facts[at]?.minutes)], minutes === null ? [] : [String(minutes)]),
);

describe('the readers on a marked corpus', () => {
  it.each<[string, Score[], number, number]>([
    ['asks', askScores, 0.95, 0.95],
    ['dates with their role', dateScores, 0.9, 0.9],
    ['durations', durationScores, 0.95, 0.95],
  ])('%s', (_name, scores, leastPrecision, leastRecall) => {
    const { precision, recall } = sum(scores);
    const missed = scores.flatMap((one, at) =>
      one.right < Math.max(one.found, one.wanted) ? [CORPUS[at]?.text.slice(0, 60)] : [],
    );
    expect({ precision: precision >= leastPrecision, recall: recall >= leastRecall, missed }).toEqual({
      precision: true,
      recall: true,
      missed: expect.any(Array) as string[],
    });
  });
});
