/** A content line (RFC 5545, 3.1) or a whole component, as it is written: with its folds and line ends. */
export interface RawItem {
  /** In small letters: of a property `summary`, of a component `begin:valarm`. */
  name: string;
  raw: string;
}

/** The lines of a text as they are written, each with the lines that continue it. */
export function rawLines(text: string): string[] {
  return text.match(/[^\r\n]*(?:(?:\r\n|\n|\r)[ \t][^\r\n]*)*(?:\r\n|\n|\r|$)/g)?.filter((line) => line.trim() !== '') ?? [];
}

/** A written line as one line. */
export const unfolded = (raw: string): string => raw.replace(/(?:\r\n|\n|\r)[ \t]/g, '').replace(/[\r\n]+$/, '');

/** What stands in a component, one level deep: its properties, and the components in it whole. */
export function itemsOf(component: string): RawItem[] {
  return grouped(rawLines(component).slice(1, -1));
}

/** Lines, with those of each component as one. */
export function grouped(lines: readonly string[]): RawItem[] {
  const items: RawItem[] = [];
  let [open, name, depth] = ['', '', 0];
  for (const raw of lines) {
    const [, edge = '', inner = ''] = /^(BEGIN|END):\s*([A-Za-z0-9-]+)/i.exec(raw) ?? [];
    if (edge.toUpperCase() === 'BEGIN') {
      if (depth === 0) name = `begin:${inner.toLowerCase()}`;
      depth += 1;
    }
    if (depth === 0) items.push({ name: /^[^:;\r\n]*/.exec(raw)?.[0].trim().toLowerCase() ?? '', raw });
    else open += raw;
    if (edge && edge.toUpperCase() === 'END' && depth > 0 && (depth -= 1) === 0) {
      items.push({ name, raw: open });
      open = '';
    }
  }
  // A component that does not end is kept as far as it goes.
  if (open) items.push({ name, raw: open });
  return items;
}

/** A component with other things in it. */
export function componentWith(component: string, items: readonly RawItem[]): string {
  const lines = rawLines(component);
  return [lines[0] ?? '', ...items.map(({ raw }) => raw), lines.at(-1) ?? ''].map(ended).join('');
}

/** A line or component that ends with a line end. */
export const ended = (raw: string): string => (/[\r\n]$/.test(raw) ? raw : `${raw}\r\n`);

/** A property: its parameters with what stands in quotes left so, and its value. */
export function propertyOf(raw: string): { parameters: { name: string; value: string }[]; value: string } {
  const line = unfolded(raw);
  const parameters: { name: string; value: string }[] = [];
  let at = /^[^:;]*/.exec(line)?.[0].length ?? 0;
  const next = /;([^=:;]*)=((?:"[^"]*"|[^":;])*)/y;
  while (line[at] === ';') {
    next.lastIndex = at;
    const found = next.exec(line);
    if (!found) break;
    parameters.push({ name: (found[1] ?? '').toLowerCase(), value: found[2] ?? '' });
    at = next.lastIndex;
  }
  return { parameters, value: line.slice(line.indexOf(':', at) + 1) };
}

export const parameterOf = (raw: string, name: string): string =>
  propertyOf(raw)
    .parameters.find((one) => one.name === name)
    ?.value.replace(/^"|"$/g, '') ?? '';

/** A property with another value of a parameter. */
export function withParameter(raw: string, name: string, value: string): string {
  const { parameters, value: said } = propertyOf(raw);
  const own = /^[^:;\r\n]*/.exec(raw)?.[0] ?? '';
  const known = parameters.some((one) => one.name === name);
  const all = known ? parameters.map((one) => (one.name === name ? { ...one, value } : one)) : [...parameters, { name, value }];
  return `${folded(`${own}${all.map((one) => `;${one.name.toUpperCase()}=${one.value}`).join('')}:${said}`)}\r\n`;
}

/** A line of at most 75 bytes, and its continuations (3.1); no letter is cut in two. */
export function folded(line: string): string {
  if (/^[\u0000-\u007f]*$/.test(line)) return line.length <= 75 ? line : line.replace(/^.{75}|(?!^).{1,74}/gs, foldedPart);
  const parts: string[] = [];
  let [part, size] = ['', 0];
  for (const letter of line) {
    const bytes = Buffer.byteLength(letter);
    if (size + bytes > (parts.length ? 74 : 75)) {
      parts.push(part);
      [part, size] = ['', 0];
    }
    part += letter;
    size += bytes;
  }
  return [...parts, part].join('\r\n ');
}

const foldedPart = (part: string, at: number): string => (at === 0 ? part : `\r\n ${part}`);
