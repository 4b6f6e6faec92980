import { readVcards, type VcardItem } from './readVcards';

async function all(text: string, size = text.length || 1): Promise<VcardItem[]> {
  const chunks = Array.from({ length: Math.ceil(text.length / size) }, (_, at) =>
    Buffer.from(text.slice(at * size, (at + 1) * size)),
  );
  const items: VcardItem[] = [];
  async function* stream() {
    yield* await Promise.resolve(chunks);
  }
  for await (const item of readVcards(stream())) items.push(item);
  return items;
}
const card = (...lines: string[]) => ['BEGIN:VCARD', 'VERSION:4.0', ...lines, 'END:VCARD', ''].join('\r\n');
const TOMAS = card(
  'FN:Tomas Rieger',
  'N:Rieger;Tomas;;;',
  'EMAIL;TYPE=work:Tomas.Rieger@county-water.example',
  'EMAIL:tomas@rieger.example',
  'TEL;VALUE=uri:tel:+43-1-0000',
  'ORG:County water;Hydrology',
  'NOTE:Prefers mornings\\, before ten',
  'PHOTO;ENCODING=b:AAAA',
  ' BBBB',
);

describe('contacts (RFC 6350)', () => {
  it('reads name, addresses, phone, organisation and note, however the stream is cut', async () => {
    for (const size of [TOMAS.length, 7, 1])
      expect(await all(TOMAS, size)).toEqual([
        {
          type: 'person',
          person: {
            name: 'Tomas Rieger',
            addresses: ['tomas.rieger@county-water.example', 'tomas@rieger.example'],
            phone: '+43-1-0000',
            organisation: 'County water, Hydrology',
            note: 'Prefers mornings, before ten',
          },
        },
      ]);
  });

  it('a broken card does not take its neighbours with it', async () => {
    const items = await all(
      `${TOMAS}${card('EMAIL:not an address')}BEGIN:VCARD\r\nnonsense\r\nEND:VCARD\r\n${card('FN:Mina Lund')}`,
    );
    expect(items.map((item) => (item.type === 'person' ? item.person.name : item.at))).toEqual([
      'Tomas Rieger',
      'card 2',
      'card 3',
      'Mina Lund',
    ]);
  });

  it('says so when the file ends early or holds none', async () => {
    expect(await all(`${TOMAS}BEGIN:VCARD\r\nFN:Half`)).toMatchObject([
      { type: 'person' },
      { type: 'refused', at: 'card 2', reason: 'The file ends in the middle of it.' },
    ]);
    expect(await all('')).toEqual([{ type: 'refused', at: '', reason: 'There is no contact in this file.' }]);
  });
});
