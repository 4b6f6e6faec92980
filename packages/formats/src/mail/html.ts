import sanitizeHtml from 'sanitize-html';

/** What cleaning an HTML body kept from running or loading. Counts. */
export interface HeldBack {
  remoteImages: number;
  scripts: number;
  forms: number;
  links: number;
  styles: number;
}

export interface CleanHtml {
  html: string;
  heldBack: HeldBack;
}

const TAGS = [
  'a',
  'abbr',
  'b',
  'blockquote',
  'br',
  'caption',
  'cite',
  'code',
  'col',
  'colgroup',
  'dd',
  'del',
  'div',
  'dl',
  'dt',
  'em',
  'figcaption',
  'figure',
  'h1',
  'h2',
  'h3',
  'h4',
  'h5',
  'h6',
  'hr',
  'i',
  'img',
  'ins',
  'kbd',
  'li',
  'ol',
  'p',
  'pre',
  'q',
  's',
  'small',
  'span',
  'strong',
  'sub',
  'sup',
  'table',
  'tbody',
  'td',
  'tfoot',
  'th',
  'thead',
  'tr',
  'u',
  'ul',
  'center',
  'font',
];
const RUNS = new Set([
  'script',
  'object',
  'embed',
  'applet',
  'iframe',
  'frame',
  'frameset',
  'svg',
  'math',
  'base',
  'meta',
  'link',
  'video',
  'audio',
  'source',
  'template',
  'noscript',
]);
const FORMS = new Set(['form', 'input', 'button', 'select', 'textarea', 'option', 'isindex', 'keygen']);

// Only raster images: an SVG in a data: URL can carry scripts and remote references.
const EMBEDDED_IMAGE = /^data:image\/(?:png|jpe?g|gif|webp);base64,[a-z0-9+/=\s]*$/i;
const SAFE_LINK = /^(?:https?:\/\/|mailto:)/i;

/**
 * HTML of a message with everything taken out that runs, sends or loads.
 * Style attributes go too: positions and z-index reach outside a message, and url() loads.
 * @param imageOf address for an attached image by its Content-ID, or null when there is none
 */
export function cleanHtml(html: string, imageOf: (contentId: string) => string | null): CleanHtml {
  const heldBack: HeldBack = { remoteImages: 0, scripts: 0, forms: 0, links: 0, styles: 0 };
  const clean = sanitizeHtml(html, {
    allowedTags: TAGS,
    allowedAttributes: {
      a: ['href', 'title', 'target', 'rel'],
      img: ['src', 'alt', 'width', 'height', 'title'],
      td: ['colspan', 'rowspan', 'align'],
      th: ['colspan', 'rowspan', 'align', 'scope'],
      col: ['span'],
      ol: ['start'],
      '*': ['dir', 'lang'],
    },
    allowedSchemes: ['http', 'https', 'mailto', 'data'],
    allowedSchemesAppliedToAttributes: ['href', 'src'],
    allowProtocolRelative: false,
    nonTextTags: [
      'script',
      'style',
      'textarea',
      'option',
      'noscript',
      'title',
      'svg',
      'math',
      'object',
      'iframe',
      'template',
      'select',
    ],
    nestingLimit: 100,
    onOpenTag: (name, attributes) => {
      if (RUNS.has(name)) heldBack.scripts += 1;
      if (FORMS.has(name)) heldBack.forms += 1;
      if (name === 'style' || attributes['style']) heldBack.styles += 1;
      if (Object.keys(attributes).some((key) => key.toLowerCase().startsWith('on'))) heldBack.scripts += 1;
    },
    transformTags: {
      td: cell,
      th: cell,
      col: cell,
      colgroup: cell,
      a: (tagName, attributes): sanitizeHtml.Tag => {
        const href = (attributes['href'] ?? '').trim();
        if (!SAFE_LINK.test(href)) {
          if (href && !href.startsWith('#')) heldBack.links += 1;
          return { tagName: 'span', attribs: {} };
        }
        return { tagName, attribs: { href, target: '_blank', rel: 'noopener noreferrer nofollow' } };
      },
      img: (tagName, attributes): sanitizeHtml.Tag => {
        const source = (attributes['src'] ?? '').trim();
        const alt = attributes['alt'] ?? '';
        const attached = /^cid:/i.test(source) ? imageOf(source.slice(4)) : null;
        if (attached) return { tagName, attribs: { src: attached, alt } };
        if (EMBEDDED_IMAGE.test(source)) return { tagName, attribs: { ...size(attributes), src: source, alt } };
        heldBack.remoteImages += 1;
        return { tagName: 'span', attribs: {}, ...(alt ? { text: `[${alt}]` } : {}) };
      },
    },
  });
  return { html: clean.trim(), heldBack };
}

/** More columns than anyone writes: a cell that spans 30,000 of them fills the memory of whoever lays the table out. */
const MOST_SPANNED = 50;

function cell(tagName: string, attributes: Record<string, string>): sanitizeHtml.Tag {
  const attribs = { ...attributes };
  for (const key of ['colspan', 'rowspan', 'span'])
    if (attribs[key] !== undefined && !(/^\d{1,3}$/.test(attribs[key]) && Number(attribs[key]) <= MOST_SPANNED))
      delete attribs[key];
  return { tagName, attribs };
}

function size(attributes: Record<string, string>): Record<string, string> {
  const kept: Record<string, string> = {};
  for (const key of ['width', 'height']) if (/^\d{1,4}$/.test(attributes[key] ?? '')) kept[key] = attributes[key] ?? '';
  return kept;
}

/** One sentence on what was held back, or an empty string when nothing was. */
export function sayHeldBack({ remoteImages, scripts, forms, links }: HeldBack): string {
  const parts: string[] = [];
  const add = (number: number, one: string, many: string) =>
    number > 0 && parts.push(number === 1 ? `one ${one}` : `${number} ${many}`);
  add(remoteImages, 'remote picture', 'remote pictures');
  add(scripts, 'script or active part', 'scripts or active parts');
  add(forms, 'form part', 'form parts');
  add(links, 'unsafe link', 'unsafe links');
  return parts.length ? `Held back: ${parts.join(', ')}.` : '';
}
