import { violations } from './axe';
import { expect, said, test } from './corvun';
import { event, onPlan, onSheet } from './planning';

onPlan();

test('what belongs to an event is said on its sheet, stands beside its slip and carries tasks', async ({
  sort: page,
  corvun,
}) => {
  await event(page, 'Site walk, north bank').dblclick();
  const sheet = onSheet(page, 'Site walk, north bank');
  await sheet.getByRole('button', { name: 'and …' }).click();
  await page.getByRole('menuitem', { name: 'Beside it' }).click();
  const field = page.getByRole('textbox', { name: 'Beside it' });
  await field.fill('soon');
  await page.keyboard.press('Enter');
  await expect(page.getByText(/^Not understood\. Write/)).toBeVisible();
  await field.fill('15 before, 20 travel');
  await expect(page.getByText(/from Office · Enter keeps it$/)).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(sheet.getByRole('button', { name: 'Beside it: 15 min before, 20 min travel' })).toBeVisible();
  await expect(sheet.getByText('Prep 15 min', { exact: true })).toBeVisible();
  await expect(event(page, 'Site walk, north bank')).toHaveAccessibleName(/, prep 15 min, travel from Office to .+ 20 min/);
  await expect(page.locator('[data-buffer]')).toHaveCount(3);

  await sheet.getByRole('button', { name: 'A task before it …' }).click();
  await page.getByLabel('A task to do before it').fill('Read the quote 30m');
  await page.keyboard.press('Enter');
  await expect(sheet.getByRole('list', { name: 'Tasks beside it' }).getByText('before, 30 min')).toBeVisible();
  await expect(sheet.getByText('Prep 30 min', { exact: true })).toBeVisible();
  await sheet.getByRole('checkbox', { name: 'Done: Read the quote' }).click();
  await expect(sheet.getByRole('checkbox', { name: 'Done: Read the quote' })).toBeChecked();
  await expect(sheet.getByText('Prep 15 min', { exact: true })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await corvun.reload(page);
  await expect(sheet.getByRole('button', { name: 'Beside it: 15 min before, 20 min travel' })).toBeVisible();
});

test('rules and ways are kept in the settings, and hold for what is like them', async ({ sort: page, corvun }) => {
  await page.goto(`${corvun.url}/settings#buffers`);
  await page.getByRole('button', { name: 'Another line' }).click();
  await page.getByLabel('Whose events of line 1').selectOption('all events');
  await expect(said(page)).toContainText('The times kept beside events were changed');
  await page.getByLabel('Length of line 1').selectOption('of any length');
  await page.getByLabel('A way and how long it takes').fill('Office, Gate');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Write it like “Office to Gate 3, 25 min”.')).toBeVisible();
  await page.getByLabel('A way and how long it takes').fill('Office to Gate 3, 25 min');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('list', { name: 'Ways' }).getByText('Office – Gate 3')).toBeVisible();
  await page.getByText('After 2 h', { exact: true }).click();
  expect(await violations(page)).toEqual([]);
  await page.goto(`${corvun.url}/plan`);
  await expect(event(page, 'Stand-up at the hut').first()).toHaveAccessibleName(/, follow-up 15 min/);
  await page.goto(`${corvun.url}/settings#buffers`);
  await page.getByRole('button', { name: 'Remove line 1' }).click();
  await expect(page.getByRole('list', { name: 'Lines' }).getByRole('listitem')).toHaveCount(0);
});

test('choices made quickly all hold, though answers come late and in another order', async ({ sort: page, corvun }) => {
  await page.goto(`${corvun.url}/settings#buffers`);
  await page.getByRole('button', { name: 'Another line' }).click();
  await expect(said(page)).toContainText('The times kept beside events were changed');
  const me = gate();
  const settings = gate();
  await page.route('**/api/me', async (route) => {
    const response = await route.fetch();
    me.come();
    await me.opened;
    await route.fulfill({ response });
  });
  await page.route('**/api/settings', async (route) => {
    await settings.opened;
    await route.continue();
  });
  await corvun.api('/settings', 'PATCH', { name: 'Maren at the weir' });
  await me.came;
  await page.getByLabel('Length of line 1').selectOption('of any length');
  const older = page.waitForResponse('**/api/me');
  me.open();
  await (await older).finished();
  await page.getByLabel('Before of line 1').selectOption('5 min');
  const last = page.waitForResponse(
    (response) => response.url().endsWith('/api/settings') && (response.request().postData() ?? '').includes('"prep":5'),
  );
  settings.open();
  await last;
  await page.reload();
  await expect(page.getByLabel('Before of line 1')).toHaveValue('5');
  await expect(page.getByLabel('Length of line 1')).toHaveValue('0');
});

/** Holds what comes to it until it is opened. */
function gate() {
  let come = (): void => undefined;
  let open = (): void => undefined;
  const came = new Promise<void>((resolve) => (come = resolve));
  const opened = new Promise<void>((resolve) => (open = resolve));
  return { come, came, open, opened };
}
