import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { test as base, chromium, type BrowserContext, type Page } from '@playwright/test';
import { CHROMIUM } from '../tools/chromium.mjs';

export { expect, type Locator, type Page } from '@playwright/test';

/** A slow bench: so long at most each request is held back on its way, ms. A maker is no slower for it. */
const SLOWEST_MS = Number(process.env['SLOWEST_MS'] ?? 0);

/**
 * A browser that has been at the bench before, with a folder of its own: scripts that it has read and compiled once it keeps
 * there, as a maker's does, which is a third of what a page costs. What a page keeps is forgotten between tests.
 */
export const test = base.extend<object, { readonly visited: BrowserContext }>({
  visited: [
    // eslint-disable-next-line no-empty-pattern -- the runner wants to see what is taken
    async ({}, use) => {
      const folder = mkdtempSync(join(tmpdir(), 'needle-browser-'));
      const context = await chromium.launchPersistentContext(folder, {
        ...CHROMIUM,
        viewport: { width: 1280, height: 800 },
        acceptDownloads: true,
      });
      context.setDefaultTimeout(15_000);
      await use(context);
      await context.close();
      rmSync(folder, { recursive: true, force: true, maxRetries: 5 });
    },
    { scope: 'worker' },
  ],
  page: async ({ visited }, use) => {
    const page = await visited.newPage();
    if (SLOWEST_MS > 0)
      await page.route('**/api/**', async (route) => {
        await new Promise((go) => setTimeout(go, SLOWEST_MS * Math.random()));
        // A page that has been left meanwhile wants it no more.
        await route.continue().catch(() => undefined);
      });
    await page.addInitScript(() => {
      if (sessionStorage.getItem('begun')) return;
      localStorage.clear();
      sessionStorage.setItem('begun', 'yes');
    });
    await use(page);
    await page.close();
  },
});

/** Another address of the bench without reading the program again, as a link in it would. */
export const visit = (page: Page, path: string) =>
  page.evaluate((to) => {
    history.pushState({}, '', to);
    dispatchEvent(new PopStateEvent('popstate'));
  }, path);
