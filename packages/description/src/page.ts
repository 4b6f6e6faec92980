import type { Document, Operation } from './document';
import { nameOf, type Schema, type Schemas } from './schema';

const escape = (text: string) => text.replace(/[&<>"]/g, (letter) => `&#${letter.charCodeAt(0)};`);
/** Words in back quotes as code. */
const words = (text: string) => escape(text).replace(/`([^`]+)`/g, '<code>$1</code>');

/** The description as a page for people: no script, nothing loaded but the fonts that ship. @param look a style sheet: fonts, and the colours of the application */
export function pageOf(document: Document, look: string): string {
  const operations = Object.entries(document.paths).flatMap(([path, methods]) =>
    Object.entries(methods).map(([method, operation]) => ({ path, method: method.toUpperCase(), operation })),
  );
  const chapters = document.tags.map(({ name }) => ({
    name,
    routes: operations.filter(({ operation }) => operation.tags[0] === name),
  }));
  const contents = chapters.map(
    ({ name, routes }) =>
      `<li><a href="#${name}">${escape(name)}</a><ul>${routes
        .map(
          ({ path, method, operation }) =>
            `<li><a href="#${operation.operationId}"><b>${method}</b> ${escape(path.replace(/^\/api/, ''))}</a></li>`,
        )
        .join('')}</ul></li>`,
  );
  const { schemas } = document.components;
  const body = chapters.map(
    ({ name, routes }) =>
      `<section aria-labelledby="${name}"><h2 id="${name}">${escape(name)}</h2>${routes
        .map(({ path, method, operation }) => routeOf(path, method, operation, schemas))
        .join('')}</section>`,
  );
  const shapes = Object.entries(schemas).map(
    ([name, schema]) =>
      `<section class="shape"><h3 id="shape-${name}">${escape(name)}</h3>${schema.description ? `<p>${words(schema.description)}</p>` : ''}${shapeOf(schema)}</section>`,
  );
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width, initial-scale=1">
<title>Corvun: how programs speak to it</title><style>${look}${STYLE}</style></head>
<body><a class="skip" href="#main">To the routes</a><nav aria-label="Routes"><p class="brand">Corvun</p><p><a href="/">To the application</a> · <a href="/api/openapi.json">openapi.json</a></p><ul>${contents.join('')}<li><a href="#shapes">shapes</a></li></ul></nav>
<main id="main" tabindex="-1"><h1>How programs speak to Corvun</h1><p class="lead">${words(document.info.description)}</p>
${body.join('\n')}<section aria-labelledby="shapes"><h2 id="shapes">shapes</h2>${shapes.join('\n')}</section></main></body></html>
`;
}

function routeOf(path: string, method: string, operation: Operation, schemas: Schemas): string {
  const { operationId, summary, security, parameters, requestBody, responses } = operation;
  const answers = Object.entries(responses);
  const good = answers.filter(([status]) => Number(status) < 400);
  const bad = answers.filter(([status]) => Number(status) >= 400);
  const asked = parameters.length
    ? `<h4>Asked with</h4><table>${parameters.map(({ name, in: where, description = '', schema }) => line(name, `${typeOf(schema)}${limitsOf(schema)}`, `${where === 'path' ? 'In the path. ' : ''}${description}`, where === 'path')).join('')}</table>`
    : '';
  return `<article><h3 id="${operationId}"><b>${method}</b> <code>${escape(path)}</code></h3><p>${words(summary)}.${security.length ? '' : ' <em>Without being signed in.</em>'}</p>
${asked}${requestBody ? `<h4>Sent</h4>${contentOf(requestBody.content, schemas)}` : ''}
${good.map(([status, { content, description }]) => `<h4>Answer, ${status}</h4>${content ? contentOf(content, schemas) : `<p>${description}: nothing is sent back.</p>`}`).join('')}
<details><summary>Errors</summary><table>${bad.map(([status, { description }]) => `<tr><th scope="row">${status}</th><td>${words(description)}</td></tr>`).join('')}</table></details></article>`;
}

function contentOf(content: NonNullable<Operation['requestBody']>['content'], schemas: Schemas): string {
  return Object.entries(content)
    .map(([type, { schema, example }]) => {
      const choice = schema.$ref ? schemas[nameOf(schema)]?.anyOf : undefined;
      const shape = choice
        ? `<p>One of ${choice.map(typeOf).join(', ')}.</p>`
        : schema.properties
          ? shapeOf(schema)
          : `<p>${typeOf(schema)}</p>`;
      const shown =
        example === undefined
          ? ''
          : `<details><summary>Example</summary><pre tabindex="0">${escape(JSON.stringify(example, null, 2))}</pre></details>`;
      return `${type === 'application/json' ? '' : `<p><code>${escape(type)}</code></p>`}${shape}${shown}`;
    })
    .join('');
}

function shapeOf(schema: Schema): string {
  if (!schema.properties) return `<p>${typeOf(schema)}${limitsOf(schema)}</p>`;
  const lines = Object.entries(schema.properties).map(([name, part]) =>
    line(name, `${typeOf(part)}${limitsOf(part)}`, part.description ?? '', schema.required?.includes(name) ?? false),
  );
  return `<table>${lines.join('')}</table>`;
}

const line = (name: string, type: string, about: string, needed: boolean) =>
  `<tr><th scope="row"><code>${escape(name)}</code>${needed ? '' : ' <small>may be left out</small>'}</th><td>${type}${about ? `<br><span>${words(about)}</span>` : ''}</td></tr>`;

/** A type in words, with a link to its shape. */
function typeOf(schema: Schema): string {
  if (schema.$ref) return `<a href="#shape-${nameOf(schema)}">${escape(nameOf(schema))}</a>`;
  if (schema.enum) return schema.enum.map((one) => `<code>${escape(String(one))}</code>`).join(' or ');
  if (schema.anyOf) return schema.anyOf.map(typeOf).join(' or ');
  if (schema.items) return `list of ${typeOf(schema.items)}`;
  if (schema.properties)
    return `{ ${Object.entries(schema.properties)
      .map(([name, part]) => `${escape(name)}: ${typeOf(part)}`)
      .join(', ')} }`;
  if (typeof schema.additionalProperties === 'object') return `names with ${typeOf(schema.additionalProperties)}`;
  return [schema.type ?? 'anything'].flat().map(escape).join(' or ');
}

function limitsOf(schema: Schema): string {
  const { minLength, maxLength, minimum, maximum, minItems, maxItems, pattern, format } = schema;
  const said = [
    range(minLength, maxLength, 'letters'),
    range(minimum, maximum, ''),
    range(minItems, maxItems, 'entries'),
    pattern === undefined ? '' : `like <code>${escape(textOf(pattern))}</code>`,
    format === undefined ? '' : escape(textOf(format)),
  ].filter(Boolean);
  const parts = schema.items ? limitsOf(schema.items) : '';
  return `${said.length ? `, ${said.join(', ')}` : ''}${parts ? ` (each${parts})` : ''}`;
}

const textOf = (value: unknown) => (typeof value === 'string' ? value : '');

function range(least: unknown, most: unknown, of: string): string {
  if (least === undefined && most === undefined) return '';
  const from = least === undefined ? '' : `from ${Number(least).toLocaleString('en')} `;
  return `${most === undefined ? from : `${from}${least === undefined ? 'at most' : 'to'} ${Number(most).toLocaleString('en')}`} ${of}`.trim();
}

const STYLE = `
* { box-sizing: border-box }
body { margin: 0; display: grid; grid-template-columns: 290px minmax(0, 1fr); background: var(--paper); color: var(--ink); font: 16px/24px 'Atkinson Hyperlegible Next Variable', sans-serif }
nav { position: sticky; top: 0; height: 100vh; overflow-y: auto; padding: 20px 16px; border-right: 1px solid var(--ink); font-size: 14px; line-height: 20px }
nav ul { list-style: none; margin: 0; padding: 0 } nav ul ul { padding-left: 12px } nav > ul > li { margin-top: 10px }
nav b { display: inline-block; width: 52px; font-size: 11px; color: var(--ink-soft) }
nav a { display: inline-block; padding: 3px 0; overflow-wrap: anywhere }
.brand, h1, h2, h3 { font-family: 'Bricolage Grotesque Variable', sans-serif; font-weight: 600 }
.brand { font-size: 22px; margin: 0 }
main { padding: 28px 40px 80px; max-width: 980px }
main:focus { outline: none }
h1 { font-size: 30px; line-height: 36px; margin: 0 } h2 { margin: 48px 0 0; padding-bottom: 4px; border-bottom: 2px solid var(--ink); text-transform: capitalize } h3 { font-size: 17px; margin: 0 } h4 { margin: 16px 0 4px; font-size: 14px }
h3 b { color: var(--teal); font-size: 13px; margin-right: 6px }
:is(h2, h3)[id] { scroll-margin-top: 16px }
article, .shape { background: var(--card); border: 1px solid var(--rule); padding: 14px 18px; margin: 14px 0 }
.lead { max-width: 68ch } article p, .shape p { margin: 4px 0 }
table { width: 100%; border-collapse: collapse; font-size: 14px; line-height: 20px } th { text-align: left; width: 220px; font-weight: 400; vertical-align: top } td, th { border-top: 1px solid var(--rule); padding: 4px 8px 4px 0; overflow-wrap: anywhere }
td span { color: var(--ink-soft) } small { color: var(--ink-soft); font-size: 12px; white-space: nowrap }
code, pre { font: 13px/19px ui-monospace, monospace } pre { overflow-x: auto; background: var(--paper); border: 1px solid var(--rule); padding: 10px; margin: 6px 0 }
a { color: var(--teal); text-decoration: underline; text-underline-offset: 2px } nav a { text-decoration: none } nav a:hover { text-decoration: underline }
a:focus-visible, summary:focus-visible, pre:focus-visible { outline: 2px solid var(--teal); outline-offset: 2px }
details { margin-top: 10px } summary { cursor: pointer; font-size: 14px }
.skip { position: absolute; left: -999px } .skip:focus { left: 8px; top: 8px; background: var(--card); padding: 8px; z-index: 1 }
@media (max-width: 760px) { body { display: block } nav { position: static; height: auto; max-height: 40vh; border-right: 0; border-bottom: 1px solid var(--ink) } main { padding: 20px 16px } th { width: 40% } }
@media print { nav { display: none } body { display: block } }
`;
