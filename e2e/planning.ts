import type { Page } from '@playwright/test';
import { test } from './corvun';

export const day = (page: Page, name: string) => page.getByRole('region', { name, exact: true });
export const block = (page: Page, name: string) => page.getByRole('button', { name: new RegExp(`^Block: ${name}`) });
export const event = (page: Page, name: string) => page.getByRole('button', { name: new RegExp(`^Event: ${name}`) });
export const card = (page: Page, name: string) => page.locator('[data-card]', { hasText: name });
export const tab = (page: Page, name: RegExp) => page.getByRole('tab', { name });
export const onSheet = (page: Page, title: string) => page.getByRole('complementary', { name: `Event: ${title}` });

/** A point of a day at an hour that is in sight. */
export async function pointAt(page: Page, name: string, hour: number): Promise<{ x: number; y: number }> {
  const grid = await day(page, name).locator('[data-grid]').boundingBox();
  return { x: (grid?.x ?? 0) + 60, y: (grid?.y ?? 0) + hour * 44 };
}
export async function middle(locator: ReturnType<typeof card>): Promise<{ x: number; y: number }> {
  await locator.scrollIntoViewIfNeeded();
  const box = await locator.boundingBox();
  return { x: (box?.x ?? 0) + 20, y: (box?.y ?? 0) + 14 };
}

/** Opens Plan with everything in its tray. */
export const onPlan = () =>
  test.beforeEach(async ({ sort: page }) => {
    await page.keyboard.press('Shift+P');
    await tab(page, /^Everything/).click();
    await card(page, 'Ferry invoice').waitFor();
  });
