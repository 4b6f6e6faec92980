import MailComposer from 'nodemailer/lib/mail-composer';
import { invitationText, type DemoInvitation } from './invitations';
import { PEOPLE, type Around, type Who } from './world';

/** A message of the demo world, before it is bytes. */
export interface Letter {
  from: Who;
  subject: string;
  text: string;
  html?: string;
  /** Written at this instant. */
  at: number;
  newsletter?: boolean;
  files?: { name: string; type: string; content: string | Buffer }[];
  invitation?: DemoInvitation;
  inReplyTo?: string;
  /** It goes on with the latest of the past letters whose subject begins so. */
  goesOnWith?: string;
  /** Comes from a connected source instead, where the stand-ins run. */
  stoodIn?: boolean;
}

export const MAREN = { name: 'Maren Holt', address: 'maren.holt@alderfen.example' };

/** The Message-ID of a letter. */
export const messageIdOf = (key: string): string => `<${key}@demo.alderfen.example>`;

/** The message as it travels (RFC 5322), the same bytes for the same letter. */
export function letterBytes(letter: Letter, key: string, around: Around): Promise<Buffer> {
  const composer = new MailComposer({
    from: PEOPLE[letter.from],
    to: MAREN,
    subject: letter.subject,
    date: new Date(letter.at),
    messageId: messageIdOf(key),
    text: letter.text,
    ...(letter.html ? { html: letter.html } : {}),
    ...(letter.inReplyTo ? { inReplyTo: letter.inReplyTo, references: letter.inReplyTo } : {}),
    ...(letter.newsletter
      ? { headers: { 'List-Unsubscribe': `<mailto:leave@${PEOPLE[letter.from].address.split('@')[1]}>`, Precedence: 'bulk' } }
      : {}),
    ...(letter.invitation
      ? { icalEvent: { method: letter.invitation.method, content: invitationText(around, letter.invitation) } }
      : {}),
    attachments: (letter.files ?? []).map(({ name, type, content }) => ({ filename: name, contentType: type, content })),
  });
  const node = composer.compile();
  (node as unknown as { baseBoundary: string }).baseBoundary = `demo-${key}`;
  return node.build();
}

/** A one-page PDF with a few lines of text. */
export function smallPdf(lines: string[]): Buffer {
  const text = lines.map((line, at) => `BT /F1 12 Tf 60 ${780 - at * 20} Td (${line.replace(/[()\\]/g, '')}) Tj ET`).join('\n');
  const objects = [
    '<< /Type /Catalog /Pages 2 0 R >>',
    '<< /Type /Pages /Kids [3 0 R] /Count 1 >>',
    '<< /Type /Page /Parent 2 0 R /MediaBox [0 0 595 842] /Contents 4 0 R /Resources << /Font << /F1 5 0 R >> >> >>',
    `<< /Length ${text.length} >>\nstream\n${text}\nendstream`,
    '<< /Type /Font /Subtype /Type1 /BaseFont /Helvetica >>',
  ];
  let pdf = '%PDF-1.4\n';
  const offsets = objects.map((object, at) => {
    const offset = pdf.length;
    pdf += `${at + 1} 0 obj\n${object}\nendobj\n`;
    return offset;
  });
  const start = pdf.length;
  const table = offsets.map((offset) => `${String(offset).padStart(10, '0')} 00000 n \n`).join('');
  pdf += `xref\n0 ${objects.length + 1}\n0000000000 65535 f \n${table}trailer << /Size ${objects.length + 1} /Root 1 0 R >>\nstartxref\n${start}\n%%EOF\n`;
  return Buffer.from(pdf, 'latin1');
}
