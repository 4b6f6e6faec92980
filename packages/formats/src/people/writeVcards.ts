import type { Vcard } from './readVcards';

/** Contacts as vCard 4 (RFC 6350). */
export function writeVcards(people: readonly (Vcard & { uid: string })[]): string {
  return people
    .map(({ uid, name, addresses, phone, organisation, note }) =>
      [
        'BEGIN:VCARD',
        'VERSION:4.0',
        `UID:${escaped(uid)}`,
        `FN:${escaped(name || addresses[0] || 'Unknown')}`,
        ...addresses.map((address) => `EMAIL:${escaped(address)}`),
        ...(phone ? [`TEL;VALUE=text:${escaped(phone)}`] : []),
        ...(organisation ? [`ORG:${escaped(organisation)}`] : []),
        ...(note ? [`NOTE:${escaped(note)}`] : []),
        'END:VCARD',
        '',
      ].join('\r\n'),
    )
    .join('');
}

const escaped = (value: string) => value.replace(/[\\;,]/g, (letter) => `\\${letter}`).replace(/\r\n?|\n/g, '\\n');
