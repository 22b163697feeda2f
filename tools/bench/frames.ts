// Frames that a browser shows a second while a plot of many samples is zoomed and moved along by mouse.
import { existsSync } from 'node:fs';
import { chromium, type Page } from '@playwright/test';

const CHROMIUM = process.env['CHROMIUM_PATH'] ?? '/usr/bin/chromium';

/**
 * Zooms into a run by the wheel, moves along it and out again, with the fetching that this makes.
 * @returns frames a second over all of it; null where there is no browser
 */
export async function framesWhileMoving(url: string, gadgetId: string, run: string): Promise<number | null> {
  if (!existsSync(CHROMIUM)) return null;
  const browser = await chromium.launch({
    executablePath: CHROMIUM,
    args: ['--no-sandbox', '--disable-gpu', '--disable-quic', '--no-first-run', '--disable-sync'],
  });
  try {
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
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
    return await page.evaluate(() => {
      const counted = globalThis as typeof globalThis & { shown: number; since: number };
      return (1000 * counted.shown) / (performance.now() - counted.since);
    });
  } finally {
    await browser.close();
  }
}

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
