import { readFileSync } from 'node:fs';
import { expect, test, type Page } from './test.ts';
import { KILN_TRUTH } from '@lucky-needle/demo';
import { DEMO_PORT } from './playwright.config.ts';

const BASE = `http://127.0.0.1:${DEMO_PORT}`;
const PROBE = KILN_TRUTH.probes[1]!;

async function gadgetId(): Promise<string> {
  const { items } = (await (await fetch(`${BASE}/api/gadgets`)).json()) as { items: { id: string }[] };
  return items[0]!.id;
}

const step = (page: Page, name: string) =>
  page.getByRole('navigation', { name: 'Steps' }).getByRole('link', { name: new RegExp(name) });
const channel = (page: Page, name: string) =>
  page.getByRole('group', { name: 'Channel' }).getByRole('button', { name });
const shownReading = async (page: Page) =>
  Number.parseFloat(
    (await page.getByTestId('needle-shown').innerText()).split('\n')[1]!.replace('\u2212', '-'),
  );

/** Moves the simulated probes, waits for steadiness in the new place, and keeps the point with the given key. */
async function keepPoint(
  page: Page,
  condition: string,
  reference: string,
  key: 'Space' | 'c',
): Promise<void> {
  const card = page.getByRole('region', { name: 'Capture a point' });
  const before = await page.getByRole('table', { name: 'Points' }).locator('tbody tr').count();
  const old = await shownReading(page);
  await card.getByLabel('Simulated condition').selectOption({ label: condition });
  await card.getByLabel('Reference').selectOption({ label: reference });
  // The old steadiness must have ended before the new one counts: then the reading is another.
  await expect(async () => expect(Math.abs((await shownReading(page)) - old)).toBeGreaterThan(5)).toPass({
    timeout: 30_000,
  });
  await expect(card.getByTestId('steady')).toContainText('steady for', { timeout: 60_000 });
  await expect(async () => {
    const seconds = Number(/(\d+) s/.exec(await card.getByTestId('steady').innerText())?.[1] ?? 0);
    expect(seconds).toBeGreaterThan(14);
  }).toPass({ timeout: 60_000 });
  const use = card.getByRole('button', { name: /use this value/ });
  if (await use.isVisible()) await use.click();
  // Fields keep their keys: leave them first.
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press(key);
  await expect(page.getByRole('table', { name: 'Points' }).locator('tbody tr')).toHaveCount(before + 1);
}

test('a maker walks the kiln probes from brief to logbook', async ({ page }, info) => {
  const problems: string[] = [];
  page.on('pageerror', (error) => problems.push(error.message));
  page.on('console', (message) => {
    // Refusals that a step provokes on purpose are logged by the browser itself.
    if (message.type() === 'error' && !message.text().includes('Failed to load resource'))
      problems.push(message.text());
  });
  const id = await gadgetId();

  await test.step('Workshop: the mill is on the bench', async () => {
    await page.goto(BASE);
    await page.getByRole('link', { name: 'Drying-kiln probes', exact: true }).click();
  });

  await test.step('1 Brief: contradictions are named, a change is written and shown in the rail', async () => {
    await page.getByLabel('Highest, °C').first().fill('-5');
    await page.getByRole('button', { name: 'Save brief' }).click();
    await expect(page.getByText('-5 is not above 0')).toBeVisible();
    await page.getByLabel('Highest, °C').first().fill('105,5');
    await page.getByRole('button', { name: 'Save brief' }).click();
    await expect(step(page, 'Brief')).toContainText('0…105.5 °C and 3 more');
    await page.getByLabel('Highest, °C').first().fill('110');
    await page.getByRole('button', { name: 'Save brief' }).click();
    await expect(step(page, 'Brief')).toContainText('0…110 °C and 3 more');
    await expect(page.getByText('97.8 °C')).toBeVisible();
  });

  await test.step('1 Brief: a lost race is refused and what was typed stays', async () => {
    const now = (await (await fetch(`${BASE}/api/gadgets/${id}`)).json()) as { version: number };
    await page.getByRole('textbox', { name: 'Note' }).fill('Mine, typed while another window saved.');
    const other = await fetch(`${BASE}/api/gadgets/${id}`, {
      method: 'PATCH',
      headers: { 'Content-Type': 'application/json', 'If-Match': `"${now.version}"` },
      body: JSON.stringify({ name: 'Drying-kiln probes' }),
    });
    expect(other.status).toBe(200);
    await expect(page.getByRole('textbox', { name: 'Note' })).toHaveValue(
      'Mine, typed while another window saved.',
    );
    await page.getByRole('button', { name: 'Save brief' }).click();
    await expect(page.getByRole('alert')).toContainText('This was changed in another window');
    await page.getByRole('button', { name: 'Reapply my changes to the latest version' }).click();
    await page.getByRole('button', { name: 'Save brief' }).click();
    await expect(page.getByText('Saved.', { exact: true })).toBeVisible();
    await expect(page.getByRole('textbox', { name: 'Note' })).toHaveValue(
      'Mine, typed while another window saved.',
    );
  });

  await test.step('2 Pick: parts are judged, the failed ones below the line with their reason', async () => {
    await step(page, 'Pick').click();
    await page.getByRole('button', { name: 'Temperature' }).click();
    const bead = page.getByRole('article', { name: 'NTC bead probe, 10 kΩ' });
    await expect(bead).toContainText('✓ Picked');
    await expect(bead).toContainText('Steps of 0.31 °C; the target is a fifth of the tolerance, 0.2 °C.');
    await expect(page.getByText('These parts cannot')).toBeVisible();
    await expect(page.getByRole('article', { name: 'One-wire digital probe' })).toContainText(
      '1.3 readings per second; at least 1.5 required.',
    );
  });

  await test.step('3 Hook-up: a pin clash and its way out, and what each probe should read', async () => {
    await step(page, 'Hook-up').click();
    await page.getByLabel('Pin of Probe 2, loft side').selectOption('D2');
    await expect(page.getByText(/D2 does not support analog/)).toBeVisible();
    await page.getByRole('button', { name: 'Assign all automatically' }).click();
    await expect(page.getByText('Every wire has its own pin.')).toBeVisible();
    await page.getByRole('button', { name: 'Bring-up sheet' }).click();
    await expect(page.getByRole('row', { name: /Ice slurry/ })).toContainText('932');
    await expect(page.getByRole('row', { name: /Boiling water at an elevation of 640 m/ })).toContainText(
      '741.7 Ω',
    );
    await page.getByRole('button', { name: '×20' }).click();
    await page.getByRole('button', { name: 'Ice slurry', exact: true }).click();
    // Right where the probe is, wrong where it is not, and then what could have slipped.
    const ice = page.getByRole('row', { name: /Ice slurry/ });
    await expect(async () => {
      await page.getByLabel('Check Probe 1, door side, Ice slurry now').click();
      await expect(ice.getByText('✓ correct')).toBeVisible({ timeout: 500 });
    }).toPass({ timeout: 30_000 });
    await page.getByLabel('Check Probe 1, door side, Boiling water at an elevation of 640 m now').click();
    const slip = page.getByRole('region', { name: 'Find a mistake' });
    await expect(slip).toContainText('should be about');
    await slip.getByRole('button', { name: 'Close' }).click();
    await expect(slip).toBeHidden();
    await page.getByRole('button', { name: 'In the kiln', exact: true }).click();
  });

  await test.step('4 Line: the strip follows a changed constant at once', async () => {
    await step(page, 'Line').click();
    await channel(page, 'Probe 2').click();
    await expect(page.getByText('Remaining noise')).toBeVisible();
    await page.getByRole('button', { name: /^Voltage divider/ }).click();
    // Beside what the stored line gives: the kiln warms meanwhile.
    const aboveStored = async () => {
      const now = await (await fetch(`${BASE}/api/gadgets/${id}/now`)).json();
      const { value } = now.channels.find((c: { name: string }) => c.name.startsWith('Probe 2'));
      return (await shownReading(page)) - value;
    };
    await page.getByLabel('Series resistor', { exact: true }).fill('2000');
    await expect(async () => expect(await aboveStored()).toBeGreaterThan(7)).toPass();
    await page.getByRole('button', { name: 'Discard' }).click();
    await expect(async () => expect(await aboveStored()).toBeLessThan(2)).toPass();
  });

  await test.step('5 True-up: four points and a check, the series resistor found', async () => {
    await step(page, 'True-up').click();
    await expect(page.getByText('No points yet')).toBeVisible();
    const beside = 'Comparison thermometer';
    await page
      .getByRole('region', { name: 'Capture a point' })
      .getByLabel('Simulated condition')
      .selectOption({ label: 'In the kiln' });
    await keepFirst(page);
    await keepPoint(page, 'Room air', beside, 'Space');
    await keepPoint(page, 'Warm bath', beside, 'Space');
    await keepPoint(page, 'Hot bath', beside, 'Space');
    await keepPoint(page, 'Boiling water', 'Boiling water, pressure from barometer', 'c');

    await page.getByRole('radio', { name: /Fit series resistor/ }).check();
    const fitted = page.getByTestId('fitted-seriesOhm');
    const value = Number(await fitted.getAttribute('data-value'));
    const u = Number(await fitted.getAttribute('data-u'));
    info.annotations.push({
      type: 'series resistor',
      description: `${value} ± ${2 * u} ohm, truth ${PROBE.seriesOhm}`,
    });
    expect(Math.abs(value - PROBE.seriesOhm)).toBeLessThanOrEqual(2 * u);
    expect(2 * u).toBeLessThan(40);
    await expect(page.getByTestId('verdict-before')).toContainText('Fail');
    await expect(
      page.getByRole('region', { name: 'Verdict at the check point' }).getByText('✓ Pass'),
    ).toBeVisible();
    await page.getByRole('button', { name: 'Use this calibration' }).first().click();
    await expect(page.getByRole('button', { name: /Active: calibration 1/ })).toBeVisible();
    await expect(step(page, 'True-up')).toContainText('2 of 4 calibrated');
  });

  await test.step('6 Prove: the check passes with its guard band', async () => {
    await step(page, 'Prove').click();
    await expect(page.getByTestId('claim-check')).toContainText('✓ Pass');
    await expect(page.getByTestId('claim-check')).toContainText(/Within ±1, with 0\.\d+ to spare/);
    await expect(page.getByTestId('claim-rate')).toContainText('✓ Pass');
    await expect(page.getByText('Combined, 95 %')).toBeVisible();
    await channel(page, 'Probe 3').click();
    await expect(page.getByTestId('claim-check')).toContainText('? Not proven');
  });

  await test.step('7 Runs: record, stop, see it in degrees, export, import the same samples', async () => {
    await step(page, 'Runs').click();
    await page.getByLabel('Name').fill('Walk-through');
    await page.getByRole('button', { name: 'Record', exact: true }).click();
    await expect(async () => {
      const text = await page.getByTestId('committed').innerText();
      expect(Number(/(\d+)/.exec(text)![1])).toBeGreaterThan(300);
    }).toPass();
    await page.getByRole('button', { name: 'Stop', exact: true }).click();
    const run = page.getByRole('region', { name: 'Walk-through' });
    await expect(run.getByText(/°C/).first()).toBeVisible();
    await run.getByText('Export', { exact: true }).click();
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      run.getByRole('link', { name: 'CSV, raw columns and readings' }).click(),
    ]);
    const path = await download.path();
    const lines = readFileSync(path, 'utf8').trim().split('\r\n');
    expect(lines[0]).toContain('p2 raw [count]');
    expect(lines[0]).toContain('"Probe 2, loft side [degC]"');
    await page
      .getByLabel('Files to import')
      .setInputFiles({ name: 'brought-back.csv', mimeType: 'text/csv', buffer: readFileSync(path) });
    await page
      .getByRole('form', { name: 'Import' })
      .getByRole('button', { name: 'Import', exact: true })
      .click();
    await expect(page.getByRole('region', { name: 'brought-back' })).toBeVisible();
    const { items } = (await (await fetch(`${BASE}/api/gadgets/${id}/recordings`)).json()) as {
      items: { id: string; name: string; sampleCount: number }[];
    };
    const bytes = async (name: string) => {
      const recording = items.find((r) => r.name === name)!;
      expect(recording.sampleCount).toBe(lines.length - 1);
      const buffer = await (await fetch(`${BASE}/api/recordings/${recording.id}/window`)).arrayBuffer();
      const headerLength = new DataView(buffer).getUint32(4, true);
      return new Uint8Array(buffer, 8 + headerLength);
    };
    expect(await bytes('brought-back')).toEqual(await bytes('Walk-through'));
  });

  await test.step('8 Face: the display follows, the limit alarm sounds and a pulled cable is not known', async () => {
    await step(page, 'Face').click();
    await expect(page.getByTestId('alarm')).toHaveAttribute('data-state', 'limit', { timeout: 30_000 });
    await expect(page.getByTestId('display')).toContainText('LIMIT');
    const move = (patch: object) =>
      fetch(`${BASE}/api/gadgets/${id}/link`, {
        method: 'PATCH',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(patch),
      });
    await move({ condition: 'room' });
    await expect(page.getByTestId('alarm')).toHaveAttribute('data-state', 'quiet', { timeout: 30_000 });
    await move({ plugged: false });
    await expect(page.getByTestId('alarm')).toHaveAttribute('data-state', 'unknown', { timeout: 15_000 });
    await expect(page.getByRole('contentinfo')).toContainText('unplugged');
    await move({ plugged: true, speed: 1, condition: 'kiln' });
    await expect(page.getByTestId('alarm')).toHaveAttribute('data-state', 'quiet');
  });

  await test.step('9 Logbook: what was done, and the C header', async () => {
    await step(page, 'Logbook').click();
    await expect(
      page.getByText(/Probe 2, loft side: calibration 1 is now active.*[Ss]eries resistor 34\d\d/),
    ).toBeVisible();
    await page.getByLabel('Contents of the header').selectOption({ label: 'Probe 2, loft side' });
    await expect(page.getByLabel('C header', { exact: true })).toContainText(
      /PROBE_2_LOFT_SIDE_2_DIVIDER_SERIES \(\(LN_REAL\)34\d\d\./,
    );
    await page.getByRole('textbox', { name: 'Note' }).fill('Probe 2: the resistor was 4 % off.');
    await page.getByRole('button', { name: 'Add note' }).click();
    await expect(page.getByText('Probe 2: the resistor was 4 % off.')).toBeVisible();
  });

  expect(problems).toEqual([]);
});

/** The first point: there is no table of points to count yet. */
async function keepFirst(page: Page): Promise<void> {
  const card = page.getByRole('region', { name: 'Capture a point' });
  await card.getByLabel('Simulated condition').selectOption({ label: 'Ice slurry' });
  await expect(card.getByTestId('steady')).toContainText('not steady');
  await expect(async () => {
    const seconds = Number(/(\d+) s/.exec(await card.getByTestId('steady').innerText())?.[1] ?? 0);
    expect(seconds).toBeGreaterThan(14);
  }).toPass({ timeout: 60_000 });
  await page.locator('h1').click();
  await page.keyboard.press('Space');
  await expect(page.getByRole('table', { name: 'Points' }).locator('tbody tr')).toHaveCount(1);
}
