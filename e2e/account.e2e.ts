import { violations } from './axe';
import { openAt, said, sheet } from './corvun';
import { event, onSheet } from './planning';
import { expect, test } from './world';

interface There {
  collections: Record<string, { objects: Record<string, { text: string }> }>;
}
const WALK = 'Site walk, north bank';

test('an entry changed on Plan is changed in its account, and the other way round; both at once is asked about', async ({
  sources: page,
  outside,
  corvun,
}) => {
  const objects = async () => Object.entries((await outside.state<There>('account')).collections['fen']?.objects ?? {});
  const [name = ''] =
    (await objects()).find(([, { text }]) => /DTSTART;TZID=Europe\/Vienna:20260804[^]*SUMMARY:Site walk\\, north/.test(text)) ??
    [];
  const there = async () => Object.fromEntries(await objects())[name]?.text ?? '';
  const source = (await corvun.api<{ id: string; kind: string }[]>('/sources')).find(({ kind }) => kind === 'account')?.id ?? '';
  const look = () => corvun.api(`/sources/${source}/run`, 'POST');
  const rename = (text: string) => outside.act('/account/act', { what: 'title', collection: 'fen', name, text });

  await page.goto(`${corvun.url}/plan`);
  await event(page, WALK).dblclick();
  await onSheet(page, WALK).getByRole('textbox', { name: 'Title' }).fill('Site walk, both banks');
  await page.keyboard.press('Enter');
  await expect.poll(there).toContain('SUMMARY:Site walk\\, both banks');
  await page.keyboard.press('Escape');
  await rename('Site walk with Ines');
  await look();
  await expect(event(page, 'Site walk with Ines')).toBeVisible();

  await corvun.api(`/sources/${source}`, 'PATCH', { state: 'paused' });
  await event(page, 'Site walk with Ines').dblclick();
  await onSheet(page, 'Site walk with Ines').getByRole('textbox', { name: 'Title' }).fill('Site walk with Bo');
  await page.keyboard.press('Enter');
  await rename('Site walk with Tomas');
  await corvun.api(`/sources/${source}`, 'PATCH', { state: 'active' });
  await page.keyboard.press('Escape');
  const waiting = async () => (await corvun.api<{ items: { subject: string }[] }>('/incoming?limit=100')).items;
  await expect.poll(async () => (await waiting()).map(({ subject }) => subject)).toContain('Site walk with Bo');
  await openAt(page, corvun, 'Site walk with Bo');
  const both = sheet(page).getByRole('region', { name: 'Two versions' });
  await expect(both.getByRole('row', { name: 'Title Site walk with Bo Site walk with Tomas' })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await both.getByRole('button', { name: 'Take what is in Office calendars' }).press('Enter');
  await page.keyboard.press('Shift+P');
  await expect(event(page, 'Site walk with Tomas')).toBeVisible();
});

test('a task list of an account is chosen, its tasks stand on a list, and one that is ticked is done there', async ({
  sources: page,
  outside,
}) => {
  const row = page.getByRole('listitem', { name: 'Office calendars' });
  await expect(row).toContainText('Both ways: Fen');
  await row.getByRole('button', { name: 'Change' }).press('Enter');
  await page.getByLabel('Stores (4 tasks)').check();
  await expect(page.getByLabel('on the list')).toHaveValue('');
  await expect(page.getByRole('status').filter({ hasText: 'entries' })).toContainText(
    '67 of 67 entries: 1 calendar, 1 task list, when 1 other is busy',
  );
  await expect(page.getByRole('group', { name: 'When others are busy' }).getByRole('textbox')).toHaveValue(
    'jonas.brandl@alderfen.example',
  );
  expect(await violations(page)).toEqual([]);
  await page.getByRole('button', { name: 'Save and look again' }).press('Enter');
  await expect(row).toContainText('Both ways: Fen, Stores; when Jonas Brandl is busy');
  await expect(row).toContainText('4 tasks');
  await page.keyboard.press('Shift+L');
  await page.getByRole('link', { name: /Stores/ }).click();
  await page.getByRole('checkbox', { name: /Coffee for the hut/ }).click();
  await expect(said(page)).toContainText('Coffee for the hut');
  const text = async () => (await outside.state<There>('account')).collections['stores']?.objects['coffee.ics']?.text ?? '';
  await expect.poll(text).toContain('STATUS:COMPLETED');
});

test('times that are proposed suit a colleague whose time is known; it is said when that one is busy', async ({
  sources: page,
  outside,
  corvun,
}) => {
  const put = async (at: string, day: string) => {
    const times = [`DTSTART:${day}T060000Z`, `DTEND:${day}T160000Z`];
    const lines = ['BEGIN:VCALENDAR', 'VERSION:2.0', 'BEGIN:VEVENT', `UID:${at}`, ...times, 'SUMMARY:Secret', 'END:VEVENT'];
    const text = [...lines, 'END:VCALENDAR', ''].join('\r\n');
    await outside.act('/account/act', { what: 'put', collection: 'jonas', name: `${at}.ics`, text });
  };
  await put('walk', '20260811');
  for (const day of ['04', '05', '06', '07', '10']) await put(day, `202608${day}`);
  const row = page.getByRole('listitem', { name: 'Office calendars' });
  await row.getByRole('button', { name: 'Change' }).press('Enter');
  await page.getByRole('button', { name: 'Save and look again' }).press('Enter');
  await expect(row).toContainText('when Jonas Brandl is busy');
  await expect(row.getByRole('button', { name: 'Look now' })).toBeEnabled();
  await openAt(page, corvun, 'Site walk, reed zone');
  const cost = sheet(page).getByRole('region', { name: 'What a yes costs' });
  await expect(cost).toContainText('and suit Jonas Brandl');
  await expect(cost.getByRole('button', { name: /^\w{3} 1[2-9]/ }).first()).toBeVisible();
  for (const day of [/^Tue 4/, /^Wed 5/, /^Thu 6/, /^Fri 7/, /^Mon 10/, /^Tue 11/])
    await expect(cost.getByRole('button', { name: day })).toHaveCount(0);
});
