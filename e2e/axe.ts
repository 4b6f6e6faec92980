import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import type { AxeResults } from 'axe-core';

const AXE = readFileSync(require.resolve('axe-core/axe.min.js'), 'utf8');

/** Everything, or what depends on the colours only. */
const RULES = {
  all: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'],
  colours: ['color-contrast', 'link-in-text-block'],
};

/** What axe finds wrong on a page, a line each; a place that is still being loaded is waited for by its heading. */
export async function violations(page: Page, rules: keyof typeof RULES = 'all'): Promise<string[]> {
  await page.locator('h1').first().waitFor({ state: 'attached' });
  if (!(await page.evaluate(() => 'axe' in window))) await page.evaluate(AXE);
  const results = await page.evaluate(
    (runOnly) =>
      (window as unknown as { axe: { run: (options: object) => Promise<AxeResults> } }).axe.run({
        runOnly,
        resultTypes: ['violations'],
        rules: { region: { enabled: false } },
      }),
    RULES[rules],
  );
  return results.violations.flatMap((one) =>
    one.nodes.slice(0, 4).map((node) => `${one.id}: ${node.html.slice(0, 160)} ${node.any[0]?.message ?? ''}`),
  );
}
