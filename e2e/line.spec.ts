import { expect, test, type Page } from './test.ts';
import type { Gadget, NowReading } from '@lucky-needle/core/model';
import { ask, DEMO } from './ask.ts';
import { EMPTY_PORT } from './playwright.config.ts';

const EMPTY = `http://127.0.0.1:${EMPTY_PORT}`;

/** An hour of raw counts at 100 a second: noise, 50 Hz hum that shows at its alias, and a spike every ten seconds. */
function noisyHour(): string {
  let seed = 1;
  const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647 - 0.5;
  const rows = ['time [s],p1 raw [count]'];
  for (let i = 0; i < 60_000; i++) {
    const t = i / 100;
    const spike = i % 1000 === 500 ? 200 : 0;
    rows.push(`${t},${Math.round(500 + 60 * Math.sin(t / 120) + 6 * random() + spike)}`);
  }
  return rows.join('\n');
}

async function gadgetWithRun(page: Page): Promise<string> {
  const post = (path: string, body: string, type: string) =>
    fetch(`${EMPTY}${path}`, { method: 'POST', headers: { 'Content-Type': type }, body });
  const created = await post(
    '/api/gadgets',
    JSON.stringify({ template: 'several-temperatures', name: 'Line bench' }),
    'application/json',
  );
  const { id } = (await created.json()) as { id: string };
  const imported = await post(
    `/api/gadgets/${id}/recordings/import?name=Noisy%20hour`,
    noisyHour(),
    'text/csv',
  );
  expect(imported.status).toBe(201);
  await page.goto(`${EMPTY}/g/${id}/line`);
  return id;
}

const stages = (page: Page) => page.getByRole('region', { name: 'Stages' });
const titles = async (page: Page) =>
  (await stages(page).locator('ol > li button[aria-expanded]').allInnerTexts()).map((t) => t.split('\n')[0]);

test('a line is steered on a recording: looked at closely, advised, tried, reordered, undone, kept', async ({
  page,
}) => {
  await gadgetWithRun(page);
  await page
    .getByRole('region', { name: 'Line preview' })
    .getByLabel('Source')
    .selectOption({ label: 'Noisy hour (60,000)' });
  const plot = page.getByRole('region', { name: 'Line preview' });
  await expect(plot).toContainText('60,000 raw rows');

  await test.step('close enough to see single readings, and back', async () => {
    for (let i = 0; i < 5; i++) await plot.getByRole('button', { name: 'Zoom in' }).click();
    await expect(plot).toContainText(/ 5\d raw rows|[^\d,]\d\d raw rows/);
    await plot.getByRole('button', { name: 'Later' }).click();
    await plot.getByRole('button', { name: 'Whole run' }).click();
    await expect(plot).toContainText('60,000 raw rows');
  });

  await test.step('the advice finds the spikes and its chain is one click away', async () => {
    const advice = page.getByRole('region', { name: 'Filter advice' });
    await advice.getByRole('button', { name: 'Analyse these readings' }).click();
    await expect(advice).toContainText(/\d+ of 20000 readings are spikes/);
    await advice.getByRole('button', { name: 'Try this' }).first().click();
    expect(await titles(page)).toContain('Spike removal (Hampel)');
    await stages(page).getByRole('button', { name: 'Undo' }).click();
    expect(await titles(page)).not.toContain('Spike removal (Hampel)');
  });

  await test.step('a stage is found by a word, put behind the opened one, moved by the keyboard', async () => {
    await stages(page)
      .getByRole('button', { name: /Add a stage after/ })
      .click();
    await page.getByRole('searchbox', { name: 'Search stages' }).fill('moving median');
    await page.keyboard.press('Enter');
    const before = await titles(page);
    expect(before.at(-1)).toBe('Moving median');
    const handle = stages(page).getByRole('button', { name: 'Drag Moving median' });
    await handle.focus();
    await page.keyboard.press('Space');
    await expect(page.getByText(/Moving median is over Moving median/)).toBeAttached();
    await page.keyboard.press('ArrowUp');
    await expect(page.getByText(/Moving median is over Exponential smoothing/)).toBeAttached();
    await page.keyboard.press('Space');
    await expect(async () => expect((await titles(page)).at(-1)).toBe('Exponential smoothing')).toPass();
    await stages(page).getByRole('button', { name: 'Duplicate' }).click();
    await expect(async () =>
      expect((await titles(page)).filter((t) => t === 'Moving median')).toHaveLength(2),
    ).toPass();
  });

  await test.step('a variant is kept beside the line, and outlives the page', async () => {
    await page.getByText('Variants and files').click();
    await page.getByLabel('Variant name').fill('two medians');
    await page.getByRole('button', { name: 'Save as variant' }).click();
    await stages(page).getByRole('button', { name: 'Discard' }).click();
    await page.reload();
    expect((await titles(page)).includes('Moving median')).toBe(false);
    await page.getByText('Variants and files').click();
    await page.getByRole('button', { name: 'Try' }).click();
    expect((await titles(page)).filter((t) => t === 'Moving median')).toHaveLength(2);
  });

  await test.step('readings at the converter’s end are counted where they arise', async () => {
    await page
      .getByRole('region', { name: 'Line preview' })
      .getByLabel('Source')
      .selectOption({ label: 'Noisy hour (60,000)' });
    await stages(page).getByRole('button', { name: /^ADC/ }).click();
    await page.getByLabel('Bits', { exact: true }).fill('9');
    await expect(stages(page).locator('li').first()).toContainText(
      /[\d,]+ readings have no value here: above ADC range/,
    );
  });
});

test(
  'what constants are good to is typed, those of one cause are off together, and the reading says what it is worth',
  { tag: '@slice' },
  async ({ page }) => {
    const { id } = await ask<Gadget>('/gadgets', 'POST', { template: 'ac-power', name: 'Stated constants' });
    await ask(`/gadgets/${id}/link`, 'POST', { settings: { kind: 'simulated' }, mapping: null });
    await ask(`/gadgets/${id}/link`, 'PATCH', { condition: 'lamp' });
    await page.goto(`${DEMO}/g/${id}/line`);
    await page.getByRole('button', { name: 'Real power' }).click();
    await stages(page)
      .getByRole('button', { name: /^AC power/ })
      .click();
    await page.getByText('Tolerances of the constants').click();
    await page.getByLabel('Volts per input unit, tolerance ±').fill('0.00024');
    await page.getByLabel('Amperes per input unit, tolerance ±').fill('0.000032');
    const save = page.getByRole('button', { name: 'Save line' });
    /** What power is worth, as a share of it, by the bench. */
    const worth = async () => {
      const { channels } = await ask<{
        channels: { channelId: string; value: number | null; uncertainty: number | null }[];
      }>(`/gadgets/${id}/now`);
      const p = channels.find((c) => c.channelId === 'p');
      return p?.value && p.uncertainty ? p.uncertainty / p.value : null;
    };
    await save.click();
    await expect(save).toBeDisabled();
    // Each 1 % at its most, so 2/√3 % expanded; apart in squares.
    await expect.poll(worth, { timeout: 30_000 }).toBeCloseTo((0.02 / Math.sqrt(3)) * Math.SQRT2, 3);
    for (const of of ['Volts', 'Amperes'])
      await page.getByLabel(`${of} per input unit, shared cause`).fill('reference voltage');
    await save.click();
    await expect(save).toBeDisabled();
    await expect.poll(worth, { timeout: 30_000 }).toBeCloseTo(0.04 / Math.sqrt(3), 3);
    // Taken away again, it is not known, and not nothing.
    for (const of of ['Volts', 'Amperes'])
      await page.getByLabel(`${of} per input unit, tolerance ±`).fill('');
    await save.click();
    await expect(save).toBeDisabled();
    await expect.poll(worth, { timeout: 30_000 }).toBeNull();
    await ask(`/gadgets/${id}`, 'DELETE');
  },
);

test(
  'a reading is put right by the warmth that another channel reads, as it is typed and then for good',
  { tag: '@slice' },
  async ({ page }) => {
    const gadget = await ask<Gadget>('/gadgets', 'POST', { template: 'cell-bench', name: 'Warm cells' });
    await ask(`/gadgets/${gadget.id}/link`, 'POST', { settings: { kind: 'simulated' }, mapping: null });
    const now = async () =>
      (await ask<{ channels: NowReading[] }>(`/gadgets/${gadget.id}/now`)).channels.map((c) => c.value!);
    await page.goto(`${DEMO}/g/${gadget.id}/line?ch=v`);
    await page.getByRole('button', { name: /^Add a stage after/ }).click();
    await page.getByLabel('Search stages').fill('surroundings');
    await page.getByRole('button', { name: /^Environmental compensation/ }).click();
    const card = stages(page).getByRole('listitem').filter({ hasText: 'Environmental compensation' });
    // Nothing is read before it is known by what.
    await expect(card.getByRole('alert')).toContainText('needs one other channel');
    await card.getByLabel('Temperature').check();
    await card.getByLabel(/^Change per unit, as a share/).fill('0.1');
    await card.getByLabel(/^Value of that channel at calibration/).fill('10');
    await expect(card.getByRole('alert')).toBeHidden();
    // The cell is at about 20 °C: twice what it would read at 10.
    await expect(page.getByTestId('needle-shown')).toContainText(/\(draft\).*[12]\.\d+ V/, {
      timeout: 20_000,
    });
    expect((await now())[0]!).toBeGreaterThan(3.5);
    await page.getByRole('button', { name: 'Save line' }).click();
    await expect(page.getByTestId('needle-shown')).not.toContainText('(draft)');
    await expect(async () => {
      const [volts, , warmth] = await now();
      expect(Math.abs(volts! * (1 + 0.1 * (warmth! - 10)) - 4.15)).toBeLessThan(0.3);
    }).toPass({ timeout: 20_000 });
    await page.getByRole('button', { name: /^Environmental compensation/ }).click();
    await expect(card).toContainText('Compensating channel');
  },
);
