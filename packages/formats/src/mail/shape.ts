/** How an HTML body is built, from one look at each of its characters. */
export interface HtmlShape {
  depth: number;
  elements: number;
  /** Tables inside tables. */
  tables: number;
}

export interface HtmlLimits {
  /** Elements inside elements. */
  maxDepth: number;
  maxElements: number;
}

const VOID = new Set([
  'area',
  'base',
  'br',
  'col',
  'embed',
  'hr',
  'img',
  'input',
  'link',
  'meta',
  'param',
  'source',
  'track',
  'wbr',
]);
/** End tags that people and programs leave out; what is open of them does not nest. */
const LOOSE = new Set(['p', 'li', 'td', 'th', 'tr', 'dt', 'dd', 'option', 'tbody', 'thead', 'tfoot']);

/**
 * Counts elements and their depth before anything builds a tree: cleaning and turning into text take time with the square
 * of the depth. Stops at a limit.
 */
export function shapeOf(html: string, { maxDepth, maxElements }: HtmlLimits): HtmlShape {
  const shape: HtmlShape = { depth: 0, elements: 0, tables: 0 };
  let [open, tables] = [0, 0];
  for (const { name, closes } of tagsIn(html)) {
    if (!closes) {
      shape.elements += 1;
      if (name === 'table') shape.tables = Math.max(shape.tables, (tables += 1));
      if (!VOID.has(name) && !LOOSE.has(name)) open += 1;
    } else if (!VOID.has(name) && !LOOSE.has(name)) {
      open = Math.max(0, open - 1);
      if (name === 'table') tables = Math.max(0, tables - 1);
    }
    shape.depth = Math.max(shape.depth, open + 2 * tables);
    if (shape.depth > maxDepth || shape.elements > maxElements) break;
  }
  return shape;
}

function* tagsIn(html: string): Generator<{ name: string; closes: boolean }> {
  const name = /[a-zA-Z][a-zA-Z0-9:-]{0,40}/y;
  for (let at = html.indexOf('<'); at >= 0; at = html.indexOf('<', at + 1)) {
    const closes = html[at + 1] === '/';
    name.lastIndex = at + (closes ? 2 : 1);
    const found = name.exec(html)?.[0];
    if (found) yield { name: found.toLowerCase(), closes };
  }
}

const ENTITIES: Record<string, string> = { amp: '&', lt: '<', gt: '>', quot: '"', apos: "'", nbsp: ' ' };

/** The words of HTML that is too large or too deep to be read as a tree; each character is looked at once or twice. */
export function bareText(html: string): string {
  const parts: string[] = [];
  const lower = html.toLowerCase();
  const unclosed = new Set<string>();
  let at = 0;
  while (at < html.length) {
    const tag = html.indexOf('<', at);
    if (tag < 0) {
      parts.push(html.slice(at));
      break;
    }
    if (tag > at) parts.push(html.slice(at, tag));
    const end = html.indexOf('>', tag);
    if (end < 0) break;
    const name = /^<\/?([a-z0-9]{0,12})/i.exec(html.slice(tag, tag + 16))?.[1]?.toLowerCase() ?? '';
    if (/^(?:br|p|div|tr|li|h[1-6]|table|blockquote)$/.test(name)) parts.push('\n');
    const skipped = (name === 'script' || name === 'style') && !unclosed.has(name);
    const closing = skipped ? lower.indexOf(`</${name}`, end) : -1;
    if (skipped && closing < 0) unclosed.add(name);
    at = closing >= 0 ? closing : end + 1;
  }
  return parts
    .join('')
    .replace(/&(#\d{1,6}|[a-z]{2,6});/gi, (whole, entity: string) =>
      entity.startsWith('#')
        ? String.fromCodePoint(Math.min(Number(entity.slice(1)), 0x10ffff))
        : (ENTITIES[entity.toLowerCase()] ?? whole),
    )
    .replace(/[ \t]{2,}/g, ' ')
    .replace(/\n(?:[ \t]*\n){2,}/g, '\n\n')
    .trim();
}
