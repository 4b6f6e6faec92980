import type { Page } from '@playwright/test';
import { violations } from './axe';
import { expect, said, test } from './corvun';
import { block, onPlan } from './planning';

onPlan();

const draft = (page: Page) => page.getByRole('form', { name: 'A plan for these days' });

test('gaps are filled by keys: looked at as ghosts, partly left out, done as one and taken back as one', async ({
  sort: page,
}) => {
  await page.keyboard.press('d');
  const form = draft(page);
  await expect(form.getByRole('heading', { name: /^A plan for Mon 3 Aug – Fri 7 Aug/ })).toBeVisible();
  const all = form.getByRole('button', { name: 'Do all of it' });
  await expect(all).toBeFocused();
  const ghosts = page.locator('[data-ghost]');
  const count = await ghosts.count();
  expect(count).toBeGreaterThan(3);
  await expect(form.getByRole('checkbox', { checked: true })).toHaveCount(count);
  expect(await violations(page)).toEqual([]);

  // The first line of the plan is left out: its ghost says so, and so does the button.
  await page.keyboard.press('Tab');
  await page.keyboard.press('Tab');
  const first = form.getByRole('listitem').first().getByRole('checkbox');
  await expect(first).toBeFocused();
  await page.keyboard.press('Space');
  await expect(page.locator('[data-ghost][aria-pressed=false]')).toHaveCount(1);
  const some = form.getByRole('button', { name: `Do ${count - 1} of ${count}` });
  const left = (await form.getByRole('listitem').nth(1).innerText()).replace(/^\d+:\d+ /, '');
  await some.focus();
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText(/^Planned: \d+ tasks have time, .* in all/);
  await expect(form).toHaveCount(0);
  await expect(block(page, left).first()).toBeVisible();
  await page.reload();
  await expect(block(page, left).first()).toBeVisible();
  await page.keyboard.press('u');
  await expect(said(page)).toContainText('Taken back: Planned');
  await expect(block(page, left)).toHaveCount(0);
});

test('a plan is left with Escape, and nothing was done', async ({ sort: page, corvun }) => {
  const before = await corvun.api('/agenda?from=2026-08-03&days=5');
  await page.getByRole('button', { name: 'Fill the gaps …' }).click();
  await expect(page.locator('[data-ghost]').first()).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.locator('[data-ghost]')).toHaveCount(0);
  await expect(page.getByRole('tablist', { name: 'Tray' }).or(page.getByRole('tab').first())).toBeVisible();
  expect(await corvun.api('/agenda?from=2026-08-03&days=5')).toEqual(before);
});

test('a meeting that came in between: the rest of today is planned again, what is pinned stays', async ({
  sort: page,
  corvun,
}) => {
  const line = async (text: string) => (await corvun.api<{ ids: string[] }>('/tasks', 'POST', { lines: [text] })).ids[0] ?? '';
  const time = async (taskId: string, start: string) => corvun.api('/blocks', 'POST', { taskId, start, minutes: 60 });
  await time(await line('Count the stakes 1h by today'), '2026-08-03T15:30');
  await time(await line('Label the samples today 1h'), '2026-08-03T16:30');
  await corvun.api('/events', 'POST', { title: 'Pump alarm', start: '2026-08-03T15:00', minutes: 150 });
  await block(page, 'Label the samples').focus();
  await page.keyboard.press('p');
  await expect(said(page)).toContainText('“Label the samples” is pinned: planning leaves it where it is');
  await expect(block(page, 'Label the samples.*, pinned')).toBeVisible();

  await page.keyboard.press('r');
  const form = draft(page);
  await expect(form.getByText(/Count the stakes, from 15:30/)).toBeVisible();
  await expect(form.getByText(/Label the samples/)).toHaveCount(0);
  await expect(form.getByLabel('what has its time may move')).toBeChecked();
  await form.getByRole('button', { name: /^Do / }).click();
  await expect(said(page)).toContainText('1 block moved');
  await expect(block(page, 'Count the stakes.* 15:30')).toHaveCount(0);
  await expect(block(page, 'Label the samples.* 16:30')).toBeVisible();
});

test('what finds no place says why, and a deadline at risk stands at the head of Plan', async ({ sort: page, corvun }) => {
  await expect(page.getByRole('button', { name: /at risk/ })).toHaveCount(0);
  const lines = ['Survey the dyke 60h by 7 August'];
  const { ids } = await corvun.api<{ ids: string[] }>('/tasks', 'POST', { lines });
  const risk = page.getByRole('button', { name: /deadlines? at risk/ });
  await risk.click();
  const atRisk = page.getByRole('dialog', { name: 'Deadlines at risk' });
  await expect(atRisk.getByRole('listitem').filter({ hasText: 'Survey the dyke' })).toContainText('too little time');
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await page.keyboard.press('d');
  const form = draft(page);
  await expect(form).toContainText('There are not 60 h of free working time for it.');
  const why = form.getByRole('button', { name: 'Survey the dyke' });
  if (!(await why.isVisible())) await form.getByText(/^No place for/).click();
  await why.click();
  await expect(page).toHaveURL(new RegExp(`task=${ids[0]}`));
});

test('what plans go by is a setting: hours for deep work, the most of a day, parts and places', async ({
  sort: page,
  corvun,
}) => {
  await page.keyboard.press('E');
  const most = page.getByRole('textbox', { name: 'Minutes of a day' });
  await most.fill('10');
  await most.press('Enter');
  await expect(page.getByText(/from 15 to 1440/)).toBeVisible();
  await most.fill('60');
  await most.press('Enter');
  await expect(said(page)).toContainText('How days are planned was changed');
  const deep = page.getByRole('textbox', { name: 'Hours for deep work' });
  await deep.fill('13-15');
  await deep.press('Enter');
  await expect(deep).toHaveValue('13:00–15:00');
  await page.getByRole('textbox', { name: 'Tags that are places' }).fill('#town hut');
  await page.getByRole('textbox', { name: 'Tags that are places' }).press('Enter');
  await expect(page.getByRole('textbox', { name: 'Tags that are places' })).toHaveValue('#town, #hut');
  const { settings } = await corvun.api<{ settings: { planning: object } }>('/me');
  expect(settings.planning).toMatchObject({ deep: ['13:00-15:00'], limit: 60, places: ['town', 'hut'] });
  await page.goto(`${corvun.url}/plan`);
  await page.getByRole('button', { name: 'Fill the gaps …' }).click();
  const tuesday = page.getByRole('group', { name: 'Planned on Tue 4 Aug' });
  await expect(tuesday.or(page.getByText('No place for')).first()).toBeVisible();
  await expect(page.getByRole('group', { name: 'Planned on Fri 7 Aug' })).toContainText('1 h');
});

test('what is too late says what would mend it: less of it, own time that moves, a mail that asks for more time', async ({
  sort: page,
  corvun,
}) => {
  const { items } = await corvun.api<{ items: { id: string; kind: string }[] }>('/incoming?limit=50');
  const mail = items.find(({ kind }) => kind === 'mail')?.id ?? '';
  const decided = await corvun.api<{ made: { id: string }[] }>('/decisions', 'POST', {
    ...{ incoming: [mail], to: 'list', title: 'Answer the county', minutes: 1200, deadline: '2026-08-04', fixed: true },
  });
  const task = decided.made[0]?.id ?? '';
  await page.getByRole('button', { name: /deadlines? at risk/ }).click();
  const risk = page.getByRole('listitem').filter({ hasText: 'Answer the county' });
  await expect(risk.getByRole('button', { name: /^Take .* off it$/ })).toBeVisible();
  await risk.getByRole('button', { name: /^Ask for time until/ }).click();
  await expect(page).toHaveURL(new RegExp(`task=${task}`));
  const reply = page.getByRole('form', { name: /^Reply to/ }).getByRole('textbox');
  await expect(reply).toHaveValue(/^“Answer the county” does not fit before Tue 4 Aug\. Could I have until .*\?$/);

  await page.goto(`${corvun.url}/plan`);
  await page.getByRole('button', { name: /deadlines? at risk/ }).click();
  await risk.getByRole('button', { name: /^Take .* off it$/ }).click();
  await expect(said(page)).toContainText('“Answer the county”');
  await expect(risk.getByRole('button', { name: /^Take .* off it$/ })).toHaveCount(0);
});

test('what is too late is handed over from the line that says so, with the keyboard', async ({ sort: page, corvun }) => {
  const { ids } = await corvun.api<{ ids: string[] }>('/tasks', 'POST', { lines: ['Survey the dyke 60h by 7 August'] });
  const risk = page.getByRole('button', { name: /deadlines? at risk/ });
  await expect(risk).toContainText('too little time');
  await risk.press('Enter');
  const line = page.getByRole('listitem').filter({ hasText: 'Survey the dyke' });
  await line.getByRole('button', { name: 'Hand it over …' }).press('Enter');
  await expect(page).toHaveURL(new RegExp(`task=${ids[0]}`));
  await expect(page.getByRole('combobox', { name: 'To whom?' })).toBeFocused();
  await page.keyboard.type('Nobody Known');
  await page.keyboard.press('Enter');
  const form = page.getByRole('form', { name: 'Hand it over' });
  await expect(form.getByRole('alert')).toContainText('Corvun knows no mail address of Nobody Known.');
  await page.getByRole('combobox', { name: 'To whom?' }).fill('Pia Keller');
  // What is written is there again after a reload.
  await page.reload();
  await expect(page.getByRole('combobox', { name: 'To whom?' })).toHaveValue('Pia Keller');
  expect(await violations(page)).toEqual([]);
  await page.getByRole('combobox', { name: 'To whom?' }).press('Enter');
  const mail = page.getByRole('form', { name: 'Hand it over to Pia Keller' });
  await expect(mail.getByRole('textbox')).toHaveValue(/could you take this over from me: “Survey the dyke”\?/);
  await expect(mail.getByRole('button', { name: 'Send', exact: true })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('“Survey the dyke” is handed over to Pia Keller');
  await expect(page.getByRole('region', { name: 'Waiting on Pia Keller' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(risk).toHaveCount(0);
});
