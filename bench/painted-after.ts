import type { Page } from '@playwright/test';

/** Milliseconds from a key to the second frame in which `selector` is there. */
export async function paintedAfter(page: Page, key: string, selector: string): Promise<number> {
  await page.evaluate((wanted) => {
    (window as unknown as { done: Promise<number> }).done = new Promise((resolve) => {
      window.addEventListener(
        'keydown',
        () => {
          const start = performance.now();
          const look = () => {
            if (document.querySelector(wanted)) requestAnimationFrame(() => resolve(performance.now() - start));
            else requestAnimationFrame(look);
          };
          requestAnimationFrame(look);
        },
        { once: true, capture: true },
      );
    });
  }, selector);
  await page.keyboard.press(key);
  return page.evaluate(() => (window as unknown as { done: Promise<number> }).done);
}
