import { test as base, type BrowserContext, type Page } from '@playwright/test';

export { expect, type Locator, type Page } from '@playwright/test';

/**
 * A browser that has been at the bench before: scripts that it has read once it does not read again for every test.
 * What a page keeps is forgotten between tests.
 */
export const test = base.extend<object, { readonly visited: BrowserContext }>({
  visited: [
    async ({ browser }, use) => {
      const context = await browser.newContext({
        viewport: { width: 1280, height: 800 },
        acceptDownloads: true,
      });
      context.setDefaultTimeout(15_000);
      await use(context);
      await context.close();
    },
    { scope: 'worker' },
  ],
  page: async ({ visited }, use) => {
    const page = await visited.newPage();
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
