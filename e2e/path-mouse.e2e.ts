import type { Locator } from '@playwright/test';
import { drag, expect, openLine, pane, said, sheet, stack, test, waitingCount } from './corvun';

async function middle(of: Locator): Promise<{ x: number; y: number; height: number; width: number }> {
  const box = await of.boundingBox();
  if (!box) throw new Error('not on the screen');
  return { x: box.x + box.width / 2, y: box.y + Math.min(box.height / 2, 12), height: box.height, width: box.width };
}

test('the whole path with the mouse only', async ({ sort: page, corvun, browser }) => {
  const second = await (await browser.newContext()).newPage();
  await second.goto(`${corvun.url}/sort`);
  const before = await waitingCount(page);

  await test.step('a file dropped into Sort is taken in, in every window', async () => {
    const transfer = await page.evaluateHandle(() => {
      const data = new DataTransfer();
      data.items.add(
        new File(
          [
            'From: Ines Aalto <ines@aalto-timber.example>\r\nDate: Mon, 3 Aug 2026 10:00:00 +0200\r\nMessage-ID: <drop@x.example>\r\nSubject: Larch boards\r\n\r\nCould you confirm the 48 boards by Friday? Ten minutes.',
          ],
          'boards.eml',
        ),
      );
      data.items.add(new File([''], 'empty.eml'));
      return data;
    });
    await page.dispatchEvent('[aria-label="Stack"]', 'drop', { dataTransfer: transfer });
    await expect(said(page)).toContainText('1 taken in. Refused: empty.eml: The file is empty');
    for (const window of [page, second]) await expect(stack(window).getByText(`${before + 1} to decide`)).toBeVisible();
  });

  await test.step('it is dragged onto a gap of the day strip', async () => {
    const row = stack(page).getByRole('button', { name: /Larch boards/ });
    while (!(await row.isVisible()))
      await stack(page)
        .getByRole('list')
        .evaluate((list) => list.parentElement?.scrollBy({ top: 400 }));
    await row.click();
    await expect(sheet(page).getByRole('heading', { name: 'Larch boards' })).toBeVisible();
    const from = await middle(row);
    await page.mouse.move(from.x, from.y);
    await page.mouse.down();
    await page.mouse.move(from.x + 20, from.y - 20, { steps: 4 });
    const gap = page.getByRole('button', { name: /^3: 2026-08-03 at 15:00/ });
    await expect(gap).toBeVisible();
    const to = await middle(gap);
    await page.mouse.move(to.x, to.y + 10, { steps: 10 });
    // What is let go before it is known what lies under it goes nowhere.
    await expect(gap).toHaveAttribute('data-over', 'true');
    await page.mouse.up();
    await expect(said(page)).toContainText('“Confirm the 48 boards” has time on Mon 3 Aug at 16:00, 10 min');
    await expect(stack(second).getByText(`${before} to decide`)).toBeVisible();
  });

  await test.step('others are dragged onto a list and a day', async () => {
    for (const [subject, target, sentence] of [
      ['Gatter am Nordweg', '[data-drop^="list-"] >> nth=2', /is on Boardwalk repair/],
      ['Interim report', '[data-drop^="day-2026-08-06"]', /is on Thu 6 Aug/],
    ] as const) {
      await stack(page)
        .getByRole('list')
        .evaluate((list) => list.parentElement?.scrollTo({ top: 0 }));
      const from = await middle(stack(page).getByRole('button', { name: new RegExp(subject) }));
      await page.mouse.move(from.x, from.y);
      await page.mouse.down();
      await page.mouse.move(from.x + 20, from.y + 20, { steps: 4 });
      const to = await middle(page.locator(target));
      await page.mouse.move(to.x, to.y, { steps: 10 });
      await page.mouse.up();
      await expect(said(page)).toContainText(sentence);
    }
  });

  await page.getByRole('link', { name: 'Plan' }).click();
  const block = page.getByRole('button', { name: /^Block: Grant figures, section 2/ });

  await test.step('on Plan a block is dragged to another time and day, and made longer', async () => {
    const from = await middle(block);
    const column = await page.getByRole('region', { name: 'Thu 6 Aug', exact: true }).boundingBox();
    await drag(page, from, { x: (column?.x ?? 0) + 100, y: from.y + 44 });
    await expect(
      page
        .getByRole('region', { name: 'Thu 6 Aug', exact: true })
        .getByRole('button', { name: /^Block: Grant figures, section 2 11:15 – 12:45/ }),
    ).toBeVisible();
    const edge = await middle(
      page
        .locator('[data-edge]')
        .and(
          page
            .getByRole('region', { name: 'Thu 6 Aug', exact: true })
            .locator('[data-entry]', { hasText: 'Grant figures' })
            .locator('[data-edge]'),
        ),
    );
    await drag(page, edge, { x: edge.x, y: edge.y + 22 });
    await expect(page.getByRole('button', { name: /^Block: Grant figures, section 2 11:15 – 13:15/ })).toBeVisible();
  });

  await test.step('a task without a time is dragged into the grid, and a block back to the head of a day', async () => {
    await page.getByRole('button', { name: 'Fold the tray away' }).click();
    const task = page.getByRole('button', { name: /Sign the timesheets/ });
    const column = await page.getByRole('region', { name: 'Mon 3 Aug', exact: true }).boundingBox();
    const hour = await page.getByRole('button', { name: /^Event: County, gauge 14/ }).boundingBox();
    await drag(page, await middle(task), { x: (column?.x ?? 0) + 90, y: (hour?.y ?? 0) + 88 + 10 });
    await expect(page.getByRole('button', { name: /^Block: Sign the timesheets 16:00 – 16:10/ })).toBeVisible();
    const head = await page.locator('[data-head="2026-08-04"]').boundingBox();
    await drag(page, await middle(page.getByRole('button', { name: /^Block: Sign the timesheets/ })), {
      x: (head?.x ?? 0) + 60,
      y: (head?.y ?? 0) + 80,
    });
    await expect(page.locator('[data-head="2026-08-04"]').getByRole('button', { name: /Sign the timesheets/ })).toBeVisible();
  });

  await test.step('the menu does what a drag does, and opens the message', async () => {
    await page.getByRole('button', { name: /^Block: Confirm the 48 boards/ }).click();
    await page.getByRole('menuitem', { name: 'Open the message it came from' }).click();
    await expect(sheet(page).getByRole('heading', { name: 'Larch boards' })).toBeVisible();
    await page.goBack();
    await page.getByRole('button', { name: /^Block: Confirm the 48 boards/ }).click();
    await page.getByRole('menuitem', { name: 'Done', exact: true }).click();
    await expect(page.getByRole('button', { name: /^Block: Confirm the 48 boards 16:00 – 16:10, done/ })).toBeVisible();
  });

  await test.step('what comes from outside stays, and says why', async () => {
    const choir = await middle(page.getByRole('button', { name: /^Event: Choir board/ }));
    await drag(page, choir, { x: choir.x - 300, y: choir.y });
    await page.getByRole('button', { name: /^Event: Choir board/ }).click();
    await expect(page.getByText('“Choir board” comes from outside, so its events can only be changed there.')).toBeVisible();
    await page.keyboard.press('Escape');
  });

  await test.step('Lists agrees in the other window, and undo there takes it back here', async () => {
    await second.getByRole('link', { name: 'Lists', exact: true }).click();
    await second.getByRole('link', { name: /Boardwalk repair/ }).click();
    await expect(second.getByRole('checkbox', { name: 'Done: Sagen, wer die Reparatur bezahlt' })).not.toBeChecked();
    await second.getByRole('checkbox', { name: 'Done: Sagen, wer die Reparatur bezahlt' }).click();
    await second.getByRole('button', { name: /^Show what was done/ }).click();
    await expect(second.getByRole('checkbox', { name: 'Done: Sagen, wer die Reparatur bezahlt' })).toBeChecked();
    await second.getByRole('button', { name: /Undo/ }).click();
    await expect(second.getByRole('checkbox', { name: 'Done: Sagen, wer die Reparatur bezahlt' })).not.toBeChecked();
    await page.getByRole('link', { name: /^Sort/ }).click();
    await openLine(page, 'Gauge 14: readings for the county');
    await pane(page).getByRole('button', { name: 'Do this' }).click();
    await second.getByRole('link', { name: /Permits/ }).click();
    await expect(second.getByRole('button', { name: /^Send the raw readings of gauge 14/ })).toBeVisible();
  });
});

test('after a kill and a new start everything is there, and the window finds back by itself', async ({ sort: page, corvun }) => {
  await page.keyboard.press('c');
  await page.keyboard.type('thought before the fall');
  await page.keyboard.press('Enter');
  await expect(said(page)).toContainText('waits in the inbox');
  const { total: waiting } = await corvun.api<{ total: number }>('/incoming?limit=1');
  await corvun.kill();
  await expect(page.getByText('The connection to Corvun’s server is lost')).toBeVisible();
  await corvun.start();
  await expect(page.getByText('The connection to Corvun’s server is lost')).toBeHidden();
  await page.reload();
  await expect(stack(page).getByText(`${waiting} to decide`)).toBeVisible();
});
