import { MAIL_LIMITS, type MailLimits } from './limits';
import { readMail } from './readMail';

const mail = (head: string, body = 'Hello.', encoding: BufferEncoding = 'utf8') =>
  Buffer.from(`${head.trim().replace(/\n/g, '\r\n')}\r\n\r\n${body.replace(/\n/g, '\r\n')}`, encoding);
const FROM =
  'From: Tomas Rieger <Tomas.Rieger@County-Water.example>\nSubject: Readings\nDate: Sun, 2 Aug 2026 18:20:00 +0200\nMessage-ID: <a1@county-water.example>';

describe('readMail', () => {
  it('reads sender, date with its offset, ids and thread', async () => {
    const read = await readMail(
      mail(`${FROM}\nTo: Maren <maren@alderfen.example>\nIn-Reply-To: <b@x.example>\nReferences: <r@x.example> <b@x.example>`),
    );
    expect(read).toMatchObject({
      from: { name: 'Tomas Rieger', address: 'tomas.rieger@county-water.example' },
      messageId: 'a1@county-water.example',
      references: ['r@x.example', 'b@x.example'],
      dateOffset: 120,
      text: 'Hello.',
      problems: [],
    });
    expect(new Date(read.date ?? 0).toISOString()).toBe('2026-08-02T16:20:00.000Z');
  });

  it.each<[string, string, string]>([
    ['as it is', '8bit', 'latin1'],
    ['quoted-printable', 'quoted-printable', ''],
    ['base64', 'base64', ''],
  ])('knows a character set that only the HTML says: %s', async (_name, encoding) => {
    const html = Buffer.from('<html><head><meta charset="iso-8859-2"></head><body>P\u00f8\u00edli\u00b9</body></html>', 'latin1');
    const coded = {
      '8bit': html.toString('latin1'),
      'quoted-printable': html
        .toString('latin1')
        .replace(/[=\u0080-\u00ff]/g, (one) => `=${one.charCodeAt(0).toString(16).toUpperCase()}`),
      base64: html.toString('base64'),
    }[encoding] as string;
    const inner = `Content-Type: text/html\nContent-Transfer-Encoding: ${encoding}`;
    expect((await readMail(mail(`${FROM}\n${inner}`, coded, 'latin1'))).text).toBe('Příliš');
    const parts = `--b\nContent-Type: text/plain\n\n \n--b\n${inner}\n\n${coded}\n--b--\n`;
    expect((await readMail(mail(`${FROM}\nContent-Type: multipart/alternative; boundary=b`, parts, 'latin1'))).html).toContain(
      'Příliš',
    );
  });

  it('a NUL in the body is left out, and a subject of 3,000 letters is shortened and said', async () => {
    const read = await readMail(mail(FROM.replace('Readings', 'Readings '.repeat(333)), 'Hel\0lo.'));
    expect(read.text).toBe('Hello.');
    expect(read.subject).toMatch(/^Readings Readings.{900,990}…$/);
    expect(read.problems).toEqual([expect.stringContaining('2996 letters')]);
    await expect(readMail(Buffer.from('\x7fELF: \0\0 x\r\n\r\nx'))).rejects.toThrow('not a mail');
  });

  it.each<[string, string, BufferEncoding, string]>([
    [
      'quoted-printable in an old charset',
      'Content-Type: text/plain; charset=iso-8859-1\nContent-Transfer-Encoding: quoted-printable\n\nGr=FC=DFe',
      'utf8',
      'Grüße',
    ],
    ['base64', 'Content-Type: text/plain; charset=utf-8\nContent-Transfer-Encoding: base64\n\nR3LDvMOfZQ==', 'utf8', 'Grüße'],
    [
      'bytes of windows-1252',
      'Content-Type: text/plain; charset=windows-1252\nContent-Transfer-Encoding: 8bit\n\nGr\u00fc\u00dfe',
      'latin1',
      'Grüße',
    ],
  ])('decodes %s', async (_name, rest, encoding, text) => {
    const [head = '', body = ''] = rest.split('\n\n');
    expect((await readMail(mail(`${FROM}\n${head}`, body, encoding))).text).toBe(text);
  });

  it('reads nested multiparts, attachments with safe names, and attached messages', async () => {
    const body = [
      '--o',
      'Content-Type: multipart/alternative; boundary=i',
      '',
      '--i',
      'Content-Type: text/plain',
      '',
      'plain',
      '--i',
      'Content-Type: text/html',
      '',
      '<p>rich</p>',
      '--i--',
      '--o',
      'Content-Type: application/pdf; name="../../etc/quote.pdf"',
      'Content-Disposition: attachment; filename="../../etc/quote.pdf"',
      'Content-Transfer-Encoding: base64',
      '',
      'JVBERg==',
      '--o',
      'Content-Type: message/rfc822',
      '',
      'Subject: inner',
      '',
      'inside',
      '--o--',
      '',
    ].join('\n');
    const read = await readMail(mail(`${FROM}\nMIME-Version: 1.0\nContent-Type: multipart/mixed; boundary=o`, body));
    expect([read.text, read.html]).toEqual(['plain', '<p>rich</p>']);
    expect(read.attachments.map((part) => [part.name, part.type, part.content.toString('latin1').slice(0, 14)])).toEqual([
      ['quote.pdf', 'application/pdf', '%PDF'],
      ['attached message.eml', 'message/rfc822', 'Subject: inner'],
    ]);
  });

  it('makes text of a message that is only HTML', async () => {
    expect((await readMail(mail(`${FROM}\nContent-Type: text/html`, '<h1>Gate</h1><p>Could you <b>look</b>?</p>'))).text).toMatch(
      /Gate\n+Could you look\?/,
    );
  });

  it('says what is missing and goes on', async () => {
    const read = await readMail(mail('Subject: x\nContent-Type: text/plain; charset=nonsense-9', 'caf\u00e9', 'latin1'));
    expect(read).toMatchObject({ from: null, date: null, messageId: null });
    expect(read.problems).toEqual([
      'The message has no readable date; the time of arrival is used.',
      'The message names the character set “nonsense-9”, which is unknown; some letters may be wrong.',
    ]);
  });

  it('keeps the headers of a message with 200 nested parts, quickly', async () => {
    const parts = Array.from({ length: 200 }, (_, at) => `Content-Type: multipart/mixed; boundary=b${at}\n\n--b${at}`).join('\n');
    const read = await readMail(
      mail(`${FROM}\nMIME-Version: 1.0\n${parts.split('\n\n')[0]}`, parts.split('\n').slice(2).join('\n')),
    );
    expect(read.subject).toBe('Readings');
    expect(read.problems.join()).toMatch(/levels of nested parts, too many to open/);
  });

  it.each<[string, Buffer, string, Partial<MailLimits>]>([
    ['nothing', Buffer.alloc(0), 'empty', {}],
    ['white space', Buffer.from('\r\n \r\n'), 'empty', {}],
    ['a text without headers', Buffer.from('just some words\n\nand more'), 'not-mail', {}],
    ['a picture', Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0, 13]), 'not-mail', {}],
    ['what is too large', mail(FROM, 'x'.repeat(2000)), 'too-large', { maxBytes: 1000 }],
  ])('refuses %s with a code', async (_name, bytes, code, limits) => {
    await expect(readMail(bytes, undefined, { ...MAIL_LIMITS, ...limits })).rejects.toMatchObject({ code });
  });

  it('knows what is sent to many by its headers', async () => {
    for (const header of ['List-Unsubscribe: <mailto:leave@x.example>', 'Precedence: bulk', 'Auto-Submitted: auto-generated'])
      expect((await readMail(mail(`${FROM}\n${header}`))).bulk).toBe(true);
    expect((await readMail(mail(`${FROM}\nAuto-Submitted: no`))).bulk).toBe(false);
  });

  it('shows attached pictures, and no others', async () => {
    const body = [
      '--r',
      'Content-Type: text/html',
      '',
      '<img src="cid:p1"><img src="cid:nope"><img src="https://x.example/t.gif">',
      '--r',
      'Content-Type: image/png',
      'Content-ID: <p1>',
      'Content-Transfer-Encoding: base64',
      '',
      'iVBORw0KGgo=',
      '--r--',
      '',
    ].join('\n');
    const read = await readMail(
      mail(`${FROM}\nMIME-Version: 1.0\nContent-Type: multipart/related; boundary=r`, body),
      () => '/api/attachments/p',
    );
    expect(read.html).toContain('<img src="/api/attachments/p"');
    expect(read.heldBack?.remoteImages).toBe(2);
  });
});
