import type { ListInfo } from '@corvun/contract';
import { expect, test } from './corvun';

test('a group is named, moved, read together and dissolved; its lists stay', async ({ sort: page, corvun }) => {
  const all = () => corvun.api<ListInfo[]>('/lists');
  const groupsOf = async () => [...new Set((await all()).map(({ group }) => group))];
  await page.goto(`${corvun.url}/lists/all`);
  const [first = '', second = ''] = await groupsOf();
  const names = (await all()).filter(({ group }) => group === first).map(({ name }) => name);
  const contents = page.getByRole('navigation', { name: 'Table of contents' });
  const act = async (group: string, deed: string) => {
    await contents.getByRole('button', { name: `What can be done with the group ${group}` }).press('Enter');
    await page.getByRole('menuitem', { name: deed }).press('Enter');
  };
  await act(first, 'Rename');
  await expect(contents.getByLabel(`Name of the group ${first}`)).toBeFocused();
  await page.keyboard.type('Out at the banks');
  await page.keyboard.press('Enter');
  await expect(contents.getByRole('region', { name: 'Out at the banks' })).toContainText(names.at(-1) ?? '-');
  await act('Out at the banks', 'Move down');
  await expect.poll(async () => (await groupsOf()).slice(0, 2)).toEqual([second, 'Out at the banks']);
  await act('Out at the banks', 'Read together');
  await expect(page.getByRole('heading', { name: names.join(', ') })).toBeVisible();
  await act('Out at the banks', 'Dissolve');
  await expect.poll(async () => (await all()).filter(({ group }) => group === '').map(({ name }) => name)).toEqual(names);
  await page.keyboard.press('u');
  await expect(contents.getByRole('region', { name: 'Out at the banks' })).toBeVisible();
});
