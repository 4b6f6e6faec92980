import { violations } from './axe';
import { expect, openAt, sheet, test } from './corvun';

test('a conversation is read from its newest part back, with what was decided; what is quoted is folded', async ({
  sort: page,
  corvun,
}) => {
  await openAt(page, corvun, 'Quote for the handrail');
  await expect(sheet(page)).toContainText('whether you want oak or larch');
  await expect(sheet(page)).not.toContainText('While you are at it');
  await sheet(page).getByRole('button', { name: 'Show what it quotes' }).press('Enter');
  await expect(sheet(page)).toContainText('While you are at it');

  const earlier = page.getByRole('region', { name: 'Earlier in this conversation' });
  const part = earlier.getByRole('button').first();
  await expect(part).toHaveAttribute('aria-expanded', 'false');
  await expect(earlier).toContainText('became');
  await part.press('Enter');
  await expect(part).toHaveAttribute('aria-expanded', 'true');
  await expect(earlier).toContainText('Hello Maren,');
  expect(await violations(page)).toEqual([]);

  await earlier.getByRole('link', { name: 'Open the whole message' }).press('Enter');
  await expect(sheet(page).getByText('This conversation went on:')).toBeVisible();
  await sheet(page)
    .getByRole('link', { name: /^Ines Aalto, / })
    .click();
  await expect(sheet(page).getByRole('heading', { name: 'Quote for the handrail' })).toBeVisible();
});
