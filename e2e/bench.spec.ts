import { expect, test, visit } from './test.ts';
import { DEMO_PORT, EMPTY_PORT } from './playwright.config.ts';

const EMPTY = `http://127.0.0.1:${EMPTY_PORT}`;
const DEMO = `http://127.0.0.1:${DEMO_PORT}`;

test(
  'an empty workspace says what to do first, and carries a gadget of one’s own from template to link',
  { tag: '@slice' },
  async ({ page }) => {
    await page.goto(EMPTY);
    await expect(page.getByRole('heading', { name: 'What do you want to measure?' })).toBeVisible();
    await expect(page.getByRole('button', { name: 'Load the Quillmere Mill demo' })).toBeVisible();
    await page.getByLabel('Name').fill('Greenhouse');
    await page.getByRole('button', { name: 'Create gadget' }).click();
    await expect(page.getByRole('heading', { name: 'Brief' })).toBeVisible();
    await page.keyboard.press('3');
    await expect(page.getByRole('heading', { name: 'Hook-up' })).toBeVisible();
    await expect(page.getByRole('contentinfo')).toContainText('no link');
    await page.getByRole('button', { name: 'Use a simulated gadget' }).click();
    await expect(page.getByRole('contentinfo')).toContainText('readings/s');
    await page.keyboard.press('4');
    await expect(page.getByTestId('needle-shown')).toContainText('°C');
  },
);

test('a gadget from an empty brief names every step that waits', async ({ page }) => {
  await page.goto(EMPTY);
  await page.getByLabel('Name').fill('Something else');
  await page.getByRole('radio', { name: /Empty brief/ }).check();
  await page.getByRole('button', { name: 'Create gadget' }).click();
  for (const [name, says] of [
    ['Pick', 'Write the brief first'],
    ['Line', 'No readings to preview'],
    ['True-up', 'Set up the line first'],
    ['Prove', 'Nothing to prove yet'],
    ['Runs', 'No runs yet'],
    ['Face', 'Complete the brief and the line first'],
  ] as const) {
    await page
      .getByRole('navigation', { name: 'Steps' })
      .getByRole('link', { name: new RegExp(name) })
      .click();
    await expect(page.getByText(says)).toBeVisible();
  }
});

test('a deleted gadget comes back', { tag: '@slice' }, async ({ page }) => {
  await page.goto(EMPTY);
  await page.getByLabel('Name').fill('Mistake');
  await page.getByRole('button', { name: 'Create gadget' }).click();
  await page.getByRole('heading', { name: 'Brief' }).waitFor();
  await page.keyboard.press('w');
  await page.getByRole('button', { name: 'Delete Mistake' }).click();
  await expect(page.getByRole('link', { name: 'Mistake' })).toBeHidden();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(page.getByRole('link', { name: 'Mistake' })).toBeVisible();
});

test('unknown addresses have a page with a way out', async ({ page }) => {
  await page.goto(`${DEMO}/no/such/page`);
  await expect(page.getByRole('heading', { name: 'Page not found' })).toBeVisible();
  await page.goto(`${DEMO}/g/none/line`);
  await page.getByRole('link', { name: 'Go to the workshop' }).click();
  await expect(page.getByRole('heading', { name: 'Workshop' })).toBeVisible();
});

test('the keys have a help page, and fields keep their keys', async ({ page }) => {
  await page.goto(DEMO);
  await page.getByRole('link', { name: 'Drying-kiln probes' }).first().click();
  await page.getByRole('heading', { name: 'Brief' }).waitFor();
  await page.getByRole('textbox', { name: 'Note' }).click();
  await page.keyboard.type('? 4');
  await expect(page.getByRole('heading', { name: 'Brief' })).toBeVisible();
  await page.locator('h1').click();
  await page.keyboard.press('?');
  await expect(page.getByRole('heading', { name: 'Keyboard shortcuts' })).toBeVisible();
  await page.keyboard.press('Escape');
  await expect(page.getByRole('heading', { name: 'Keyboard shortcuts' })).toBeHidden();
});

test('every page fits a phone, light and dark', async ({ page }) => {
  await page.setViewportSize({ width: 375, height: 812 });
  await page.goto(DEMO);
  await page.getByRole('link', { name: 'Drying-kiln probes' }).first().click();
  await page.waitForURL(/\/brief$/);
  const address = new URL(page.url()).pathname.replace(/\/brief$/, '');
  const steps = ['Brief', 'Pick', 'Hook-up', 'Line', 'True-up', 'Prove', 'Runs', 'Face', 'Logbook', 'Link'];
  const tabs = ['bus', 'power', 'helper', 'parts', 'sheet'].map((tab) => `${address}/hook-up?tab=${tab}`);
  const pages = [
    ['/', 'Workshop'],
    ['/shelf', 'Shelf'],
    ['/shelf/references', 'Your references'],
    ...steps.map((name) => [`${address}/${name.toLowerCase()}`, name]),
    ...tabs.map((tab) => [tab, 'Hook-up']),
  ] as const;
  for (const [where, name] of pages) {
    await visit(page, where);
    await page.getByRole('heading', { name, level: 1 }).waitFor();
    for (const colorScheme of ['dark', 'light'] as const) {
      await page.emulateMedia({ colorScheme });
      const [content, screen] = await page.evaluate(() => [
        document.documentElement.scrollWidth,
        document.documentElement.clientWidth,
      ]);
      expect(content, `${where}, ${colorScheme}`).toBeLessThanOrEqual(screen!);
    }
  }
  await visit(page, `${address}/logbook`);
  await page.getByRole('button', { name: 'Open the step menu' }).click();
  await page.getByRole('navigation', { name: 'Steps' }).getByRole('link', { name: /Prove/ }).click();
  await expect(page.getByRole('heading', { name: 'Prove' })).toBeVisible();
});
