import { expect, test, type Page } from './test.ts';
import type { Gadget } from '@lucky-needle/core/model';
import { createWorld } from '@lucky-needle/core/simulate';
import { ask, DEMO } from './ask.ts';
import { truedVane, truthOf } from './hiddenTruth.ts';

// What the brief asks, read off the page as a maker reads it, against what the simulated worlds of the mill hide.

async function gadgetOf(template: string): Promise<string> {
  const { items } = await ask<{ items: { id: string; template: string }[] }>('/gadgets?limit=50');
  return items.find((g) => g.template === template)!.id;
}
const link = (id: string, patch: object) => ask(`/gadgets/${id}/link`, 'PATCH', patch);
async function openLine(page: Page, id: string, channel = ''): Promise<void> {
  await page.goto(`${DEMO}/g/${id}/line${channel && `?ch=${channel}`}`);
  await page.getByRole('region', { name: 'Events and results' }).waitFor();
}
/** The number on a figure's tile, once it has one. */
async function tile(page: Page, name: string, timeout = 60_000): Promise<number> {
  const found = page
    .getByRole('list', { name: 'Values for the needle' })
    .getByRole('button', { name: new RegExp(`^${name}(?! constant)`) });
  // The name may hold figures of its own.
  const value = found.locator('.num');
  await expect(value).toContainText(/\d/, { timeout });
  return Number(/-?\d+(\.\d+)?/.exec((await value.innerText()).replaceAll('\u2212', '-'))![0]);
}
const needle = async (page: Page) =>
  (await page.getByTestId('needle-shown').innerText()).replaceAll('\u2212', '-');

test('a race with a leaf in the air shows seconds on the needle, and why the leaf ended none', async ({
  page,
}) => {
  const truth = truthOf<'finish-gate'>(2);
  const id = await gadgetOf('crossing-timer');
  try {
    await openLine(page, id);
    await link(id, { condition: 'empty', speed: 10 });
    await link(id, { condition: 'leaf' });
    await expect(page.getByTestId('needle-shown')).toContainText(/\d s/, { timeout: 60_000 });
    const shown = Number(/(\d+\.\d+) s/.exec(await needle(page))![1]);
    expect(Math.abs(shown - truth.courseM / truth.duckSpeed)).toBeLessThan(0.1);
    await expect(page.getByText(/ignored: (Fewer than|\d.* are ignored)/).first()).toBeVisible();
  } finally {
    await link(id, { condition: 'empty', speed: 1 });
  }
});

test('a series of blows shows the last and the highest, with each circled on the plot', async ({ page }) => {
  const truth = truthOf<'blow-meter'>(6);
  const id = await gadgetOf('impact-peak');
  try {
    await openLine(page, id);
    await page.getByRole('button', { name: 'Reset results' }).click();
    await link(id, { condition: 'blows', speed: 2 });
    await expect(async () => expect(await tile(page, 'Impacts since reset')).toBeGreaterThan(4)).toPass({
      timeout: 60_000,
    });
    // As bought: a scale and a zero that nobody has trued up yet, but the very blows.
    const scale = truth.countsPerKg / 21474;
    const zero = (truth.zero / 21474) * 9.8067;
    const highest = ((await tile(page, 'Highest impact')) - zero) / scale;
    expect(highest / truth.blowN).toBeGreaterThan(0.97);
    expect(highest / truth.blowN).toBeLessThan(1.3);
    await expect(page.getByTestId('needle-shown')).toContainText('± unknown');
    await expect(page.getByText('valid', { exact: true }).first()).toBeVisible();
  } finally {
    await link(id, { condition: 'empty', speed: 1 });
  }
});

test(
  'a sprint shows the seconds to 12 km/h from its start on motion',
  { tag: '@slice' },
  async ({ page }) => {
    const truth = truthOf<'punt-sprint'>(11);
    const id = await gadgetOf('sprint');
    try {
      await openLine(page, id);
      // The receiver is warm after half a minute.
      await link(id, { condition: 'still', speed: 20 });
      await expect(page.getByTestId('needle-shown')).toContainText('km/h', { timeout: 60_000 });
      await link(id, { condition: 'sprint', speed: 5 });
      const quick = await tile(page, 'Time to 12 km/h');
      const expected = -truth.buildUpS * Math.log(1 - 12 / 3.6 / truth.topSpeed);
      expect(Math.abs(quick - expected)).toBeLessThan(1);
    } finally {
      await link(id, { condition: 'still', speed: 1 });
    }
  },
);

test('a spindle shows its run-down time to standstill', async ({ page }) => {
  const truth = truthOf<'spindle'>(10);
  const id = await gadgetOf('rotation');
  try {
    await openLine(page, id);
    await link(id, { condition: 'running', speed: 10 });
    await expect(async () => {
      const rpm = Number(/(\d+\.\d) rpm/.exec(await needle(page))?.[1]);
      expect(rpm).toBeGreaterThan(0.995 * truth.rpm);
    }).toPass({ timeout: 60_000 });
    await link(id, { condition: 'run-down' });
    const down = await tile(page, 'Run-down time');
    // Slower than 6 rpm counts as standing.
    expect(Math.abs(down - 14 * Math.log((0.95 * truth.rpm) / 6))).toBeLessThan(2);
  } finally {
    await link(id, { condition: 'stopped', speed: 1 });
  }
});

test(
  'a vane that swings about north has a mean of north, not of south',
  { tag: '@slice' },
  async ({ page }) => {
    const truth = truthOf<'wind-vane'>(12);
    const id = await gadgetOf('heading');
    const gadget = await ask<Gadget>(`/gadgets/${id}`);
    const [vane] = gadget.channels;
    const saved = await ask<Gadget>(
      `/gadgets/${id}`,
      'PATCH',
      { channels: [truedVane(vane!, truth)] },
      { 'If-Match': `"${gadget.version}"` },
    );
    try {
      await openLine(page, id);
      await link(id, { condition: 'swinging', speed: 10 });
      await page.getByRole('button', { name: 'Reset results' }).click();
      await expect(async () => {
        const mean = await tile(page, 'Mean heading');
        expect(Math.min(mean, 360 - mean)).toBeLessThan(6);
        expect(await tile(page, 'Wander')).toBeGreaterThan(5);
      }).toPass({ timeout: 60_000 });
    } finally {
      await link(id, { condition: 'north', speed: 1 });
      await ask(`/gadgets/${id}`, 'PATCH', { channels: [vane] }, { 'If-Match': `"${saved.version}"` });
    }
  },
);

test('a discharge that was recorded shows the capacity to the cut-off in Runs', async ({ page }) => {
  const truth = truthOf<'cell-bench'>(9);
  const id = await gadgetOf('cell-bench');
  const world = createWorld(truth);
  const rows = [['seconds', ...world.columns].join(',')];
  let given = 0;
  for (let t = 1; t <= 10_000; t++) {
    world.setCondition(t < 60 ? 'rest' : 'discharge');
    rows.push([t, ...world.step(1)].join(','));
    const [volts, amperes] = world.instruments();
    if (volts!.value > 3) given += (amperes!.value * 1000) / 3600;
  }
  await page.goto(`${DEMO}/g/${id}/runs`);
  await page.getByLabel('Files to import').setInputFiles({
    name: 'discharge.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(rows.join('\n')),
  });
  const form = page.getByRole('form', { name: 'Import' });
  await form.getByRole('button', { name: 'Import', exact: true }).click();
  const figures = page.getByRole('table', { name: 'Results of this run' });
  const row = figures.getByRole('row', { name: /Capacity to 3 V/ });
  await expect(row).toContainText('mAh', { timeout: 60_000 });
  await expect(row).toContainText('To 3 V in');
  const shown = Number(/([\d.]+) mAh/.exec(await row.innerText())![1]);
  // As bought: divider and shunt are off by a few per cent.
  expect(shown / given).toBeGreaterThan(0.9);
  expect(shown / given).toBeLessThan(1.1);
});
