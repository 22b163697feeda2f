// What a browser feels of many samples: frames while a plot is moved by hand, and how long the page is busy in one go.
import { existsSync } from 'node:fs';
import { chromium, type Page } from '@playwright/test';
import { CHROMIUM } from '../chromium.mjs';

/** Does something in a fresh browser; null where there is none. */
async function inBrowser<T>(work: (page: Page) => Promise<T>): Promise<T | null> {
  if (!existsSync(CHROMIUM.executablePath)) return null;
  const browser = await chromium.launch(CHROMIUM);
  try {
    return await work(await browser.newPage({ viewport: { width: 1280, height: 800 } }));
  } finally {
    await browser.close();
  }
}

/**
 * Zooms into a run by the wheel, moves along it and out again, with the fetching that this makes.
 * @returns frames a second over all of it; null where there is no browser
 */
export const framesWhileMoving = (url: string, gadgetId: string, run: string): Promise<number | null> =>
  inBrowser(async (page) => {
    await page.goto(`${url}/g/${gadgetId}/runs`);
    await page.getByRole('button', { name: new RegExp(`^${run}`) }).click();
    const plot = page.getByRole('region', { name: run, exact: true }).getByRole('img');
    await plot.waitFor();
    await page.waitForTimeout(1000);
    const box = (await plot.boundingBox())!;
    const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
    await page.mouse.move(x, y);
    await page.evaluate(() => {
      const counted = globalThis as typeof globalThis & { shown: number; since: number };
      counted.shown = 0;
      counted.since = performance.now();
      const tick = () => {
        counted.shown++;
        requestAnimationFrame(tick);
      };
      requestAnimationFrame(tick);
    });
    await wheel(page, -60);
    for (const way of [1, -1, 1]) await moveAlong(page, x, y, way);
    await wheel(page, 60);
    return page.evaluate(() => {
      const counted = globalThis as typeof globalThis & { shown: number; since: number };
      return (1000 * counted.shown) / (performance.now() - counted.since);
    });
  });

/**
 * Looks at a whole run on the Line page: all of its samples are fetched and converted.
 * @returns the longest that the page was busy in one go meanwhile, ms, 0 for less than 50; null where there is no browser
 */
export const longestTask = (url: string, gadgetId: string, run: string): Promise<number | null> =>
  inBrowser(async (page) => {
    await page.goto(`${url}/g/${gadgetId}/line`);
    const plot = page.getByRole('region', { name: 'Line preview' });
    const choice = plot.getByRole('combobox').first();
    await choice.waitFor();
    const label = (await choice.locator('option').allInnerTexts()).find((t) => t.startsWith(run))!;
    await page.waitForTimeout(2000);
    await page.evaluate(() => {
      const seen = globalThis as typeof globalThis & { longest: number };
      seen.longest = 0;
      new PerformanceObserver((list) => {
        for (const { duration } of list.getEntries()) seen.longest = Math.max(seen.longest, duration);
      }).observe({ entryTypes: ['longtask'] });
    });
    await choice.selectOption({ label });
    const progress = plot.getByRole('progressbar');
    await progress.waitFor();
    await progress.waitFor({ state: 'detached', timeout: 120_000 });
    await page.waitForTimeout(500);
    return page.evaluate(() => (globalThis as typeof globalThis & { longest: number }).longest);
  });

/** How much of a core the main thread of a page takes over ten seconds, and its longest task, ms; null where there is no browser. */
export const pageBusy = (address: string): Promise<{ percent: number; longestMs: number } | null> =>
  inBrowser(async (page) => {
    await page.goto(address);
    await page.locator('h1').waitFor();
    await page.waitForTimeout(8000);
    const session = await page.context().newCDPSession(page);
    await session.send('Performance.enable');
    const worked = async () =>
      (await session.send('Performance.getMetrics')).metrics.find((m) => m.name === 'TaskDuration')!.value;
    await page.evaluate(() => {
      const seen = globalThis as typeof globalThis & { longest: number };
      seen.longest = 0;
      new PerformanceObserver((list) => {
        for (const { duration } of list.getEntries()) seen.longest = Math.max(seen.longest, duration);
      }).observe({ entryTypes: ['longtask'] });
    });
    const before = await worked();
    await page.waitForTimeout(10_000);
    const percent = 10 * ((await worked()) - before);
    const longestMs = await page.evaluate(
      () => (globalThis as typeof globalThis & { longest: number }).longest,
    );
    return { percent, longestMs };
  });

async function wheel(page: Page, step: number): Promise<void> {
  await page.keyboard.down('Control');
  for (let i = 0; i < 30; i++) {
    await page.mouse.wheel(0, step);
    await page.waitForTimeout(50);
  }
  await page.keyboard.up('Control');
  await page.waitForTimeout(300);
}

async function moveAlong(page: Page, x: number, y: number, way: number): Promise<void> {
  await page.mouse.move(x, y);
  await page.keyboard.down('Shift');
  await page.mouse.down();
  for (let i = 0; i < 60; i++) {
    await page.mouse.move(x - 4 * i * way, y);
    await page.waitForTimeout(8);
  }
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await page.waitForTimeout(300);
}
