import type { EventFull, ReminderInfo } from '@corvun/contract';
import type { Page } from '@playwright/test';
import { violations } from './axe';
import { expect, test, type Corvun } from './corvun';
import { make } from './making';
import { event, onSheet } from './planning';

const region = (page: Page) => page.getByRole('region', { name: 'Reminders' });
const slip = (page: Page, title: string) => region(page).getByRole('article', { name: title });
const timeOf = async (corvun: Corvun) => Date.parse((await corvun.api<{ now: string }>('/me')).now);

/** An event to begin soon, of which one is reminded in a second. */
async function soon(corvun: Corvun, title: string, more: object = {}): Promise<void> {
  const now = await timeOf(corvun);
  const trigger = `${new Date(now + 1000).toISOString().slice(0, 19).replace(/[-:]/g, '')}Z`;
  const start = new Date(now + 10 * 60_000).toISOString();
  await corvun.api('/events', 'POST', { title, start, minutes: 30, alarms: [{ trigger }], ...more });
}

/** Notes what a page shows as notifications of the system, which has none here. */
async function noting(page: Page): Promise<() => Promise<string[]>> {
  await page.addInitScript(() => {
    const shown: string[] = [];
    class Noted {
      static permission = 'granted';
      static requestPermission = () => Promise.resolve('granted');
      onclick: (() => void) | null = null;
      constructor(title: string) {
        shown.push(title);
      }
      close() {}
    }
    Object.assign(window, { Notification: Noted, shownBySystem: shown });
  });
  return () => page.evaluate(() => (window as unknown as { shownBySystem: string[] }).shownBySystem);
}

test('a reminder stands in every window, is shown by the system once, and is put off or done with everywhere', async ({
  page,
  context,
  corvun,
}) => {
  await corvun.api('/settings', 'PATCH', { remind: { before: 10, blocks: true, system: true, mail: false } });
  const other = await context.newPage();
  const notes = await Promise.all([noting(page), noting(other)]);
  await page.goto(`${corvun.url}/sort`);
  await other.goto(`${corvun.url}/plan`);
  await soon(corvun, 'Reed survey', { location: 'Gate 3', meetingLink: 'https://meet.example/reed' });
  for (const window of [page, other]) {
    await expect(slip(window, 'Reed survey')).toContainText('Gate 3');
    await expect(slip(window, 'Reed survey').getByRole('link', { name: 'Join' })).toHaveAttribute(
      'href',
      'https://meet.example/reed',
    );
  }
  await expect.poll(async () => (await Promise.all(notes.map((read) => read()))).flat()).toEqual(['Reed survey']);
  expect(await violations(page)).toEqual([]);
  await soon(corvun, 'Gauge reading');
  await expect(region(page)).toContainText('Gauge reading');
  await slip(page, 'Reed survey').getByRole('button', { name: 'Later' }).click();
  await page.getByRole('menuitem', { name: 'In 30 min' }).click();
  for (const window of [page, other]) await expect(slip(window, 'Gauge reading')).toBeVisible();
  await expect(region(other)).not.toContainText('Reed survey');
  await slip(other, 'Gauge reading').getByRole('button', { name: 'Seen' }).click();
  for (const window of [page, other]) await expect(region(window).getByRole('article')).toHaveCount(0);
  // What was put off comes back when its time has come, and is told once more.
  await corvun.kill();
  corvun.more['CORVUN_NOW'] = '2026-08-03T11:25:00+02:00';
  await corvun.start();
  for (const window of [page, other]) await expect(region(window)).toContainText('Reed survey');
  await expect
    .poll(async () => (await Promise.all(notes.map((read) => read()))).flat().sort())
    .toEqual(['Gauge reading', 'Reed survey', 'Reed survey']);
  await region(page)
    .getByRole('button', { name: /^(?:Seen|All seen)/ })
    .first()
    .click();
  await corvun.reload(page);
  await expect(page.getByRole('navigation', { name: 'Places' })).toBeVisible();
  expect((await corvun.api<ReminderInfo[]>('/reminders')).map(({ title }) => title)).not.toContain('Reed survey');
});

test('reminders are reached and left by key; what was missed stands together', async ({ sort: page, corvun }) => {
  await soon(corvun, 'Reed survey');
  await expect(slip(page, 'Reed survey')).toContainText('In 10 min');
  await page.keyboard.press('Shift+R');
  await expect(slip(page, 'Reed survey').getByRole('button', { name: 'Open' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(onSheet(page, 'Reed survey')).toBeVisible();
  await page.keyboard.press('Escape');
  await corvun.kill();
  corvun.more['CORVUN_NOW'] = '2026-08-03T14:00:00+02:00';
  await corvun.start();
  await page.goto(`${corvun.url}/lists`);
  const missed = region(page).getByText('Missed while you were away');
  await expect(missed).toBeVisible();
  await expect(region(page).getByRole('button', { name: 'Reed survey' })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await missed.locator('..').getByRole('button', { name: /seen$/i }).press('Enter');
  await expect(missed).toHaveCount(0);
});

test('an event says what it is reminded of by, and what is so for all is chosen in the settings', async ({
  sort: page,
  corvun,
}) => {
  await page.goto(`${corvun.url}/plan`);
  await event(page, 'Site walk, north bank').press('i');
  const sheet = onSheet(page, 'Site walk, north bank');
  await sheet.getByRole('button', { name: /^and/ }).click();
  await page.getByRole('menuitem', { name: 'Reminder' }).click();
  const field = page.getByRole('textbox', { name: 'Reminder' });
  await field.fill('when I feel like it');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Not a reminder.')).toBeVisible();
  await field.fill('1 h and 10 min before');
  await page.keyboard.press('Enter');
  await expect(sheet.getByRole('button', { name: 'Reminder: 1 h before and 10 min before' })).toBeVisible();
  const id = new URL(page.url()).searchParams.get('event') ?? '';
  expect((await corvun.api<EventFull>(`/events/${id}`)).alarms?.map(({ trigger }) => trigger)).toEqual(['-PT1H', '-PT10M']);
  await page.goto(`${corvun.url}/settings#remind-before`);
  await page.getByRole('radiogroup', { name: 'Before an event' }).getByText('30 min').click();
  await expect(page.getByText('What you are reminded of was changed')).toBeVisible();
  await page.reload();
  await expect(page.getByRole('radiogroup', { name: 'Before an event' }).getByRole('radio', { name: '30 min' })).toBeChecked();
});

test('in quiet time what can wait is held, and told together when it is over', async ({ page, corvun }) => {
  await corvun.api('/settings', 'PATCH', { remind: { before: 10, blocks: true, system: true, mail: false } });
  const quiet = { kind: 'quiet', start: '2026-08-03T10:30', minutes: 90 };
  const { made } = await corvun.api<{ made: { id: string }[] }>('/blocks', 'POST', quiet);
  for (const line of ['Water the seedlings', 'Order the rope']) await make(corvun, line, { reminder: '2026-08-03T10:55' });
  await corvun.kill();
  corvun.more['CORVUN_NOW'] = '2026-08-03T10:56:00+02:00';
  await corvun.start();
  const due = async () => (await corvun.api<ReminderInfo[]>('/reminders')).filter(({ kind }) => kind === 'task').length;
  await expect.poll(due).toBe(2);
  const notes = await noting(page);
  let release = () => {};
  const held = new Promise<void>((resolve) => (release = resolve));
  await page.route('**/api/presence', async (route) => {
    await held;
    await route.continue();
  });
  const read = page.waitForResponse(/\/api\/reminders$/);
  await page.goto(`${corvun.url}/now`);
  // Nothing is told before it is known whether it is quiet.
  await (await read).finished();
  await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(done))));
  expect(await notes()).toEqual([]);
  release();
  await expect(page.getByText('Others do not see how you are.')).toBeVisible();
  await expect(region(page)).not.toContainText('Water the seedlings');
  expect(await notes()).toEqual([]);
  await corvun.api(`/blocks/${made[0]?.id}`, 'DELETE');
  await expect(region(page)).toContainText('Water the seedlings');
  await expect.poll(notes).toEqual(['2 things to think of']);
});
