import { expect, test, type Page } from './test.ts';
import type { Gadget, JudgedStudy } from '@lucky-needle/core/model';
import { ask, DEMO } from './ask.ts';

// Studies gathered by hand on the page, on simulated gadgets whose truth is known here.

/** A gadget of its own, on a simulated board of its own. */
async function made(template: string): Promise<string> {
  const { id } = await ask<Gadget>('/gadgets', 'POST', { template, name: `Study of ${template}` });
  await ask(`/gadgets/${id}/link`, 'POST', { settings: { kind: 'simulated' }, mapping: null });
  return id;
}
const link = (id: string, patch: object) => ask(`/gadgets/${id}/link`, 'PATCH', patch);
const studyOf = async (id: string) =>
  (await ask<{ items: JudgedStudy[] }>(`/gadgets/${id}/studies`)).items.at(-1)!;

async function begin(page: Page, id: string, kind: string, about?: string): Promise<void> {
  await page.goto(`${DEMO}/g/${id}/prove`);
  await page.getByRole('button', { name: 'New study' }).click();
  if (about) await page.getByLabel('About').selectOption({ label: about });
  await page.getByRole('button', { name: `Start: ${kind}` }).click();
  await expect(page.getByRole('heading', { level: 1 })).toHaveText(kind);
}
const verdict = (page: Page) => page.getByRole('region', { name: 'Conclusion' });
const count = (page: Page) => page.getByRole('row');

test(
  'two receivers are compared side by side, live, and what the second is good to decides',
  { tag: '@slice' },
  async ({ page }) => {
    const id = await made('sprint');
    await link(id, { condition: 'sprint', speed: 2 });
    await begin(page, id, 'Agreement with another instrument', 'the reading');
    const take = page.getByRole('button', { name: 'Use both' });
    await take.waitFor();
    // At full speed: while it gets faster, a moment between the two is told as a difference.
    const kmh = async () =>
      (await ask<{ channels: { value: number | null }[] }>(`/gadgets/${id}/now`)).channels[0]!.value ?? 0;
    let before = 0;
    await expect(async () => {
      const reads = await kmh();
      const gained = reads - before;
      before = reads;
      expect(reads).toBeGreaterThan(5);
      expect(gained).toBeLessThan(0.2);
    }).toPass({ intervals: [500], timeout: 30_000 });
    for (let row = 0; row < 6; row++) {
      await take.click();
      await page.getByRole('button', { name: 'Add row' }).click();
      // A header, and a row for each pair.
      await expect(count(page)).toHaveCount(row + 2);
    }
    await expect(verdict(page)).toContainText('The uncertainty of the comparison instrument is unknown');
    await page.getByLabel('Comparison instrument uncertainty ±').fill('0.36');
    await page.getByRole('button', { name: 'Save settings' }).click();
    await expect(verdict(page)).toContainText('Tolerance ±0.30 km/h');
    // The second receiver shows what is true, to its last digit.
    const { study, card } = await studyOf(id);
    const bias = Number(/by ([+−]?[\d.]+)/.exec(card.sentence)![1]!.replace('−', '-'));
    expect(Math.abs(bias)).toBeLessThan(1);
    expect(study.rows.every((r) => r.from.kind === 'live')).toBe(true);
    await page.getByRole('link', { name: 'Back to Prove' }).click();
    await expect(page.getByTestId(`claim-study-${study.id}`)).toContainText('Agrees with another instrument');
    await ask(`/gadgets/${id}`, 'DELETE');
  },
);

test('strokes of four trials are counted by hand beside the gadget, and nothing while it is only handled', async ({
  page,
}) => {
  const id = await made('motion-counter');
  await link(id, { condition: 'shaking', speed: 20 });
  await begin(page, id, 'Comparison with manual counts');
  for (let trial = 0; trial < 4; trial++) {
    await page.getByRole('button', { name: 'Start trial' }).click();
    await expect(page.getByText(/This trial: [1-9]\d+ counted/)).toBeVisible();
    await page.getByRole('button', { name: 'End trial' }).click();
    const counted = Number(await page.getByLabel('Gadget count').inputValue());
    expect(counted).toBeGreaterThanOrEqual(10);
    // The sieve shakes evenly: a hand would count the same, or one more where the trial ends in a stroke.
    await page.getByLabel('Manual count').fill(String(counted));
    await page.getByRole('button', { name: 'Add row' }).click();
    await expect(count(page)).toHaveCount(trial + 2);
  }
  await page.getByLabel('Tolerance ±').fill('10');
  await page.getByRole('button', { name: 'Save settings' }).click();
  await expect(verdict(page)).toContainText('4 trials');
  await expect(verdict(page)).toContainText('Pass');

  await link(id, { condition: 'z-up', speed: 50 });
  await begin(page, id, 'False triggers', 'Strokes since reset');
  await expect(verdict(page)).toContainText('Not tested while nothing happens');
  await page.getByLabel('Maximum false counts per hour').fill('300');
  await page.getByRole('button', { name: 'Save settings' }).click();
  await expect(page.getByRole('button', { name: 'Save settings' })).toBeDisabled();
  for (const [i, way] of (['nothing happens', 'being handled'] as const).entries()) {
    await link(id, { condition: i === 0 ? 'z-up' : 'handling' });
    await page.getByRole('combobox', { name: /^Condition/ }).selectOption(way);
    await page.getByRole('button', { name: 'Start trial' }).click();
    // Ninety seconds by the gadget's own clock.
    await expect(page.getByText(/counted in (9\d|[1-9]\d\d+) s/)).toBeVisible({ timeout: 60_000 });
    await page.getByRole('button', { name: 'End trial' }).click();
    await page.getByRole('button', { name: 'Add row' }).click();
    await expect(count(page)).toHaveCount(i + 2);
  }
  await expect(verdict(page)).toContainText(/while being handled/);
  expect((await studyOf(id)).study.rows.every((r) => Number(r.values['minutes']) >= 1.5)).toBe(true);
  await ask(`/gadgets/${id}`, 'DELETE');
});

test('a rest that was recorded gives its noise and the best mean', async ({ page }) => {
  const id = await made('sprint');
  await link(id, { condition: 'still', speed: 50 });
  const { id: run } = await ask<{ id: string }>(`/gadgets/${id}/recordings`, 'POST', { name: 'Tied up' });
  await expect
    .poll(async () => (await ask<{ sampleCount: number }>(`/recordings/${run}`)).sampleCount, {
      timeout: 60_000,
    })
    .toBeGreaterThan(1500);
  await ask(`/recordings/${run}/stop`, 'POST');
  await begin(page, id, 'Noise and averaging');
  await page.getByLabel('From, s').fill('60');
  await page.getByRole('button', { name: 'Add section' }).click();
  await expect(verdict(page)).toContainText(/Readings scatter by ±0\.\d+ km\/h/);
  await expect(page.getByRole('figure', { name: /Allan deviation/ })).toBeVisible();
  const { card } = await studyOf(id);
  // Noise of 0.04 m/s, cut off at standstill: what lies below zero is shown as zero.
  const sd = Number(/([\d.]+) km\/h standard deviation/.exec(card.facts[0]!.text)![1]);
  expect(sd / (0.04 * 3.6 * 0.5838)).toBeGreaterThan(0.85);
  expect(sd / (0.04 * 3.6 * 0.5838)).toBeLessThan(1.15);
  await ask(`/gadgets/${id}`, 'DELETE');
});

test('two sets of sprints tell a better pole from scatter, and how many more are needed', async ({
  page,
}) => {
  const id = await made('sprint');
  await begin(page, id, 'Before and after', 'Time to 12 km/h');
  const keep = async (side: 'before' | 'after', seconds: string, rows: number) => {
    await page.getByRole('combobox', { name: /^Run$/ }).selectOption(side);
    await page.getByLabel('Result, s').fill(seconds);
    await page.getByRole('button', { name: 'Add row' }).click();
    await expect(count(page)).toHaveCount(rows + 1);
  };
  let rows = 0;
  for (const s of ['8.10', '8.62', '8.31', '8.44']) await keep('before', s, ++rows);
  for (const s of ['8.02', '8.30', '8.55', '8.21']) await keep('after', s, ++rows);
  await expect(verdict(page)).toContainText('may be scatter only');
  await page.getByLabel('Smallest change of interest').fill('0,3');
  await page.getByRole('button', { name: 'Save settings' }).click();
  await expect(verdict(page)).toContainText(/About \d+ more runs of each would prove a change of 0\.30 s/);
  // A number that is none is named, and nothing typed is lost.
  await page.getByLabel('Result, s').fill('fast');
  await page.getByRole('button', { name: 'Add row' }).click();
  await expect(page.getByRole('alert')).toContainText('“fast” is not a number');
  await expect(page.getByLabel('Result, s')).toHaveValue('fast');
  // Another pole.
  for (const s of ['6.90', '7.05', '6.84', '7.10', '6.95', '7.02']) await keep('after', s, ++rows);
  for (const row of [5, 6, 7, 8]) {
    await page.getByLabel(`Include row ${row}`).click();
    await expect(page.getByLabel(`Include row ${row}`)).not.toBeChecked();
  }
  await expect(verdict(page)).toContainText('The result changed by −1.');
  await ask(`/gadgets/${id}`, 'DELETE');
});
