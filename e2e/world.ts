import type { Page } from '@playwright/test';
import { Outside } from '../testing/outside';
import { Corvun, expect, test as base } from './corvun';

/** A Corvun whose demo is connected to stand-ins of its own; the page is open on Sources. */
export const test = base.extend<{ outside: Outside; sources: Page }>({
  outside: async ({ corvun }, use) => {
    const outside = await new Outside().start(corvun.data);
    Object.assign(corvun.more, { CORVUN_OUTSIDE: outside.url, CORVUN_MAIL_OUT: outside.mailOut });
    await corvun.start();
    await outside.sendTo(corvun.smtpPort);
    await use(outside);
    outside.stop();
  },
  corvun: async ({}, use) => {
    const corvun = new Corvun('connected', { CORVUN_ALLOW_PRIVATE: '1' });
    corvun.more['CORVUN_FOLDERS'] = corvun.data;
    await use(corvun);
    await corvun.stop();
  },
  sources: async ({ page, corvun, outside }, use) => {
    expect(outside.url).not.toBe('');
    await page.goto(`${corvun.url}/sources`);
    await expect(page.getByRole('link', { name: 'Sort 38 waiting' })).toBeVisible();
    await use(page);
  },
});

export { expect };
