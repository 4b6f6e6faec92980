import { violations } from './axe';
import { openAt, openLine, pane, said, sheet, stack } from './corvun';
import { expect, test } from './world';

interface Tracked {
  cards: { id: string; status: string; title: string; estimate: number | null }[];
}

test('a new source: how to reach it, what would come in, and it fills; removing says what happens', async ({ sources: page }) => {
  await page.getByRole('link', { name: 'Connect a source' }).press('Enter');
  await page.getByRole('link', { name: /Old mailbox/ }).press('Enter');
  await expect(page.getByLabel('Server')).toHaveValue(/^imap:/);
  await page.getByLabel('Password').fill('wrong');
  await page.getByRole('button', { name: 'See what would come in' }).press('Enter');
  await expect(page.getByRole('alert')).toContainText('does not accept');
  await page.getByLabel('Password').fill('fen-water');
  await page.getByRole('button', { name: 'See what would come in' }).press('Enter');
  await expect(page.getByRole('heading', { name: 'What comes in from Old mailbox' })).toBeFocused();
  await expect(page.getByRole('status').filter({ hasText: 'messages' })).toContainText('2 of 5 messages');
  await page.getByLabel('Boardwalk (1)').check();
  await expect(page.getByRole('status').filter({ hasText: 'messages' })).toContainText('3 of 5 messages');
  await page.getByLabel('When decided').selectOption('Decided');
  expect(await violations(page)).toEqual([]);
  await page.getByRole('button', { name: 'Connect and bring it in' }).press('Enter');

  const row = page.getByRole('listitem', { name: 'Old mailbox' });
  await expect(row).toContainText('3 in the inbox');
  await expect(row).toContainText('decided mail is moved to Decided');
  await expect(page.getByRole('link', { name: 'Sort 41 waiting' })).toBeVisible();
  expect(await violations(page)).toEqual([]);

  await row.getByRole('button', { name: 'Pause' }).click();
  await expect(row).toContainText('Nothing comes in and nothing goes back until you go on');
  await row.getByRole('button', { name: 'Go on' }).click();
  await row.getByRole('button', { name: 'Remove' }).click();
  const question = page.getByRole('alertdialog');
  await expect(question).toContainText('3 undecided from it leave the inbox.');
  await expect(question).toContainText('Nothing is changed there.');
  await question.getByRole('button', { name: 'Remove' }).click();
  await expect(row).toBeHidden();
  await expect(page.getByRole('link', { name: 'Sort 38 waiting' })).toBeVisible();
});

test('a card done here is done there; one changed on both sides is asked about', async ({ sources: page, outside, corvun }) => {
  await openAt(page, corvun, 'Order larch decking, 48 m');
  await page.keyboard.press('l');
  await pane(page)
    .getByRole('option', { name: /Boardwalk repair/ })
    .or(pane(page).getByRole('button', { name: /Boardwalk repair/ }))
    .first()
    .click();
  await expect(said(page)).toContainText('Boardwalk repair');
  await page.goto(page.url().replace(/\/sort.*/, '/lists'));
  await page.getByRole('link', { name: /Boardwalk repair/ }).click();
  const task = page.locator('[data-task]', { hasText: 'Order larch decking, 48 m' });
  await task.focus();
  await page.keyboard.press('x');
  await page.getByRole('button', { name: /^Leave .* open$/ }).press('Enter');
  const card = async () => (await outside.state<Tracked>('tracker')).cards.find((one) => one.id === 'BW-12');
  await expect.poll(async () => (await card())?.status).toBe('built');
  await page.keyboard.press('u');
  await expect.poll(async () => (await card())?.status).toBe('ready');

  await page.goto(`${corvun.url}/sources`);
  const row = page.getByRole('listitem', { name: 'Team tracker' });
  await row.getByRole('button', { name: 'Pause' }).click();
  await expect(row).toContainText('Paused');
  const id = (await corvun.api<{ id: string; title: string }[]>('/tasks')).find((one) => one.title.startsWith('Order larch'))?.id;
  await corvun.api(`/tasks/${id}`, 'PATCH', { estimate: 90 });
  await outside.act('/tracker/cards/BW-12', { estimate: '60' });
  await row.getByRole('button', { name: 'Go on' }).click();
  await expect(page.getByRole('link', { name: 'Sort 38 waiting' })).toBeVisible();
  await openAt(page, corvun, 'Order larch decking, 48 m');
  const versions = sheet(page).getByRole('region', { name: 'Two versions' });
  await expect(versions.getByRole('row', { name: /Estimate/ })).toContainText('9060');
  expect(await violations(page)).toEqual([]);
  await versions.getByRole('button', { name: 'Keep what is here' }).click();
  await expect.poll(async () => (await card())?.estimate).toBe(90);
  await expect(page.getByRole('link', { name: 'Sort 37 waiting' })).toBeVisible();
});

test('a source that does not answer says so, and the rest works on', async ({ sources: page, outside, corvun }) => {
  outside.stop();
  const row = page.getByRole('listitem', { name: 'Team tracker' });
  await row.getByRole('button', { name: 'Look now' }).click();
  await expect(row).toContainText('Tried again in');
  await expect(row.getByRole('button', { name: 'Try again now' })).toBeVisible();
  await expect(page.getByText('A source needs a look')).toBeAttached();
  await corvun.mail({ subject: 'Still here', text: 'Could you answer by Friday?' });
  await expect(page.getByRole('link', { name: 'Sort 39 waiting' })).toBeVisible();
  await outside.startAgain();
  await row.getByRole('button', { name: 'Try again now' }).click();
  await expect(row).toContainText('Last look');
});

test('an invitation is answered with one key, and the answer goes out after a pause for undo', async ({
  sources: page,
  corvun,
  outside,
}) => {
  await page.keyboard.press('Shift+S');
  await openLine(page, 'Boardwalk section C: we would like to move the site meeting');
  await expect(sheet(page).getByRole('region', { name: 'Invitation' })).toContainText(
    'Moved from Wed 5 Aug 13:00 to Wed 5 Aug 14:00',
  );
  await page.keyboard.press('a');
  await page.keyboard.press('2');
  await expect(said(page)).toContainText('maybe');
  await page.keyboard.press('u');
  await expect(sheet(page).getByRole('heading', { name: /Boardwalk section C/ })).toBeVisible();
  expect(await corvun.api<unknown[]>('/outbox')).toEqual([]);
  await page.keyboard.press('a');
  await page.keyboard.press('1');
  await expect(said(page)).toContainText('yes');
  await page.goto(page.url().replace(/\/sort.*/, '/sources/outbox'));
  await page.getByRole('listitem').filter({ hasText: 'Ines Aalto' }).getByRole('button', { name: 'Try now' }).click();
  await expect(page.getByText('Sent just now')).toBeVisible();
  const { received } = await outside.state<{ received: { to: string; method: string; calendar: string }[] }>('mail');
  expect(received[0]).toMatchObject({ to: 'ines@aalto-timber.example', method: 'REPLY' });
  expect(received[0]?.calendar).toContain('PARTSTAT=ACCEPTED');
  expect(await violations(page)).toEqual([]);
});

test('a chat message shows what was said around it, and is answered in the chat', async ({ sources: page, outside, corvun }) => {
  await openAt(page, corvun, '@maren can you ask the ferry');
  await expect(sheet(page).getByRole('region', { name: 'Around it' })).toContainText('also the heron says hi');
  await page.keyboard.press('w');
  await page.keyboard.type('I call them today');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('Your reply to Jonas Brandl is on its way');
  await expect
    .poll(async () =>
      (await outside.state<{ messages: { text: string }[] }>('chat')).messages.some((one) => one.text === 'I call them today'),
    )
    .toBe(true);
  expect(await violations(page)).toEqual([]);
});

test('files: a table asks for its columns, the report says what was refused and why', async ({ sources: page, corvun }) => {
  await page.getByRole('link', { name: 'Files' }).click();
  const table = 'What;When;Size\nOrder the rope;2026-08-12;45\nCount the buoys;2026-08-13;90\n;2026-08-14;10\n';
  await page.getByLabel('Files to take in').setInputFiles([
    { name: 'plans.csv', mimeType: 'text/csv', buffer: Buffer.from(table) },
    { name: 'empty.eml', mimeType: 'message/rfc822', buffer: Buffer.alloc(0) },
    { name: 'sheet.xyz', mimeType: 'application/octet-stream', buffer: Buffer.from('?') },
  ]);
  const run = page.getByRole('listitem', { name: 'plans.csv' });
  await run.getByLabel('What').selectOption('title');
  await run.getByLabel('When').selectOption('deadline');
  await run.getByLabel('Size').selectOption('estimate');
  expect((await corvun.api<{ title: string }[]>('/tasks')).some((task) => task.title === 'Order the rope')).toBe(false);
  expect(await violations(page)).toEqual([]);
  await run.getByRole('button', { name: 'Take this table in' }).click();
  await expect(run).toContainText('2 taken · 0 updated · 0 known already · 1 refused');
  await expect(page.getByRole('listitem', { name: 'empty.eml' })).toContainText('empty');
  await expect(page.getByRole('listitem', { name: 'sheet.xyz' })).toContainText('Files ending in .xyz cannot be read');
  const rope = (await corvun.api<{ title: string; deadline: string; estimate: number }[]>('/tasks')).find(
    (task) => task.title === 'Order the rope',
  );
  expect(rope).toMatchObject({ deadline: '2026-08-12', estimate: 45 });
  await page.reload();
  await expect(run).toContainText('2 taken');
});

test('tokens are made, shown once and withdrawn; the bookmarklet opens the capture line', async ({ sources: page, corvun }) => {
  await page.getByRole('link', { name: 'Web pages and programs' }).click();
  await page.getByLabel('What it is for').fill('Weather script');
  await page.getByRole('button', { name: 'Make a token' }).click();
  const token = await page.getByLabel('The new token, shown this once').inputValue();
  const send = () =>
    fetch(`${corvun.url}/api/captures`, {
      method: 'POST',
      headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/json' },
      body: JSON.stringify({ text: 'look at the storm warning', key: 'weather-0001' }),
    });
  expect((await send()).status).toBe(201);
  expect((await send()).status).toBe(409);
  await expect(page.getByRole('link', { name: 'Sort 39 waiting' })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.getByRole('listitem').filter({ hasText: 'Weather script' }).getByRole('button', { name: 'Withdraw' }).click();
  await expect(page.getByText('Weather script')).toBeHidden();
  expect((await send()).status).toBe(401);

  await page.goto(`${corvun.url}/clip?title=Ferry&url=${encodeURIComponent('javascript:alert(1)')}&text=300%20kg`);
  await expect(page.getByLabel('Capture line')).toBeVisible();
  await expect(page.getByText('javascript:')).toBeHidden();
  expect(await violations(page)).toEqual([]);
  await page.getByLabel('Capture line').fill('Book the ferry tomorrow 10:00');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status')).toContainText('“Book the ferry” is a task');
  await page.goto(`${corvun.url}/sort`);
  await expect(stack(page)).toBeVisible();
});
