import { expect, test, type Page } from './test.ts';
import type { Gadget, Trial, TrialsAnswer } from '@lucky-needle/core/model';
import { PAST_PORT } from './playwright.config.ts';

// The mill with weeks behind it: what its pages say of seasons and contests is held against what its worlds hid.

const PAST = `http://127.0.0.1:${PAST_PORT}`;

async function call<T>(path: string, body?: object): Promise<T> {
  const answer = await fetch(`${PAST}/api${path}`, {
    method: body ? 'POST' : 'GET',
    headers: { 'Content-Type': 'application/json' },
    ...(body ? { body: JSON.stringify(body) } : {}),
  });
  return (await answer.json()) as T;
}

/** Its gadget with as many trials as its past has, once they are in. */
async function lived(template: string, trials: number): Promise<{ id: string; trials: Trial[] }> {
  let id = '';
  let found: Trial[] = [];
  await expect
    .poll(
      async () => {
        const { items } = await call<{ items: Gadget[] }>('/gadgets?limit=200');
        id = items.find((g) => g.template === template)?.id ?? '';
        if (!id) return 0;
        const answer = await call<TrialsAnswer>(`/gadgets/${id}/trials`, { rule: null });
        found = 'trials' in answer ? answer.trials : [];
        return found.filter((t) => t.label !== '').length;
      },
      { timeout: 90_000 },
    )
    .toBe(trials);
  return { id, trials: found };
}

const ranking = (page: Page) => page.getByRole('region', { name: 'Ranking' });
const days = (page: Page) => page.getByRole('region', { name: 'Results by day' });

test('a season of races over three weeks has its best, its trend, and the duck that wins', async ({
  page,
}) => {
  const { id, trials } = await lived('crossing-timer', 24);
  await page.goto(`${PAST}/g/${id}/runs`);
  // The red one swims at 0.74 m/s where the others do 0.69 and 0.65.
  await expect(ranking(page).getByRole('listitem').first()).toContainText('red');
  await expect(ranking(page)).toContainText('red is better than blue by');
  const counting = trials.filter((t) => t.excluded === null);
  const best = counting.reduce((a, b) => (a.figures[0]!.value! < b.figures[0]!.value! ? a : b));
  await expect(days(page)).toContainText(`Best so far: ${best.figures[0]!.value!.toFixed(1)}`);
  await expect(days(page)).toContainText(best.runName);
  // Everyone is 0.8 % sooner on each day of racing, which are three days apart: about 0.65 s a week of 35.
  const fall = /falls by ([\d.]+) ±([\d.]+) s per week/.exec(await days(page).innerText())!;
  expect(Math.abs(Number(fall[1]) - 0.65)).toBeLessThan(Math.max(0.15, Number(fall[2])));
  await expect(page.getByTestId('trial').filter({ hasText: 'a leaf fell through the beam' })).toHaveCount(1);
});

test('ten blows of three kinds, one of them glancing, are ranked as they were struck', async ({ page }) => {
  const { id, trials } = await lived('impact-peak', 30);
  await page.goto(`${PAST}/g/${id}/runs`);
  // The worlds hid 1480, 1310 and 1120 N, and that one blow of the second glances off.
  const groups = ranking(page).getByRole('listitem');
  for (const [k, face] of ['dressed face', 'old face', 'hardwood pad'].entries())
    await expect(groups.nth(k)).toContainText(face);
  await expect(groups.nth(1)).toContainText('n 9');
  const said = /dressed face is better than old face by ([\d.]+) ±([\d.]+) N/.exec(
    await ranking(page).innerText(),
  );
  expect(said).not.toBeNull();
  expect(Math.abs(Number(said![1]) - (1480 - 1310))).toBeLessThan(Number(said![2]));
  const glanced = trials.find((t) => t.excluded !== null)!;
  const least = Math.min(...trials.filter((t) => t.label === 'old face').map((t) => t.figures[0]!.value!));
  expect([glanced.label, glanced.figures[0]!.value]).toEqual(['old face', least]);
  expect(least).toBeLessThan(0.6 * 1310);
  await page.getByLabel('Find runs').fill('glanced');
  await expect(page.getByTestId('trial')).toHaveCount(1);
  await expect(page.getByTestId('trial')).toContainText('glanced off the edge of the anvil');
});

test('a spin-down contest is labelled by keyboard alone, and shown from afar', async ({ page }) => {
  const { id } = await lived('rotation', 6);
  await page.goto(`${PAST}/g/${id}/runs`);
  await expect(ranking(page).getByRole('listitem').first()).toContainText('after greasing');
  await expect(ranking(page).getByRole('listitem')).toHaveCount(2);
  // From the first label down the column by Tab, without a mouse.
  const rows = page.getByTestId('trial');
  const label = (k: number) => rows.nth(k).getByRole('textbox').first();
  await label(0).focus();
  for (const [k, text] of ['by Wren', 'by Tor'].entries()) {
    for (let step = 0; step < 12 && !(await isFocused(page, label(k))); step++)
      await page.keyboard.press('Tab');
    await page.keyboard.press('Control+a');
    await page.keyboard.type(text);
    await page.keyboard.press('Tab');
  }
  await expect(ranking(page).getByRole('listitem')).toHaveCount(4);
  await expect(ranking(page)).toContainText('by Wren');
  await expect
    .poll(async () => {
      const answer = await call<TrialsAnswer>(`/gadgets/${id}/trials`, { rule: null });
      return 'trials' in answer ? answer.trials.slice(-2).map((t) => t.label) : [];
    })
    .toEqual(['by Tor', 'by Wren']);
  await page.getByRole('button', { name: 'Full-screen view' }).focus();
  await page.keyboard.press('Enter');
  const afar = page.getByRole('dialog', { name: 'Full-screen results' });
  await expect(afar.getByRole('listitem')).toHaveCount(5);
  await page.keyboard.press('Escape');
  await expect(afar).toHaveCount(0);
});

test('sprints before and after a new pole differ by what the world hid, within what is stated', async ({
  page,
}) => {
  const { id, trials } = await lived('sprint', 20);
  await page.goto(`${PAST}/g/${id}/runs`);
  await expect(ranking(page).getByRole('listitem').first()).toContainText('new pole');
  const said = /new pole is better than old pole by ([\d.]+) ±([\d.]+) s/.exec(
    await ranking(page).innerText(),
  );
  // The world hid 0.3 s.
  expect(said).not.toBeNull();
  const [by, half] = [Number(said![1]), Number(said![2])];
  expect(by - half).toBeLessThan(0.3);
  expect(by + half).toBeGreaterThan(0.3);
  expect(trials.every((t) => t.figures[0]!.uncertainty !== null)).toBe(true);
});

const isFocused = (page: Page, field: ReturnType<Page['getByRole']>) =>
  field.evaluate((element) => element === document.activeElement);
