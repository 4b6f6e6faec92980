import type { Draft } from './send';

export const MAREN = 'maren.holt@capture.example';

/** Letters ready to send, so that the page needs no typing. */
export const LETTERS: Draft[] = [
  {
    from: 'Tomas Rieger <tomas.rieger@county-water.example>',
    to: MAREN,
    subject: 'Gauge 9: photo of the staff',
    text: 'Hello Maren,\n\ncould you send me a photo of the staff at gauge 9 by tomorrow? It takes ten minutes at most.\n\nBest regards\nTomas Rieger',
  },
  {
    from: 'Ines Aalto <ines@aalto-timber.example>',
    to: MAREN,
    subject: 'Delivery of the decking',
    text: 'Hello Maren,\n\nthe lorry comes on Thursday at 8:30. Can we meet at the north gate? Half an hour is enough.\n\nRegards\nInes Aalto',
  },
  {
    from: 'Karl Moos <karl.moos@nordweg.example>',
    to: MAREN,
    subject: 'Zaun',
    text: 'Liebe Frau Holt,\n\nkönnten Sie bitte bis Freitag den Zaun am Nordweg ansehen? Das dauert etwa eine Stunde.\n\nMit freundlichen Grüßen\nKarl Moos',
  },
  {
    from: 'Pia Keller <pia.keller@alderfen.example>',
    to: MAREN,
    subject: 'Cake',
    text: 'Hi Maren,\n\nthere is cake in the hut.\n\nPia',
  },
];
