import { SaxesParser } from 'saxes';

/** An element with its namespace; `text` is its own, without that of the elements in it. */
export interface XmlElement {
  ns: string;
  local: string;
  attributes: Record<string, string>;
  children: XmlElement[];
  text: string;
}

/** It is no XML, or more of it than is read. */
export class XmlError extends Error {
  readonly code = 'not-xml';
}

export interface XmlLimits {
  /** Elements inside elements. A prefix is looked up through all of them, so this bounds that, too. */
  maxDepth: number;
  maxElements: number;
  /** Of one element, declared prefixes among them. */
  maxAttributes: number;
  maxCharacters: number;
}
export const XML_LIMITS: XmlLimits = {
  maxDepth: 24,
  maxElements: 200_000,
  maxAttributes: 40,
  maxCharacters: 24 * 1024 * 1024,
};

/**
 * Reads a document in one pass, without a document type and its entities.
 * @throws XmlError with a sentence
 */
export function readXml(text: string, limits: XmlLimits = XML_LIMITS): XmlElement {
  if (text.length > limits.maxCharacters) throw new XmlError('It is more XML than is read at once.');
  const parser = new SaxesParser({ xmlns: true, position: false });
  const open: (XmlElement & { parts: string[] })[] = [];
  let root: XmlElement | null = null;
  let [elements, attributes] = [0, 0];
  const fail = (message: string): never => {
    throw new XmlError(message);
  };
  parser.on('error', (problem) => fail(`It is no XML: ${problem.message.slice(0, 200).replace(/\.$/, '')}.`));
  // An entity can stand for far more than was sent.
  parser.on('doctype', () => fail('A document type is not read.'));
  parser.on('opentagstart', () => {
    attributes = 0;
    if (open.length >= limits.maxDepth) fail('Its elements are too deep.');
    if ((elements += 1) > limits.maxElements) fail('It has too many elements.');
  });
  parser.on('attribute', () => {
    if ((attributes += 1) > limits.maxAttributes) fail('An element of it has too many attributes.');
  });
  parser.on('opentag', ({ uri, local, attributes: given }) => {
    const values = Object.values(given).map(({ local: name, prefix, value }) => [prefix ? `${prefix}:${name}` : name, value]);
    const element = {
      ns: uri,
      local,
      attributes: Object.fromEntries(values) as Record<string, string>,
      children: [],
      text: '',
      parts: [],
    };
    open.at(-1)?.children.push(element);
    open.push(element);
  });
  const keep = (piece: string) => void open.at(-1)?.parts.push(piece);
  parser.on('text', keep);
  parser.on('cdata', keep);
  parser.on('closetag', () => {
    const closed = open.pop();
    if (!closed) return;
    const { parts, ...element } = closed;
    element.text = parts.join('');
    const above = open.at(-1);
    if (above) {
      above.children[above.children.length - 1] = element;
    } else root = element;
  });
  parser.write(text).close();
  return root ?? fail('It is no XML: there is nothing in it.');
}

export const childOf = (element: XmlElement | null | undefined, ns: string, local: string): XmlElement | undefined =>
  element?.children.find((one) => one.ns === ns && one.local === local);

export const childrenOf = (element: XmlElement | null | undefined, ns: string, local: string): XmlElement[] =>
  element?.children.filter((one) => one.ns === ns && one.local === local) ?? [];
