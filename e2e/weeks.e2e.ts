import type { PassState, ProjectInfo, TaskFull } from '@corvun/contract';
import type { Page } from '@playwright/test';
import { violations } from './axe';
import { expect, said, test } from './corvun';
import { make, type Here } from './making';

const full = (here: Here, id: string) => here.api<TaskFull>(`/tasks/${id}`);
const panel = (page: Page, name: string) => page.getByRole('complementary', { name });
const at = (page: Page, title: string) => page.getByRole('heading', { name: title, level: 2 });
const item = (page: Page, title: string) => page.locator('[data-item]', { hasText: title });

/** Finds an item among many by typing, from anywhere in the step. */
async function find(page: Page, title: string): Promise<void> {
  await page.getByRole('searchbox', { name: /^Find in: / }).focus();
  await page.keyboard.press('Escape');
  await page.keyboard.type(title);
  await page.keyboard.press('Enter');
  await expect(item(page, title)).toBeFocused();
}

test('the week is reviewed with the keyboard alone, through a reload in the middle', async ({ sort: page, corvun }) => {
  const last = { plannedDay: '2026-07-29' };
  const big = await make(corvun, 'Repair the hide', { ...last, estimate: 360 });
  const blocked = await make(corvun, 'Print the signs', last);
  const asked = await make(corvun, 'Settle the gate', last);
  const late = await make(corvun, 'Label the maps', last);
  const old = await make(corvun, 'Old idea for a tower', last);
  const quote = await make(corvun, 'Quote for the decking', { waitingOn: 'Pia Keller' });
  const shelf = await make(corvun, 'Learn walling', { shelved: true, lookAgain: '2026-08-05', priority: 'high' });
  const { id: list } = await corvun.api<{ id: string }>('/lists', 'POST', { name: 'Pond hide' });
  await corvun.api(`/lists/${list}`, 'PATCH', { project: true });
  await page.getByRole('button', { name: 'Settings', exact: true }).press('Enter');
  await page.keyboard.press('w');
  await expect(page.getByRole('menuitem', { name: 'Week review' })).toBeFocused();
  await page.keyboard.press('Enter');
  const review = panel(page, 'Week review');
  await expect(at(page, 'What was finished')).toBeFocused();
  await expect(page).toHaveURL(/\/plan\/2026-07-27$/);
  await expect(review).toContainText(/Week 31: \d+ things done/);
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('.');

  await expect(at(page, 'What was not, and why')).toBeFocused();
  await find(page, 'Repair the hide');
  await expect(item(page, 'Repair the hide')).toContainText('perhaps too big');
  await page.keyboard.press('b');
  const form = page.getByRole('form', { name: 'Break “Repair the hide” down' });
  await page.keyboard.type('Measure the span');
  await page.keyboard.press('Tab');
  await page.keyboard.type('45 min');
  await page.keyboard.press('Enter');
  await page.keyboard.type('Order the decking');
  // What is written is still there after a reload, and so is the step.
  await page.reload();
  await find(page, 'Repair the hide');
  await page.keyboard.press('b');
  await expect(form.getByRole('textbox', { name: 'Step 2', exact: true })).toHaveValue('Order the decking');
  await expect(form).toContainText('45 min in steps, 6 h were thought of');
  await expect(form.getByRole('checkbox')).toBeChecked();
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('Control+Enter');
  await expect(said(page)).toContainText('“Repair the hide” has 2 more steps; the first has time on');

  await find(page, 'Print the signs');
  await page.keyboard.press('k');
  await page.keyboard.press('Enter');
  await expect(review.getByRole('alert').filter({ hasText: /\S/ })).toContainText('Write what has to happen first.');
  await page.keyboard.type('Get the permit');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('“Get the permit” is a step of “Print the signs”');
  await find(page, 'Settle the gate');
  await page.keyboard.press('w');
  await page.keyboard.type('Pia Keller');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('waiting on Pia Keller');
  await find(page, 'Label the maps');
  await page.keyboard.press('t');
  await expect(item(page, 'Label the maps')).toHaveCount(0);
  await find(page, 'Old idea');
  await page.keyboard.press('n');
  await expect(said(page)).toContainText('“Old idea for a tower” was dropped');
  expect(await full(corvun, big)).toMatchObject({ leftOpen: 'too-big', plannedWeek: '2026-W32' });
  const [first] = (await full(corvun, big)).steps;
  expect([first?.title, first?.estimate, first?.blocks.length]).toEqual(['Measure the span', 45, 1]);
  expect((await full(corvun, blocked)).steps.map(({ title }) => title)).toEqual(['Get the permit']);
  expect(await full(corvun, asked)).toMatchObject({ leftOpen: 'waiting', waitingOn: 'Pia Keller' });
  expect(await full(corvun, late)).toMatchObject({ leftOpen: 'no-time', plannedWeek: '2026-W32', plannedDay: null });
  expect(await full(corvun, old)).toMatchObject({ leftOpen: 'not-wanted', status: 'CANCELLED' });

  await at(page, 'What was not, and why').focus();
  await page.keyboard.press('.');
  await expect(at(page, 'What waits on whom')).toBeFocused();
  await item(page, 'Quote for the decking').focus();
  await page.keyboard.press('r');
  await expect(review.getByRole('button', { name: 'Send', exact: true })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('Pia Keller is asked again for “Quote for the decking”');
  await expect(item(page, 'Quote for the decking')).toBeFocused();
  await page.keyboard.press('.');
  await expect(at(page, 'Projects that do not move')).toBeFocused();
  await item(page, 'Pond hide').focus();
  await page.keyboard.press('+');
  await page.keyboard.type('Draw it');
  await page.keyboard.press('Enter');
  await expect(review.getByRole('list', { name: 'Projects that move' })).toContainText('Draw it');
  await page.keyboard.press('.');
  await expect(at(page, 'What is to be looked at again')).toBeFocused();
  await item(page, 'Learn walling').focus();
  await page.keyboard.press('t');
  await expect(item(page, 'Learn walling')).toHaveCount(0);
  await page.keyboard.press('.');
  await expect(at(page, 'What stands already')).toBeFocused();
  await expect(review.getByRole('list', { name: 'Standing commitments' })).toContainText('Crew meetingWed, 45 min');
  await expect(review.getByRole('list', { name: 'Loads of the coming week' }).getByRole('listitem')).toHaveCount(5);
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('.');
  await expect(at(page, 'Plan the coming week')).toBeFocused();
  await page.keyboard.press('Tab');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Do (all|\d+) of/ })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText(/Planned: \d+ tasks have time/);
  await review.getByRole('button', { name: /^Finish/ }).press('Enter');
  await expect(said(page)).toContainText('The week is looked back on');
  expect((await corvun.api<PassState>('/passes')).reviewed).toBe('2026-08-03');
  expect(await full(corvun, shelf)).toMatchObject({ shelved: false, plannedWeek: null, plannedDay: expect.any(String) });
  const projects = await corvun.api<ProjectInfo[]>('/projects');
  expect(projects.find(({ listId }) => listId === list)?.next?.title).toBe('Draw it');
  expect((await full(corvun, quote)).nudged).not.toBeNull();
});

test('the decks are cleared with the mouse: gathered, told apart, picked, shelved, one a day, quiet; and taken back as one', async ({
  sort: page,
  corvun,
}) => {
  const wish = await make(corvun, 'Paint the signpost', { deadline: '2026-08-14' });
  const promise = await make(corvun, 'Send the county data', { deadline: '2026-08-20' });
  await make(corvun, 'Grant figures, section 3', { estimate: 60 });
  await page.getByRole('button', { name: 'Settings', exact: true }).click();
  await page.getByRole('menuitem', { name: 'Clear the decks' }).click();
  const decks = panel(page, 'Clear the decks');
  const go = decks.getByRole('button', { name: /^Go on/ });
  await expect(at(page, 'Gather everything')).toBeVisible();
  await decks.getByRole('button', { name: '7 min' }).click();
  await expect(decks).toContainText(/6:5\d left/);
  await decks.getByRole('textbox', { name: 'A thought' }).fill('Ask Oda about the boat');
  await decks.getByRole('textbox', { name: 'A thought' }).press('Enter');
  await expect(decks.getByRole('list', { name: 'In the inbox' })).toContainText('Ask Oda about the boat');
  expect(await violations(page)).toEqual([]);
  await page.reload();
  await expect(decks).toContainText(/6:[45]\d left/);
  await go.click();

  await item(page, 'Paint the signpost').click();
  const wishes = decks.getByRole('list', { name: 'Deadlines that may be wishes' });
  await wishes.getByRole('button', { name: /^My own wish/ }).click();
  await expect(item(page, 'Paint the signpost')).toHaveCount(0);
  await item(page, 'Send the county data').click();
  await decks.getByRole('button', { name: /^Others set it/ }).click();
  await expect(decks.getByRole('list', { name: 'Set by others' })).toContainText('Send the county data');
  await expect(said(page)).toContainText('“Send the county data”: deadline fixed');
  expect(await full(corvun, wish)).toMatchObject({ deadline: null, plannedWeek: '2026-W33' });
  expect(await full(corvun, promise)).toMatchObject({ deadline: '2026-08-20', deadlineFixed: true });
  await go.click();

  await expect(at(page, 'One question')).toBeVisible();
  await decks.getByRole('searchbox').fill('section 3');
  await item(page, 'Grant figures, section 3').click();
  await decks.getByRole('button', { name: /^Makes others easier/ }).click();
  await expect(decks.getByRole('status')).toContainText('1 thing would make others easier.');
  await go.click();

  await expect(at(page, 'The shortlist')).toBeVisible();
  const rows = decks.getByRole('list', { name: 'For the shortlist' }).locator('[data-item]');
  await expect(rows.first()).toContainText('Grant figures, section 3');
  for (let one = 0; one < 3; one += 1) {
    await rows.nth(one).click();
    await decks.getByRole('button', { name: /^Shortlist/ }).click();
    await expect(decks.getByRole('status')).toContainText(`${one + 1} of 7 things`);
  }
  expect(await violations(page)).toEqual([]);
  await go.click();
  await expect(page).toHaveURL(/\/lists\/shelf$/);
  await expect(decks).toContainText('3 on the shortlist');
  await decks.getByRole('button', { name: /^The other \d+ to the shelf/ }).click();
  await expect(said(page)).toContainText(/\d+ tasks on the shelf until Mon 31 Aug/);
  await expect(decks).toContainText('Nothing is left that could go to the shelf.');
  expect(await full(corvun, wish)).toMatchObject({ shelved: true, lookAgain: '2026-08-31', plannedWeek: null });
  expect(await full(corvun, promise)).toMatchObject({ shelved: false });
  await go.click();

  await page.getByRole('button', { name: /^Do (all|\d+) of/ }).click();
  await expect(said(page)).toContainText(/Planned: \d+ tasks? ha(s|ve) time/);
  await expect(decks.getByRole('status')).toContainText('3 of 3 things have time.');
  const { shortlist } = await corvun.api<PassState>('/passes');
  const picked = await Promise.all((shortlist?.picks ?? []).map((id) => full(corvun, id)));
  expect(new Set(picked.map(({ blocks }) => blocks[0]?.start.slice(0, 10))).size).toBe(3);
  await expect(page.getByRole('tab', { name: /^Shortlist/ })).toBeVisible();
  await go.click();

  await item(page, 'Boardwalk repair').click();
  await decks.getByRole('button', { name: /^Choose/ }).click();
  await expect(decks.getByRole('status')).toContainText('1 of 3 projects');
  await expect(decks.getByRole('listitem').filter({ hasText: 'Boardwalk repair' }).getByRole('listitem')).toHaveCount(3);
  await expect(decks).not.toContainText('on the shelf');
  await go.click();
  await decks.getByRole('button', { name: 'Be quiet until Sun 9 Aug' }).click();
  await expect(page.getByRole('note')).toContainText('It is quiet until Sun 9 Aug');
  await expect(page.getByRole('navigation', { name: 'Places' })).not.toContainText(/waiting/);
  expect(await violations(page)).toEqual([]);

  await page.getByRole('textbox', { name: 'Capture line' }).fill('Order seed tomorrow 9:30');
  await expect(page.locator('#capture-read')).toContainText('keeps it in the inbox: it is quiet until Sun 9 Aug');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('“Order seed” waits in the inbox; it is quiet until Sun 9 Aug');
  await page.getByRole('textbox', { name: 'Capture line' }).fill('Order twine tomorrow 10:30');
  await page.keyboard.press('Control+Enter');
  await expect(said(page)).toContainText('“Order twine” is a task');

  await decks.getByRole('button', { name: 'Take it all back' }).click();
  await expect(said(page)).toContainText(/The pass is taken back, \d+ things in all/);
  await expect(page.getByRole('note')).toHaveCount(0);
  expect(await full(corvun, wish)).toMatchObject({ deadline: '2026-08-14', shelved: false });
  expect((await corvun.api<PassState>('/passes')).shortlist).toBeNull();
});

test('settings say how long a shortlist is and when the week is reviewed', async ({ page, corvun }) => {
  await page.goto(`${corvun.url}/settings#shortlist`);
  const length = page.getByRole('radiogroup', { name: 'Length of a shortlist' });
  await length.getByText('5', { exact: true }).click();
  const on = page.getByRole('radiogroup', { name: 'Day of the week review' });
  await on.getByText('Mon', { exact: true }).click();
  await expect
    .poll(async () => (await corvun.api<{ settings: { day: object } }>('/me')).settings.day)
    .toMatchObject({ shortlist: 5, reviewDay: 1 });
  const pass = await corvun.api<{ id: string }>('/passes', 'POST', { kind: 'open-day' });
  await corvun.api(`/passes/${pass.id}`, 'PATCH', { state: 'done' });
  await page.reload();
  await page.getByRole('button', { name: 'Week review' }).click();
  await expect(panel(page, 'Week review')).toBeVisible();
  await corvun.api('/passes', 'POST', { kind: 'clear-decks' });
  await page.reload();
  await expect(panel(page, 'Clear the decks')).toBeVisible();
  const pick = await corvun.api<{ id: string }>('/passes', 'POST', { kind: 'clear-decks' });
  await corvun.api(`/passes/${pick.id}`, 'PATCH', { step: 'pick' });
  await expect(panel(page, 'Clear the decks').getByRole('status')).toContainText('0 of 5 things');
});
