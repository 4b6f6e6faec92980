import fc from 'fast-check';
import { readMultistatus } from './readMultistatus';
import { XmlError, readXml } from './readXml';

const problemOf = (text: string, limits?: Parameters<typeof readXml>[1]) => {
  try {
    readXml(text, limits);
    return '';
  } catch (problem) {
    expect(problem).toBeInstanceOf(XmlError);
    return (problem as Error).message;
  }
};

describe('XML from others', () => {
  it('gives names with their namespaces, attributes, and texts with their CDATA', () => {
    const root = readXml('<a xmlns="DAV:" xmlns:c="urn:c"><c:b name="x">one <![CDATA[<two>]]></c:b><d/> three</a>');
    expect(root).toMatchObject({ ns: 'DAV:', local: 'a', text: ' three' });
    expect(root.children.map(({ ns, local, text }) => [ns, local, text])).toEqual([
      ['urn:c', 'b', 'one <two>'],
      ['DAV:', 'd', ''],
    ]);
    expect(root.children[0]?.attributes).toMatchObject({ name: 'x' });
  });

  it('too deep, too many, a document type, half of it, none at all: each is said', () => {
    expect(problemOf(`${'<a xmlns:p="u">'.repeat(30)}`)).toMatch(/too deep/);
    expect(
      problemOf(`<a>${'<b/>'.repeat(60)}</a>`, { maxDepth: 5, maxElements: 50, maxAttributes: 5, maxCharacters: 1e6 }),
    ).toMatch(/too many elements/);
    expect(problemOf(`<a ${Array.from({ length: 60 }, (_, at) => `xmlns:p${at}="u"`).join(' ')}/>`)).toMatch(
      /too many attributes/,
    );
    expect(problemOf('<!DOCTYPE a [<!ENTITY b "c">]><a>&b;</a>')).toMatch(/document type/);
    for (const half of ['<a><b>', '<a></b>', '', ' '.repeat(1000), 'BEGIN:VCALENDAR', '<p:a/>'])
      expect(problemOf(half)).toMatch(/no XML/);
  });

  it('whatever it is, it is read or said, in one pass', () => {
    const soup = fc
      .array(
        fc.constantFrom(
          ...[
            '<a>',
            '</a>',
            '<d:response xmlns:d="DAV:">',
            '</d:response>',
            '<',
            '>',
            '&amp;',
            '&x;',
            ' ',
            '<!--',
            '-->',
            '<?x',
            '?>',
            '<![CDATA[',
            ']]>',
            'é',
            '\u0000',
            '"',
            "='",
          ],
        ),
        { maxLength: 60 },
      )
      .map((parts) => parts.join(''));
    fc.assert(
      fc.property(soup, (text) => void problemOf(text)),
      { numRuns: 400 },
    );
  });
});

describe('a multistatus', () => {
  it('says of each resource what it gave, what it has not, and what is gone', () => {
    const read = readMultistatus(
      `<d:multistatus xmlns:d="DAV:"><d:response><d:href>/a.ics</d:href>
        <d:propstat><d:prop><d:getetag>"1"</d:getetag></d:prop><d:status>HTTP/1.1 200 OK</d:status></d:propstat>
        <d:propstat><d:prop><d:owner/></d:prop><d:status>HTTP/1.1 404 Not Found</d:status></d:propstat></d:response>
       <d:response><d:href>/b.ics</d:href><d:status>HTTP/1.1 404 Not Found</d:status></d:response>
       <d:sync-token>urn:2</d:sync-token></d:multistatus>`,
    );
    expect(read.syncToken).toBe('urn:2');
    expect(
      read.responses.map(({ href, status, props }) => [href, status, props.map(({ local, text }) => `${local} ${text}`)]),
    ).toEqual([
      ['/a.ics', null, ['getetag "1"']],
      ['/b.ics', 404, []],
    ]);
    expect(() => readMultistatus('<html/>')).toThrow(XmlError);
  });
});
