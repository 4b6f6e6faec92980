import type { AgendaEntry, TaskInfo } from '@corvun/contract';
import { violations } from './axe';
import { expect, said, test, type Corvun } from './corvun';
import { event, onSheet } from './planning';

const SUBJECT = 'Boardwalk section C: we would like to move the site meeting';

/** Time for two tasks where an invitation would be; gives the id of the invitation. */
async function crowded(corvun: Corvun): Promise<string> {
  const tasks = await corvun.api<TaskInfo[]>('/tasks');
  const idOf = (title: string) => tasks.find((one) => one.title.startsWith(title))?.id ?? '';
  const block = (title: string, start: string, minutes: number) =>
    corvun.api('/blocks', 'POST', { taskId: idOf(title), start: `2026-08-05T${start}`, minutes });
  await block('Send photos', '13:45', 45);
  await block('Read the draft', '14:30', 30);
  const { items } = await corvun.api<{ items: { id: string; subject: string }[] }>('/incoming?limit=100');
  return items.find(({ subject }) => subject === SUBJECT)?.id ?? '';
}
const at = async (corvun: Corvun, title: string) => {
  const { entries } = await corvun.api<{ entries: AgendaEntry[] }>('/agenda?from=2026-08-03&days=14');
  return entries
    .filter((one) => one.kind !== 'task' && one.title.startsWith(title))
    .map(({ start, status }) => `${start?.slice(5, 16)} ${status}`);
};

test('an invitation says what a yes costs; yes, and move them is one doing, by key, and is taken back as one', async ({
  sort: page,
  corvun,
}) => {
  await page.goto(`${corvun.url}/sort/${await crowded(corvun)}`);
  const cost = page.getByRole('region', { name: 'What a yes costs' });
  await expect(cost).toContainText('2 blocks move, 1 h 15 in all');
  await expect(cost.getByText(/^moves to /)).toHaveCount(2);
  await expect(cost).toContainText(/Wed 5 Aug keeps .* free/);
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('a');
  await expect(page.getByRole('button', { name: 'Yes, and move 2 blocks' })).toBeVisible();
  await page.keyboard.press('4');
  await expect(said(page)).toContainText('is answered with yes; 2 blocks moved');
  expect(await at(corvun, 'Boardwalk section C')).toEqual(['08-05T14:00 CONFIRMED']);
  const moved = await at(corvun, 'Send photos');
  expect(moved[0]).not.toContain('08-05T13:45');
  await page.keyboard.press('u');
  await expect(said(page)).toContainText('Taken back');
  expect(await at(corvun, 'Boardwalk section C')).toEqual(['08-05T14:00 TENTATIVE']);
  expect((await at(corvun, 'Send photos'))[0]).toContain('08-05T13:45');
});

test('on Plan an invitation is answered on its sheet, and another time is proposed with a click', async ({
  sort: page,
  corvun,
}) => {
  await crowded(corvun);
  await page.goto(`${corvun.url}/plan`);
  await event(page, 'Boardwalk section C').press('i');
  const sheet = onSheet(page, 'Boardwalk section C on site');
  const cost = sheet.getByRole('region', { name: 'What a yes costs' });
  await expect(cost).toContainText('2 blocks move');
  expect(await violations(page)).toEqual([]);
  await sheet.getByRole('button', { name: 'Yes, and move them' }).click();
  await expect(said(page)).toContainText('2 blocks moved');
  await expect(cost).toHaveCount(0);
  await page.getByRole('button', { name: /^Undo/ }).click();
  await expect(cost).toContainText('2 blocks move');
  await cost
    .getByRole('button', { name: /^(?:Tue|Thu|Fri) \d/ })
    .first()
    .click();
  await expect(said(page)).toContainText('proposed');
});

test('an event of one’s own says what it stands on, and lets it give way', async ({ sort: page, corvun }) => {
  await crowded(corvun);
  await corvun.api('/events', 'POST', { title: 'Talk to the crew', start: '2026-08-05T13:45', minutes: 60 });
  await page.goto(`${corvun.url}/plan`);
  await event(page, 'Talk to the crew').press('i');
  const sheet = onSheet(page, 'Talk to the crew');
  await expect(sheet.getByRole('region', { name: 'What it stands on' })).toContainText('2 blocks move');
  await sheet.getByRole('button', { name: 'Move them' }).click();
  await expect(said(page)).toContainText('2 blocks moved');
  await expect(sheet.getByRole('region', { name: 'What it stands on' })).toHaveCount(0);
});

test('what is drawn where own time stands can make that give way at once', async ({ sort: page, corvun }) => {
  await crowded(corvun);
  await page.goto(`${corvun.url}/plan?new=2026-08-05T13:45&for=60`);
  await page.getByLabel('What it is', { exact: true }).fill('Talk to the crew');
  await page.getByRole('button', { name: '… and move 2 blocks' }).click();
  await expect(said(page)).toContainText('2 blocks moved');
  expect(await at(corvun, 'Talk to the crew')).toEqual(['08-05T13:45 CONFIRMED']);
  expect((await at(corvun, 'Send photos'))[0]).not.toContain('08-05T13:45');
  await page.keyboard.press('u');
  await expect.poll(async () => (await at(corvun, 'Send photos'))[0]).toContain('08-05T13:45');
  expect(await at(corvun, 'Talk to the crew')).toEqual([]);
});
