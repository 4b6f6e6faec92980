import { readMail, readMbox, readVcards, type VcardItem } from '.';

// eslint-disable-next-line @typescript-eslint/require-await
async function* once(bytes: Buffer | string) {
  yield Buffer.from(bytes);
}
const cards = async (bytes: Buffer | string): Promise<VcardItem[]> => {
  const all: VcardItem[] = [];
  for await (const item of readVcards(once(bytes))) all.push(item);
  return all;
};
const box = async (text: string): Promise<string[]> => {
  const all: string[] = [];
  for await (const one of readMbox(once(text), 1e6)) all.push(one?.toString() ?? '');
  return all;
};

describe('a message without a blank line after its headers', () => {
  it.each([
    [
      'plain',
      'From: T <t@x.example>\r\nSubject: Level\r\nThe level rose.\r\nSecond line: with a colon\r\n',
      'The level rose.\nSecond line: with a colon',
    ],
    ['folded headers before it', 'Subject: a\r\n folded one\r\nDear Maren,\r\n', 'Dear Maren,'],
    ['with one, as ever', 'Subject: s\r\n\r\nNo change\r\n', 'No change'],
  ])('keeps its body: %s', async (_name, raw, text) => {
    expect((await readMail(Buffer.from(raw))).text).toBe(text);
  });
});

describe('an mbox', () => {
  const from = 'From tomas@x.example Mon Aug  3 09:00:00 2026';
  it('is not cut by a sentence that begins with From', async () => {
    const all = await box(`${from}\nSubject: 1\n\nSo:\n\nFrom tomorrow on at 10:00 we count.\n\n${from}\nSubject: 2\n\nx\n`);
    expect(all.map((one) => /Subject: (\d)/.exec(one)?.[1])).toEqual(['1', '2']);
    expect(all[0]).toContain('From tomorrow on');
  });

  it('loses no message where the blank line before a separator is missing', async () => {
    const ends = [
      from,
      'From - Mon Aug 03 09:00:00 2026',
      'From t@x.example Mon Aug  3 09:00:00 2026 +0200',
      'From t@x.example Mon, 3 Aug 2026 09:00:00 +0200',
      'From "T R" Mon Aug  3 09:00 CEST 2026',
    ];
    expect(await box(ends.map((line, at) => `${line}\nSubject: ${at}\n\ntext\n`).join(''))).toHaveLength(ends.length);
  });
});

describe('cards of older versions', () => {
  it('vCard 2.1: bare types, quoted-printable over lines, an escaped semicolon', async () => {
    const text = [
      'BEGIN:VCARD',
      'VERSION:2.1',
      'N:Rieger;Tomas',
      'FN;CHARSET=UTF-8;ENCODING=QUOTED-PRINTABLE:Tomas R=C3=BC=',
      'ger',
      'EMAIL;INTERNET;PREF:Tomas@x.example',
      'TEL;WORK;VOICE:+43 1',
      'ORG:County\\; Water;Gauges',
      'NOTE:a\\nb',
      'END:VCARD',
      '',
    ].join('\r\n');
    expect(await cards(text)).toEqual([
      {
        type: 'person',
        person: {
          name: 'Tomas Rüger',
          addresses: ['tomas@x.example'],
          phone: '+43 1',
          organisation: 'County; Water, Gauges',
          note: 'a\nb',
        },
      },
    ]);
  });

  it('in Latin-1, and folded in the middle of a letter of UTF-8', async () => {
    const card = (name: string) => `BEGIN:VCARD\r\nVERSION:3.0\r\nFN:${name}\r\nEND:VCARD\r\n`;
    expect(await cards(Buffer.from(card('Jörg Grün'), 'latin1'))).toMatchObject([{ person: { name: 'Jörg Grün' } }]);
    const bytes = Buffer.from(card('Jörg Grün'));
    const cut = bytes.indexOf(Buffer.from('ö')) + 1;
    expect(await cards(Buffer.concat([bytes.subarray(0, cut), Buffer.from('\r\n '), bytes.subarray(cut)]))).toMatchObject([
      { person: { name: 'Jörg Grün' } },
    ]);
  });

  it('with one line that is none, keep the others', async () => {
    expect(await cards('BEGIN:VCARD\nVERSION:4.0\nno line\nFN:Noor\n\u0000\nEND:VCARD\n')).toMatchObject([
      { person: { name: 'Noor' } },
    ]);
  });
});
