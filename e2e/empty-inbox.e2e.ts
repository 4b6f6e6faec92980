import { expect, pane, said, sheet, stack, test } from './corvun';

test('the whole inbox of the demo is emptied with keys only, nearly all with at most two', async ({ sort: page, corvun }) => {
  const { total } = await corvun.api<{ total: number }>('/incoming?limit=1');
  expect(total).toBe(38);
  const panel = page.locator('[data-keeps-enter] button').first();
  let short = 0;
  let before = '';
  for (let left = total; left > 0; left -= 1) {
    const heading = sheet(page).getByRole('heading', { level: 2 });
    await expect(heading).not.toHaveText(before);
    before = (await heading.textContent()) ?? '';
    const rest = left > 1 ? stack(page).getByText(`${left - 1} to decide`) : page.getByText('0 to decide');
    const sure = await pane(page)
      .getByRole('button', { name: /^(?:Do this|Choose the list)/ })
      .isVisible();
    const answer = await pane(page)
      .getByRole('button', { name: /^Answer/ })
      .isVisible();
    let pressed = 1;
    await page.keyboard.press(sure ? 'Enter' : answer ? 'a' : 'l');
    // A proposal without a list asks for it; the first one is a digit away.
    await expect(rest.or(panel)).toBeVisible();
    if (!(await rest.isVisible())) {
      await page.keyboard.press('1');
      pressed += 1;
    }
    await expect(rest).toBeVisible();
    if (pressed <= 2) short += 1;
  }
  await expect(
    page.getByText('Nothing waits, and nothing is connected yet').or(page.getByText('Everything is decided')),
  ).toBeVisible();
  expect(short).toBeGreaterThanOrEqual(30);
  for (let back = 0; back < 5; back += 1) {
    await page.keyboard.press('u');
    await expect(said(page)).toContainText('Taken back');
    await expect(stack(page).getByText(`${back + 1} to decide`)).toBeVisible();
  }
});
