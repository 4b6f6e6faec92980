import { expect, openLine, pane, said, sheet, stack, test, waitingCount } from './corvun';

test('Lists: tick, move, shelve and drop by keyboard and menu, and back to the message', async ({ sort: page }) => {
  await page.keyboard.press('Shift+L');
  await page.getByRole('link', { name: /Boardwalk repair/ }).click();
  const rows = page.getByRole('region', { name: 'Boardwalk repair' }).locator('[data-task]');
  const first = (await rows.first().locator('span').first().textContent()) ?? '';
  // Several tasks of the demo have the same title, so this one is known by its id.
  const id = (await rows.first().getAttribute('data-task')) ?? '';
  const task = page.locator(`[data-task="${id}"]`);
  const before = await rows.count();

  await rows.first().focus();
  await page.keyboard.press('ArrowDown');
  await expect(rows.nth(1)).toBeFocused();
  await page.keyboard.press('ArrowUp');
  const second = (await rows.nth(1).getAttribute('data-task')) ?? '';
  await page.keyboard.press('x');
  await expect(said(page)).toContainText(`“${first}” is done`);
  await expect(rows.first()).toHaveAttribute('data-task', second);
  await expect(rows.first()).toBeFocused();
  await page.keyboard.press('u');
  await expect(said(page)).toContainText('Taken back');
  await expect(rows.first()).toHaveAttribute('data-task', id);

  await task.focus();
  await page.keyboard.press('e');
  await page.getByRole('menuitem', { name: 'Put on the shelf' }).press('Enter');
  await expect(said(page)).toContainText(`“${first}” is on the shelf`);
  await expect(rows).toHaveCount(before - 1);
  await page.getByRole('link', { name: /^Shelf/ }).click();
  await task.click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Put on a day' }).hover();
  await page.getByRole('menuitem', { name: 'Thu 6 Aug' }).click();
  await expect(said(page)).toContainText(`“${first}” is on Thu 6 Aug`);

  await page.getByRole('link', { name: /Boardwalk repair/ }).click();
  await expect(task).toContainText('Thu 6 Aug');
  await task.focus();
  await page.keyboard.press('o');
  await expect(sheet(page).getByRole('region', { name: 'What it became' })).toContainText(first);
  await sheet(page).locator(`a[href$="?task=${id}"]`).click();
  await expect(page.locator('[data-sheet]')).toBeFocused();
  await page.keyboard.press('Escape');
  await expect(sheet(page).locator(`a[href$="?task=${id}"]`)).toBeFocused();
});

test('Lists: a new list is made, refused twice, and used at once', async ({ sort: page }) => {
  await page.getByRole('link', { name: 'Lists', exact: true }).click();
  const field = page.getByLabel('New list');
  await field.fill('Orchids');
  await field.press('Enter');
  await expect(page.getByRole('link', { name: /Orchids/ })).toBeVisible();
  await field.fill('orchids');
  await field.press('Enter');
  await expect(page.getByText('There is a list “orchids” already.')).toBeVisible();
  await page.getByRole('link', { name: /Orchids/ }).click();
  await expect(page.getByText('Nothing is on this list.')).toBeVisible();
  await page.getByLabel('Capture line').fill('Count them >Orchids');
  await page.getByLabel('Capture line').press('Enter');
  await expect(page.getByRole('region', { name: 'Orchids' }).getByRole('button', { name: /^Count them/ })).toBeVisible();
});

test('Plan: layers hide and show, days turn, and the menu moves without dragging', async ({ sort: page }) => {
  await page.keyboard.press('Shift+P');
  const choir = page.getByRole('button', { name: /^Event: Choir board/ });
  await expect(choir).toBeVisible();
  await page.getByRole('button', { name: 'Layers' }).click();
  await page.getByRole('menuitemcheckbox', { name: /Choir board from outside/ }).click();
  await expect(choir).toBeHidden();
  await expect(page.getByText('taken, not shown').first()).toBeVisible();
  await page.getByRole('menuitemcheckbox', { name: /Choir board takes time/ }).click();
  await expect(page.getByText('taken, not shown')).toHaveCount(0);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('button', { name: 'Layers · 1 hidden' })).toBeVisible();
  await page.keyboard.press('u');
  await expect(page.getByText('taken, not shown').first()).toBeVisible();
  await page.keyboard.press('u');
  await expect(choir).toBeVisible();

  await page.keyboard.press('ArrowRight');
  await expect(page).toHaveURL(/\/plan\/2026-08-10/);
  await expect(page.getByRole('heading', { name: /10 Aug – 14 Aug/ })).toBeVisible();
  await page.goBack();
  await page.getByRole('radio', { name: '3', exact: true }).click();
  await expect(page.getByRole('heading', { name: /3 Aug – 5 Aug/ })).toBeVisible();
  await page.reload();
  await expect(page.getByRole('radio', { name: '3', exact: true })).toBeChecked();

  const block = page.getByRole('button', { name: /^Block: Grant figures, section 2/ });
  await block.click();
  await page.getByRole('menuitem', { name: '15 min later' }).click();
  await expect(page.getByRole('button', { name: /^Block: Grant figures, section 2 10:30 – 12:00/ })).toBeVisible();
  await block.click();
  await page.getByRole('menuitem', { name: '15 min shorter' }).click();
  await expect(page.getByRole('button', { name: /^Block: Grant figures, section 2 10:30 – 11:45/ })).toBeVisible();
  await block.click();
  await page.getByRole('menuitem', { name: 'Put on another day' }).hover();
  await page.getByRole('menuitem', { name: 'Tue 4 Aug' }).click();
  await expect(
    page
      .getByRole('region', { name: 'Tue 4 Aug', exact: true })
      .getByRole('button', { name: /^Block: Grant figures, section 2 10:30 – 11:45/ }),
  ).toBeVisible();
  await block.click();
  await page.getByRole('menuitem', { name: 'Give the time back' }).click();
  await expect(block).toBeHidden();
  await expect(page.locator('[data-head="2026-08-04"]').getByRole('button', { name: /Grant figures/ })).toBeVisible();

  const standUp = page.getByRole('button', { name: /^Event: Stand-up at the hut/ });
  await standUp.focus();
  await page.keyboard.press('m');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('radio', { name: 'This date' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Event: Stand-up at the hut 9:15/ })).toBeVisible();
  await standUp.click();
  await page.getByRole('menuitem', { name: 'Move with the arrow keys' }).press('Enter');
  await expect(standUp).toBeFocused();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Event: Stand-up at the hut 9:00/ })).toBeVisible();

  const crew = page.getByRole('button', { name: /^Event: Crew meeting/ });
  await crew.focus();
  await page.keyboard.press('Enter');
  await page.getByRole('menuitem', { name: 'Take out of the calendar' }).press('Enter');
  await expect(page.getByRole('radio', { name: 'This date' })).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(crew).toBeHidden();
  for (let turn = 0; turn < 3; turn += 1) await page.keyboard.press('ArrowRight');
  await expect(page.getByRole('heading', { name: /12 Aug – 14 Aug/ })).toBeVisible();
  await expect(crew).toBeVisible();
});

test('Sort: evidence in the margin is used with a click, and the theme is kept', async ({ sort: page }) => {
  await openLine(page, 'Gauge 14: readings for the county');
  await sheet(page)
    .getByRole('button', { name: /^ask 2/ })
    .click();
  await expect(pane(page).getByLabel('Title')).toHaveValue('Say who will have the key to the hut from September on');
  await expect(stack(page).getByRole('button', { name: /Gauge 14/ })).toContainText('changed');
  await page.getByRole('button', { name: 'Settings' }).click();
  await page.getByRole('menuitemradio', { name: 'Dark' }).click();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark');
  await page.reload();
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dark');
  await expect(pane(page).getByLabel('Title')).toHaveValue('Say who will have the key to the hut from September on');
});

test('Sort: what is not right stays open and nothing is lost', async ({ sort: page, corvun }) => {
  const before = await waitingCount(page);
  await openLine(page, 'Field crew, yesterday evening');
  await page.keyboard.press('e');
  await pane(page).getByLabel(/^When/).fill('sometime');
  await pane(page).getByRole('button', { name: 'Put it in the calendar' }).click();
  await expect(pane(page).getByText('Add a day and a time')).toBeVisible();
  await pane(page).getByLabel(/^When/).fill('Thursday 16:00-16:45');
  await pane(page).getByLabel(/^With/).fill('Jonas Brandl');
  await pane(page).getByRole('button', { name: 'Put it in the calendar' }).click();
  await expect(said(page)).toContainText('is an event on Thu 6 Aug at 16:00');
  await expect(stack(page).getByText(`${before - 1} to decide`)).toBeVisible();
  const { entries } = await corvun.api<{ entries: { kind: string; start: string; end: string }[] }>('/agenda?from=2026-08-06');
  expect(entries.some((entry) => entry.kind === 'event' && entry.start.includes('T16:00') && entry.end.includes('T16:45'))).toBe(
    true,
  );

  await corvun.kill();
  await page.keyboard.press('Backspace');
  await expect(page.getByRole('alert')).toContainText('Corvun’s server does not answer. Nothing is lost');
  await expect(stack(page).getByText(`${before - 1} to decide`)).toBeVisible();
});

test('on a telephone the contents and a list are pages of their own', async ({ sort: page, corvun }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`${corvun.url}/lists`);
  const contents = page.getByRole('navigation', { name: 'Table of contents' });
  await contents.getByRole('link', { name: /Permits/ }).click();
  await expect(page.getByRole('heading', { name: /Permits/ })).toBeVisible();
  await expect(contents).toBeHidden();
  await page.getByRole('link', { name: 'All lists' }).click();
  await expect(contents).toBeVisible();
  await page.getByRole('link', { name: 'Plan' }).click();
  await expect(page.getByRole('heading', { name: /Mon 3 Aug/ }).first()).toBeVisible();
  await page.getByRole('button', { name: 'Later' }).click();
  await expect(page).toHaveURL(/\/plan\/2026-08-04/);
});

test('what arrives above what one reads does not move it; a block on the strip opens its task', async ({
  sort: page,
  corvun,
}) => {
  await page.getByRole('button', { name: 'Show the newest first' }).click();
  const first = stack(page).getByRole('list', { name: 'Waiting' }).getByRole('button').first();
  await expect(first).toHaveAttribute('aria-current', 'true');
  const name = (await first.textContent()) ?? '';
  const row = stack(page).getByRole('list', { name: 'Waiting' }).getByRole('button').filter({ hasText: name });
  const before = (await row.boundingBox())?.y;
  await corvun.mail({ subject: 'Rain at the hut', text: 'It rained.' });
  await expect(stack(page)).toContainText('39 to decide');
  await expect.poll(async () => (await row.boundingBox())?.y).toBe(before);
  await page
    .getByRole('button', { name: /Grant figures/ })
    .first()
    .click();
  await expect(page.getByRole('complementary', { name: 'Task: Grant figures, section 2' })).toBeVisible();
});

test('what was decided says what it became, opens it, and is decided anew', async ({ sort: page, corvun }) => {
  const { items } = await corvun.api<{ items: { id: string }[] }>('/incoming?state=decided&outcome=list&limit=1');
  await page.goto(`${corvun.url}/sort/${items[0]?.id}`);
  const became = page.getByRole('region', { name: 'What it became' });
  await became.getByRole('link').first().click();
  await expect(page.getByRole('complementary', { name: /^Task: / })).toBeVisible();
  await page.keyboard.press('Escape');
  await became.getByRole('button', { name: 'Decide it anew' }).click();
  await expect(page.getByRole('navigation', { name: 'Places' })).toContainText('39 waiting');
  await expect(page.getByRole('complementary', { name: 'Decide' }).getByRole('button', { name: /^List/ })).toBeVisible();
});

test('undo on Sort opens what came back', async ({ sort: page }) => {
  await openLine(page, 'Board papers');
  await page.keyboard.press('Backspace');
  await expect(sheet(page).getByRole('heading', { name: 'Board papers' })).toBeHidden();
  await page.keyboard.press('u');
  await expect(sheet(page).getByRole('heading', { name: 'Board papers' })).toBeVisible();
  await page.keyboard.press('Shift+U');
  await expect(said(page)).toContainText('Done again');
});

test('a place that could not be loaded says so, and is loaded again', async ({ page, corvun }) => {
  await page.route(/NotesPlace/, (route) => route.abort());
  await page.goto(`${corvun.url}/notes`);
  await expect(page.getByRole('alert')).toContainText('could not be loaded. Nothing is lost.');
  await page.unroute(/NotesPlace/);
  await page.getByRole('button', { name: 'Load it again' }).click();
  await page.getByRole('heading', { name: 'Notes', level: 1 }).waitFor();
});
