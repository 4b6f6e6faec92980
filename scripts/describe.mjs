import { mkdirSync, readFileSync, readdirSync, writeFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { join } from 'node:path';
import { root } from './setup.mjs';

/** Letters of the two families that the application ships, for the page. */
const FAMILIES = {
  'Atkinson Hyperlegible Next Variable': /^atkinson-hyperlegible-next-latin-wght-normal.*\.woff2$/,
  'Bricolage Grotesque Variable': /^bricolage-grotesque-latin-(?:wght|standard|full|opsz)?-?normal.*\.woff2$/,
};

/** The colours of the application, light and dark as the reader's machine has it. */
function colours() {
  const css = readFileSync(join(root, 'packages/theme/theme.css'), 'utf8');
  const inside = (selector) => {
    const from = css.indexOf(`\n${selector} {`);
    if (from < 0) throw new Error(`The look has no ${selector}.`);
    return css.slice(css.indexOf('{', from) + 1, css.indexOf('}', from));
  };
  return `:root {${inside(':root')}}\n@media (prefers-color-scheme: dark) { :root {${inside("[data-theme='dark']")}} }\n`;
}

/** Writes the description of the API and its page beside the server, from the contract as it was compiled. */
export function describe() {
  const { describe: documentOf, pageOf } = createRequire(import.meta.url)(join(root, 'packages/description/dist'));
  const document = documentOf(root);
  const assets = readdirSync(join(root, 'apps/web/dist/assets'));
  const faces = Object.entries(FAMILIES).map(([family, names]) => {
    const file = assets.find((name) => names.test(name));
    return file
      ? `@font-face { font-family: '${family}'; src: url(/assets/${file}) format('woff2'); font-weight: 200 800; font-display: swap }\n`
      : '';
  });
  const folder = join(root, 'apps/server/dist');
  mkdirSync(folder, { recursive: true });
  writeFileSync(join(folder, 'openapi.json'), JSON.stringify(document));
  writeFileSync(join(folder, 'api.html'), pageOf(document, `${faces.join('')}${colours()}`));
}
