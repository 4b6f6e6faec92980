import { readFileSync } from 'node:fs';
import type { Page } from '@playwright/test';
import type { AxeResults } from 'axe-core';

const AXE = readFileSync(require.resolve('axe-core/axe.min.js'), 'utf8');

/** What axe finds wrong on a page, a line each. */
export async function violations(page: Page): Promise<string[]> {
  await page.evaluate(AXE);
  const results = await page.evaluate(() =>
    (window as unknown as { axe: { run: (options: object) => Promise<AxeResults> } }).axe.run({
      runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa', 'best-practice'],
      rules: { region: { enabled: false } },
    }),
  );
  return results.violations.flatMap((one) =>
    one.nodes.slice(0, 4).map((node) => `${one.id}: ${node.html.slice(0, 160)} ${node.any[0]?.message ?? ''}`),
  );
}
