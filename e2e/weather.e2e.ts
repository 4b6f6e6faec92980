import type { WeatherInfo } from '@corvun/contract';
import { sayWeather } from '@corvun/core';
import { violations } from './axe';
import { expect, test } from './world';

test('the weather stands beside a day with work outside on it, at its place, and beside no other', async ({
  sources: page,
  corvun,
}) => {
  const { weather } = await corvun.api<{ weather: WeatherInfo | null }>('/weather?day=2026-07-31');
  expect(weather?.place).toBe('Section C');
  await page.goto(`${corvun.url}/look-back/log/2026-07-31`);
  const outside = page.getByRole('region', { name: 'Outside' });
  await expect(outside).toContainText('Outside at Section C');
  await expect(outside).toContainText(sayWeather(weather?.hours ?? []));
  await expect(outside).toContainText('for Boardwalk: contractor on site');
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('ArrowLeft');
  await expect(page.getByRole('heading', { level: 1, name: 'Thu 30 Jul' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'The day in numbers' })).toBeVisible();
  await expect(outside).toBeHidden();

  // Today has none until something is done outside.
  await page.keyboard.press('J');
  await expect(page.getByRole('region', { name: 'What runs' })).toBeVisible();
  await expect(page.getByText('Outside today')).toBeHidden();
  const walk = { title: 'Look at the posts', start: '2026-08-03T15:00', minutes: 30, location: 'Gate 3' };
  await corvun.api('/events', 'POST', walk);
  await expect(page.getByText('Outside today, at Gate 3')).toContainText('for Look at the posts');
});
