import type { TaskInfo } from '@corvun/contract';
import { violations } from './axe';
import { expect, said, test } from './corvun';
import { make, type Here } from './making';
import { day } from './planning';

const titled = async (here: Here, title: string) => (await here.api<TaskInfo[]>('/tasks')).filter((task) => task.title === title);

test('a repeating task by keys: done, the next one is there and shown ahead; one is skipped; undo takes it back', async ({
  sort: page,
  corvun,
}) => {
  const id = await make(corvun, 'Read the gauges today 20 min', { repeat: 'FREQ=WEEKLY' });
  await corvun.api('/tasks', 'POST', { lines: ['North bank', 'Reed zone'], parent: id });
  await page.goto(`${corvun.url}/plan/2026-08-10`);
  const ahead = page.getByRole('button', { name: 'comes again: Read the gauges' });
  await expect(ahead).toHaveCount(1);
  await ahead.press('Enter');
  const sheet = page.getByRole('complementary', { name: 'Task: Read the gauges' });
  await expect(sheet).toContainText('Next: Mon 3 Aug · Mon 10 Aug');
  await expect(sheet).toBeFocused();
  await page.keyboard.press('s');
  await expect(said(page)).toContainText('“Read the gauges” is skipped; the next one is on Mon 10 Aug');
  await expect(sheet).toContainText('Next: Mon 10 Aug · Mon 17 Aug');
  await page.keyboard.press('u');
  await expect(said(page)).toContainText('Taken back');
  await expect(sheet).toContainText('Next: Mon 3 Aug · Mon 10 Aug');

  await page.keyboard.press('x');
  await expect(page.getByRole('button', { name: 'All done, too' })).toBeFocused();
  await page.keyboard.press('Enter');

  await expect(said(page)).toContainText('; the next one is on Mon 10 Aug');
  await page.keyboard.press('Escape');
  await expect(page.locator('[data-head="2026-08-10"]').getByRole('button', { name: /Read the gauges/ })).toBeVisible();
  const [next] = (await titled(corvun, 'Read the gauges')).filter(({ status }) => status === 'NEEDS-ACTION');
  expect(next).toMatchObject({ plannedDay: '2026-08-10' });
  await page.reload();
  await expect(day(page, 'Mon 10 Aug')).toBeVisible();
  await expect(page.getByRole('button', { name: 'comes again: Read the gauges' })).toHaveCount(0);
});

test('whom one waits on is reminded with two keys; what is written survives a reload; it has come ends it', async ({
  sort: page,
  corvun,
}) => {
  const { items } = await corvun.api<{ items: { id: string; kind: string; sender: { name: string } }[] }>('/incoming?limit=50');
  const mail = items.find(({ kind, sender }) => kind === 'mail' && sender.name) ?? items[0];
  const who = mail?.sender.name ?? '';
  const { made } = await corvun.api<{ made: { id: string }[] }>('/decisions', 'POST', {
    ...{ incoming: [mail?.id], to: 'hand-over', with: who, title: 'Keys of the pump house' },
  });
  await page.goto(`${corvun.url}/lists/waiting`);
  await page.getByRole('button', { name: /^Keys of the pump house/ }).focus();
  await page.keyboard.press('r');
  const form = page.getByRole('form', { name: `Remind ${who}` });
  await expect(form.getByRole('textbox')).toHaveValue(/I asked you for this|I wait for this/);
  await expect(form.getByRole('button', { name: 'Send' })).toBeFocused();
  expect(await violations(page)).toEqual([]);
  await form.getByRole('textbox').fill('Is there any news of the keys?');
  await page.reload();
  await expect(form.getByRole('textbox')).toHaveValue('Is there any news of the keys?');
  await form.getByRole('textbox').press('Control+Enter');
  await expect(said(page)).toContainText('is asked again for “Keys of the pump house”');
  const waiting = page.getByRole('region', { name: `Waiting on ${who}` });
  await expect(waiting).toContainText('asked again Mon 3 Aug');
  await corvun.api(`/tasks/${made[0]?.id}`, 'PATCH', { waitingUntil: '2026-07-31' });
  await expect(waiting).toContainText('It was expected by Fri 31 Jul');
  await page.getByRole('button', { name: 'It has come' }).click();
  await expect(said(page)).toContainText('waits for nobody');
  await expect(waiting).toHaveCount(0);
});

test('the shelf says what is to be looked at again; a row is put there until a day', async ({ sort: page, corvun }) => {
  await make(corvun, 'Learn the reeds', { shelved: true, lookAgain: '2026-08-03' });
  await make(corvun, 'Paint the hut', { shelved: true, lookAgain: '2026-09-01' });
  await page.goto(`${corvun.url}/lists/shelf`);
  await expect(page.getByRole('navigation', { name: 'Table of contents' })).toContainText(/Shelf\s*\d+ to look at/);
  await expect(page.getByRole('heading', { name: /^To look at again/ })).toBeVisible();
  await expect(page.getByRole('heading', { name: /^Later/ })).toBeVisible();
  const row = page.getByRole('button', { name: /^Learn the reeds/ });
  await row.focus();
  await page.keyboard.press('e');
  await page.getByRole('menuitem', { name: 'On the shelf until' }).press('ArrowRight');
  await page.getByRole('menuitem', { name: 'Look again in a month' }).press('Enter');
  await expect(said(page)).toContainText('look again Wed 2 Sep');
  await expect(row).toContainText('look again Wed 2 Sep');
});

test('a project says how far it is and what comes next; a better estimate is offered and taken', async ({
  sort: page,
  corvun,
}) => {
  const { id } = await corvun.api<{ id: string }>('/lists', 'POST', { name: 'Bird hide', project: true });
  await corvun.api(`/lists/${id}`, 'PATCH', { outcome: 'The hide is open', ends: '2026-08-28' });
  for (const minutes of [30, 30, 60, 40, 60])
    await make(corvun, `Plank ${minutes}`, { list: id, estimate: minutes, spent: minutes * 2, status: 'COMPLETED' });
  const door = await make(corvun, 'Hang the door', { list: id, estimate: 60 });
  await page.goto(`${corvun.url}/lists/${id}`);
  const head = page.getByRole('region', { name: 'Bird hide' });
  await expect(head).toContainText('Project: The hide is open, ends Fri 28 Aug, in 25 days');
  await expect(head).toContainText('5 of 6 steps done, 7 h 20 of 8 h 20');
  await head.getByRole('button', { name: 'Hang the door', exact: true }).click();
  await expect(page).toHaveURL(new RegExp(`task=${door}`));
  const sheet = page.getByRole('complementary', { name: 'Task: Hang the door' });
  await expect(sheet).toContainText('5 tasks on Bird hide took 2 times as long as planned.');
  await sheet.getByRole('button', { name: 'Take 2 h' }).click();
  await expect(said(page)).toContainText('takes 2 h');
  await expect(head).toContainText('7 h 20 of 9 h 20');
  await corvun.api(`/tasks/${door}`, 'PATCH', { waitingOn: 'Jonas' });
  await expect(head).toContainText('It has no step that can be done now.');
  await expect(page.getByRole('link', { name: /Bird hide stalled/ })).toBeVisible();
});

test('a little time: what fits is there with one key, the best first, and begun with the next', async ({
  sort: page,
  corvun,
}) => {
  await make(corvun, 'Call the seed merchant', {
    ...{ estimate: 15, priority: 'high', deadline: '2026-08-03', plannedDay: '2026-08-03' },
  });
  await make(corvun, 'Write the whole report', { estimate: 90, priority: 'high', deadline: '2026-08-03' });
  await page.keyboard.press('Shift+P');
  await expect(page.getByRole('tab', { name: /^Due soon/ })).toBeVisible();
  await page.keyboard.press('l');
  const panel = page.getByRole('tabpanel', { name: 'What fits now' });
  const best = panel.getByRole('button', { name: /Call the seed merchant 15 min/ });
  await expect(best).toBeFocused();
  await expect(best).toContainText('due Mon 3 Aug, planned for today, high');
  await expect(panel.getByText('Write the whole report')).toHaveCount(0);
  expect(await violations(page)).toEqual([]);
  const minutes = panel.getByRole('textbox', { name: 'I have' });
  await minutes.fill('100');
  await expect(panel.getByText('Write the whole report')).toBeVisible();
  await minutes.fill('a while');
  await expect(panel.getByRole('alert')).toHaveText('Write a whole number of minutes, from 1 to 600.');
  await minutes.fill('20');
  await minutes.press('Enter');
  await expect(best).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('“Call the seed merchant” is begun, until 11:');
  await expect(page.getByRole('button', { name: /^Block: Call the seed merchant/ })).toBeVisible();
  expect((await titled(corvun, 'Call the seed merchant'))[0]?.status).toBe('IN-PROCESS');
});
