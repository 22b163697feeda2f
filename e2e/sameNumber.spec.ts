import { expect, test, type Page } from './test.ts';
import type { Gadget, NowReading, Recording, RecordingReadings } from '@lucky-needle/core/model';
import { ask, DEMO } from './ask.ts';

async function gadgetOf(template: string): Promise<string> {
  const { items } = await ask<{ items: { id: string; template: string }[] }>('/gadgets?limit=50');
  return items.find((g) => g.template === template)!.id;
}
async function open(page: Page, id: string, step: string): Promise<void> {
  await page.goto(`${DEMO}/g/${id}/${step}`);
  await page.getByRole('heading', { level: 1 }).waitFor();
}
/** What the strip says once there is a reading: a page stands before its first one has come. */
async function needle(page: Page): Promise<string> {
  const shown = page.getByTestId('needle-shown');
  await expect(shown).toContainText(/\d \S+ ±/);
  return (await shown.innerText()).split('\n')[1]!.replace('\u2212', '-');
}
/** Records until there is enough of it, while something is done. */
async function recorded(id: string, count: number, meanwhile: () => Promise<void>): Promise<string> {
  const run = await ask<{ id: string }>(`/gadgets/${id}/recordings`, 'POST', { name: 'moment' });
  await meanwhile();
  await expect(async () => {
    const { sampleCount } = await ask<{ sampleCount: number }>(`/recordings/${run.id}`);
    expect(sampleCount).toBeGreaterThan(count);
  }).toPass({ timeout: 60_000 });
  await ask(`/recordings/${run.id}/stop`, 'POST');
  return run.id;
}

test(
  'one moment reads the same on the strip, the face, over the API, under a cursor, in a curve and in an export',
  { tag: '@slice' },
  async ({ page }) => {
    const id = await gadgetOf('several-temperatures');
    const seen: { strip: string; face: string; now: NowReading }[] = [];
    const run = await recorded(id, 40, async () => {
      await open(page, id, 'line');
      const strip = await needle(page);
      const now = (await ask<{ channels: NowReading[] }>(`/gadgets/${id}/now`)).channels[0]!;
      await open(page, id, 'face');
      const display = page.getByRole('figure', { name: /^Display: / });
      await expect(display).toHaveAttribute('aria-label', /Probe 1[^;]* -?\d+(\.\d+)? °C/);
      const face = /Probe 1[^;]* (-?\d+(?:\.\d+)?) °C/.exec((await display.getAttribute('aria-label'))!)![1]!;
      seen.push({ strip, face, now });
    });
    const csv = await (await fetch(`${DEMO}/api/recordings/${run}/export/csv`)).text();
    const [head, ...rows] = csv.trim().split('\r\n');
    const at = (head!.match(/("[^"]*"|[^,]*)(,|$)/g) ?? []).findIndex((name) => name.includes('Probe 1'));
    expect(at).toBeGreaterThan(0);
    const exported = rows.map((row) => row.split(',').map(Number)).map((row) => [row[0]!, row[at]!] as const);
    const printed = (decimals: number) => new Set(exported.map(([, value]) => value.toFixed(decimals)));
    const [{ strip, face, now }] = seen as [(typeof seen)[number]];
    // What a page showed at some moment of the run is, to its digits, what the export has of some moment.
    const [, digits = ''] = /^-?\d+(?:\.(\d+))?/.exec(strip)!;
    expect(printed(digits.length)).toContain(/^-?[\d.]+/.exec(strip)![0]);
    expect(printed(face.split('.')[1]?.length ?? 0)).toContain(face);
    const same = exported.find(([timeS]) => Math.abs(timeS - now.timeS!) < 1e-6);
    expect(same?.[1]).toBeCloseTo(now.value!, 9);
    expect(now.decimals).toBe(digits.length);

    // The very same numbers in the curve, and under a cursor, at any zoom.
    const [timeS, value] = exported[20]!;
    const from = exported[0]![0];
    const { firstTimeS } = await ask<{ firstTimeS: number }>(`/recordings/${run}`);
    const curve = await ask<RecordingReadings>(`/recordings/${run}/readings?channel=p1&points=2000`);
    expect(curve.values.map((v) => Number(v!.toPrecision(12)))).toEqual(exported.map(([, v]) => v));
    const close = await ask<RecordingReadings>(
      `/recordings/${run}/readings?channel=p1&points=2000&fromS=${curve.times[19]}&toS=${curve.times[21]}`,
    );
    expect(close.values[1]).toBe(curve.values[20]);
    await open(page, id, 'runs');
    await page.getByRole('button', { name: /^moment/ }).click();
    await page.getByText('Measure between two times').click();
    const moment = (timeS - from).toFixed(6);
    await page.getByLabel('Cursor A').fill(moment);
    await page.getByLabel('Cursor B').fill((exported.at(-1)![0] - from).toFixed(6));
    const row = page
      .getByRole('table', { name: 'Values at the cursors' })
      .getByRole('row', { name: /Probe 1/ });
    await expect(row.getByRole('cell').first()).toContainText(value.toFixed(digits.length));
    expect(firstTimeS).toBeCloseTo(from, 6);
  },
);

test('a gadget of two thousand readings a second is trued up live', async ({ page }) => {
  const id = await gadgetOf('impact-peak');
  await ask(`/gadgets/${id}/link`, 'PATCH', { condition: '5kg' });
  // A run tells what time it is by the gadget.
  const run = await ask<{ id: string }>(`/gadgets/${id}/recordings`, 'POST', { name: 'at rest' });
  const heardS = async () =>
    (await ask<{ lastTimeS: number | null }>(`/recordings/${run.id}`)).lastTimeS ?? Number.NaN;
  await expect(async () => expect(await heardS()).toBeGreaterThan(-1)).toPass();
  // It comes to rest with the page away.
  const restS = await heardS();
  await expect(async () => expect(await heardS()).toBeGreaterThan(restS + 13)).toPass({ timeout: 60_000 });
  const openedS = await heardS();
  await open(page, id, 'true-up');
  const card = page.getByRole('region', { name: 'Capture a point' });
  const steady = card.getByTestId('steady');
  await expect(steady).toContainText(/steady for \d+ s/, { timeout: 60_000 });
  // For longer than the page has stood there: what came before is the bench's.
  const forS = Number(/\d+/.exec(await steady.innerText())![0]);
  expect(forS).toBeGreaterThan((await heardS()) - openedS);
  await ask(`/recordings/${run.id}/stop`, 'POST');
  await card.getByLabel('Reference').selectOption({ label: 'Weight of a known mass' });
  await card.getByRole('button', { name: /Capture point/ }).click();
  await expect(page.getByRole('table', { name: 'Points' }).locator('tbody tr').first()).toBeVisible();
  // Ten seconds, not the three that a page once kept; a board on a busy machine loses some of its twenty thousand.
  const points = await ask<{ items: { capture: { n: number; durationS: number } }[] }>(
    `/gadgets/${id}/points`,
  );
  const { n, durationS } = points.items.at(-1)!.capture;
  expect(durationS).toBeGreaterThan(9.5);
  expect(n).toBeGreaterThan(8_000);
  await ask(`/gadgets/${id}/link`, 'PATCH', { condition: 'empty' });
});

test(
  'readings that come seldom draw their curve: the beats of the pendulum',
  { tag: '@slice' },
  async ({ page }) => {
    const id = await gadgetOf('beat-rate');
    await ask(`/gadgets/${id}/link`, 'PATCH', { speed: 20 });
    const run = await recorded(id, 6000, async () => undefined);
    await ask(`/gadgets/${id}/link`, 'PATCH', { speed: 1 });
    const curve = await ask<RecordingReadings>(`/recordings/${run}/readings?channel=beat&points=2000`);
    expect(curve.good).toBeGreaterThan(20);
    expect(curve.values.every((v) => v !== null)).toBe(true);
    await open(page, id, 'runs');
    await page.getByRole('button', { name: /^moment/ }).click();
    const channels = page.getByRole('list', { name: 'Channels' });
    await expect(channels).toContainText(/\d+\.\d+ to \d+\.\d+ 1\/min|\d+\.\d+ to \d+\.\d+ /);
  },
);

test('a line that is changed while it is recorded: rows go on, and strip, API and run read by the new one', async ({
  page,
}) => {
  const made = await ask<Gadget>('/gadgets', 'POST', { template: 'cell-bench', name: 'Changed elsewhere' });
  const { id } = made;
  await ask(`/gadgets/${id}/link`, 'POST', { settings: { kind: 'simulated' }, mapping: null });
  await ask(`/gadgets/${id}/link`, 'PATCH', { speed: 10 });
  const now = async () => (await ask<{ channels: NowReading[] }>(`/gadgets/${id}/now`)).channels[0]!;
  await expect.poll(async () => (await now()).value).toBeGreaterThan(3.5);
  let saved = 0;
  const run = await recorded(id, 60, async () => {
    await open(page, id, 'line?ch=v');
    await expect(page.getByRole('contentinfo')).toContainText(/recording/i);
    await page.getByLabel('Gain', { exact: true }).fill('10');
    await expect(page.getByTestId('needle-shown')).toContainText(/\(draft\).*4\d\.\d+ V/, {
      timeout: 20_000,
    });
    // A draft is nobody's line yet.
    expect((await now()).value!).toBeLessThan(5);
    await page.getByRole('button', { name: 'Save line' }).click();
    await expect.poll(async () => (await now()).value, { timeout: 20_000 }).toBeGreaterThan(35);
    await expect(page.getByTestId('needle-shown')).toContainText(/^(?!.*\(draft\)).*4\d\.\d+ V/);
    await expect(page.getByRole('contentinfo')).toContainText(/recording/i);
    saved = (await now()).timeS!;
  });
  const { sampleCount, lostReadings, firstTimeS, lastTimeS } = await ask<Recording>(`/recordings/${run}`);
  expect(lostReadings).toBe(0);
  expect(firstTimeS!).toBeLessThan(saved);
  expect(lastTimeS!).toBeGreaterThan(saved);
  // A row a second of the gadget's own time, with none missing where the line was changed.
  expect(sampleCount).toBe(Math.round(lastTimeS! - firstTimeS!) + 1);
  const { values } = await ask<RecordingReadings>(`/recordings/${run}/readings?channel=v&points=1000`);
  expect(values).toHaveLength(sampleCount);
  expect(Math.min(...values.map((v) => v!))).toBeGreaterThan(35);
});
