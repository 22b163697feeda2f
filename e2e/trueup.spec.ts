import { readFileSync } from 'node:fs';
import { expect, test, type Page } from './test.ts';
import type { Gadget, NowReading } from '@lucky-needle/core/model';
import { compileLine, editLine, invertLine } from '@lucky-needle/core/line';
import { seededRandom } from '@lucky-needle/core/numerics';
import { createWorld, FAMILIES, type World, type WorldTruth } from '@lucky-needle/core/simulate';
import { ask } from './ask.ts';
import { truedElement, truthOf } from './hiddenTruth.ts';
import { pushLink } from './pushLink.ts';
import { DEMO_PORT } from './playwright.config.ts';

const DEMO = `http://127.0.0.1:${DEMO_PORT}`;
/** What the demo's vat really holds. */
const VAT_MG_L = (
  FAMILIES.find((f) => f.family === 7)!.draw(647) as Extract<WorldTruth, { kind: 'dye-checker' }>
).vatMgL;

async function open(page: Page, template: string, step: string): Promise<string> {
  const { items } = (await (await fetch(`${DEMO}/api/gadgets`)).json()) as {
    items: { id: string; template: string }[];
  };
  const { id } = items.find((g) => g.template === template)!;
  await page.goto(`${DEMO}/g/${id}/${step}`);
  await page.getByRole('heading', { level: 1 }).waitFor();
  return id;
}

const move = (page: Page, where: string) =>
  page.getByRole('group', { name: 'Simulated condition' }).getByRole('button', { name: where }).click();
/** What a simulated board would send next. */
const valuesOf = (world: World) => {
  const counts = world.step(0.5);
  return Object.fromEntries(world.columns.map((name, k) => [name, counts[k]!]));
};
const shown = async (page: Page) =>
  Number.parseFloat((await page.getByTestId('needle-shown').innerText()).split('\n')[1]!.replace('−', '-'));
/** Waits until what is shown moves by no more than so much from one look to the next. */
const steady = (page: Page, within: number) =>
  expect(async () => {
    const before = await shown(page);
    await page.waitForTimeout(500);
    expect(Math.abs((await shown(page)) - before)).toBeLessThanOrEqual(within);
  }).toPass({ timeout: 30_000 });
/** Degrees from a course, the short way round. */
const apart = (a: number, b: number) => Math.abs(((((a - b) % 360) + 540) % 360) - 180);

test('blow meter: a staircase of masses up and down at two thousand a second, a press a step', async ({
  page,
}) => {
  const { id } = await ask<{ id: string }>('/gadgets', 'POST', {
    template: 'impact-peak',
    name: 'Step series',
  });
  await page.goto(`${DEMO}/g/${id}/true-up`);
  const card = page.getByRole('region', { name: 'Capture a point' });
  await expect(page.getByTestId('steady')).toContainText('no link');
  await page.keyboard.press('Space');
  await expect(page.getByText('There is no link.')).toBeVisible();
  await ask(`/gadgets/${id}/link`, 'POST', { settings: { kind: 'simulated' }, mapping: null });
  await page.reload();
  await card.getByLabel('Reference', { exact: true }).selectOption({ label: 'Weight of a known mass' });
  await card.getByLabel('Mass').fill('5');
  await card.getByLabel('Uncertainty ±').fill('0.002');
  await card.getByText('Capture a series of steps').click();
  await card.getByLabel('Steps, kg').fill('5 ten 20');
  await card.getByRole('button', { name: 'Start the series' }).click();
  await expect(card.getByRole('alert')).toContainText('“ten” is not a valid step');
  await card.getByLabel('Steps, kg').fill('5 10 20');
  await card.getByRole('button', { name: 'Start the series' }).click();
  const stairs = card.getByRole('region', { name: 'Step series' });
  const steps = [
    ['5kg', '5 kg'],
    ['10kg', '10 kg'],
    ['20kg', '20 kg'],
    ['10kg-down', '10 kg, on the way down'],
    ['5kg-down', '5 kg, on the way down'],
  ] as const;
  /** Counts of the steady window that the card tells. */
  const steadyAt = async () => {
    const told = /^(.*?)\s*±.* counts, \d+ readings/m.exec(await card.innerText());
    if (!told) throw new Error('Not steady.');
    return Number(told[1]!.replace('−', '-').replace(/\s/g, ''));
  };
  let before = Number.NaN;
  await expect(async () => void (before = await steadyAt())).toPass({ timeout: 30_000 });
  for (const [k, [condition, told]] of steps.entries()) {
    await expect(stairs.getByRole('status')).toContainText(`Step ${k + 1} of 5: ${told}`);
    await ask(`/gadgets/${id}/link`, 'PATCH', { condition });
    // Not the window of the step before, which noise may call unsteady for a moment.
    await expect(async () => {
      const now = await steadyAt();
      expect(Math.abs(now - before)).toBeGreaterThan(1000);
      before = now;
    }).toPass({ intervals: [200], timeout: 30_000 });
    await page.keyboard.press('Space');
  }
  await expect(stairs).toHaveCount(0);
  const { items } = await ask<{ items: { capture: { approach?: string } }[] }>(`/gadgets/${id}/points`);
  expect(items.map((p) => p.capture.approach)).toEqual([
    'from below',
    'from below',
    'from below',
    'from above',
    'from above',
  ]);
  await expect(page.getByTestId('hysteresis')).toContainText(/approached from above minus from below/);
});

test('heading: the table alone is refused, a full turn takes the iron out, and north reads north', async ({
  page,
}) => {
  await open(page, 'heading', 'true-up');
  const card = page.getByRole('region', { name: 'Rotate through all directions' });
  await page.getByRole('button', { name: '×5' }).click();
  await move(page, 'Vane pointing south (landmark)');
  await expect(page.getByTestId('needle-shown')).toContainText('°');

  await move(page, 'Rotated on the table only');
  await card.getByRole('button', { name: 'Start' }).click();
  await expect(card.getByRole('status')).toContainText(/Directions still missing: .*[xyz]/);
  await expect(card.getByRole('alert')).toBeVisible();
  await expect(card.getByTestId('ellipsoid')).toBeHidden();
  await card.getByRole('button', { name: 'Delete readings' }).click();

  await move(page, 'Rotated through all directions');
  await card.getByRole('button', { name: 'Start' }).click();
  // The page is left: the server gathers on.
  await expect(card.getByRole('button', { name: 'Stop' })).toBeVisible();
  await open(page, 'heading', 'brief');
  await open(page, 'heading', 'true-up');
  await expect(card.getByRole('button', { name: 'Stop' })).toBeVisible();
  await expect(card.getByTestId('ellipsoid')).toContainText(/the field strength agrees to within \d/, {
    timeout: 60_000,
  });
  await expect(card.getByRole('status')).toContainText(/9\d %|100 %/, { timeout: 60_000 });
  await card.getByRole('button', { name: 'Use this calibration' }).click();
  await expect(
    page.getByText('Hard- and soft-iron distortion corrected. Calibration 1 is now active.'),
  ).toBeVisible();
  await card.getByRole('button', { name: 'Delete readings' }).click();

  // What is left is mounting and declination, the same all round: two known courses tell it.
  const courses = page.getByRole('region', { name: 'Known bearings' });
  for (const [where, course] of [
    ['north', 0],
    ['south', 180],
  ] as const) {
    await move(page, `Vane pointing ${where} (landmark)`);
    await expect(async () => expect(apart(await shown(page), course)).toBeLessThan(20)).toPass();
    await courses.getByLabel('Reading').fill(String(course));
    await courses.getByLabel('Uncertainty ±').fill('1');
    await expect(courses.getByRole('status')).toContainText('✓ steady at');
    await courses.getByRole('button', { name: 'Capture this bearing' }).click();
    await expect(courses.getByRole('list', { name: 'Captured bearings' })).toContainText(`${course}.0°`);
  }
  await courses.getByTestId('landmark').getByRole('button', { name: 'Use this calibration' }).click();
  await expect(page.getByText('Mounting angle corrected. Calibration 2 is now active.')).toBeVisible();
  const brief = 5;
  for (const [where, course] of [
    ['north', 0],
    ['east', 90],
    ['south', 180],
    ['west', 270],
  ] as const) {
    await move(page, `Vane pointing ${where} (landmark)`);
    await expect(async () => expect(apart(await shown(page), course)).toBeLessThan(brief)).toPass();
  }
  await page.getByRole('button', { name: '×1', exact: true }).click();
});

test('gas watch: nothing is captured while the element warms up', async ({ page }) => {
  const id = await open(page, 'gas-watch', 'true-up');
  // Switched off and on: however long the mill has been running, the elements are cold.
  await fetch(`${DEMO}/api/gadgets/${id}/link`, { method: 'DELETE' });
  await fetch(`${DEMO}/api/gadgets/${id}/link`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ settings: { kind: 'simulated' }, mapping: null }),
  });
  const patch = (body: object) =>
    fetch(`${DEMO}/api/gadgets/${id}/link`, {
      method: 'PATCH',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    });
  const card = page.getByRole('region', { name: 'Capture a point' });
  await expect(card.getByTestId('warming')).toContainText(/Still warming up, \d:\d\d left/);
  await expect(card.getByRole('button', { name: /Capture point/ })).toBeDisabled();
  await patch({ speed: 20 });
  await expect(card.getByTestId('warming')).toBeHidden({ timeout: 60_000 });
  await expect(card.getByRole('button', { name: /Capture point/ })).toBeEnabled({ timeout: 60_000 });
  // One airing serves all elements: each has its own baseline from then on.
  await patch({ condition: 'clean' });
  const air = page.getByRole('region', { name: 'Clean air' });
  await expect(air.getByTestId('air-state')).toContainText('✓ warm, steady', { timeout: 60_000 });
  await expect(air.getByRole('cell', { name: 'uncalibrated' })).toHaveCount(3);
  await air.getByRole('button', { name: 'Capture clean air' }).click();
  await expect(page.getByText('Clean-air level saved for 3 sensors.')).toBeVisible();
  await expect(air.getByRole('cell', { name: 'uncalibrated' })).toHaveCount(0);
  await patch({ speed: 1 });
});

test('kiln: where the next point tells most is followed, and three points at the most reach the brief', async ({
  page,
}) => {
  const gadget = await ask<Gadget>('/gadgets', 'POST', {
    template: 'several-temperatures',
    name: 'Three points',
  });
  const { id } = gadget;
  const send = await pushLink(id, gadget.sampleRateHz);
  // The probe reads three in a hundred short and a degree and a half high: nobody but its reference knows.
  const { line } = gadget.channels[0]!;
  const correction = line.stages.find((s) => s.kind === 'gain-offset')!;
  const hidden = compileLine(
    editLine(line, [{ stageId: correction.id, params: { gain: 1.03, offset: -1.5 } }]),
    { sampleRateHz: gadget.sampleRateHz },
  );
  const random = seededRandom(4);
  const columns = gadget.channels.map((c) => c.line.sources[0]!.column);
  const bath = (degC: number, seconds: number) => {
    const raw = invertLine(hidden, degC)[0]!;
    return send(seconds * gadget.sampleRateHz, () =>
      Object.fromEntries(columns.map((c) => [c, Math.round(raw + 0.4 * random.normal())])),
    );
  };
  await bath(20, 5);
  await page.goto(`${DEMO}/g/${id}/true-up?ch=p1`);
  const advice = page.getByRole('region', { name: 'Next point' });
  const card = page.getByRole('region', { name: 'Capture a point' });
  const kept = page.getByRole('button', { name: 'Use as check' });
  await page.getByRole('radio', { name: /^Gain and offset/ }).check();
  for (let k = 0; k < 3; k++) {
    const [, near] = /Near (-?\d+(?:\.\d+)?) °C/.exec(await advice.innerText()) ?? [];
    // Two may do as well: then nothing more is asked for.
    if (near === undefined) break;
    const there = Number(near);
    await bath(there, 40);
    await card.getByLabel('Reference', { exact: true }).selectOption('instrument');
    await card.getByLabel('Reading').fill(String(there));
    await card.getByLabel('Uncertainty ±').fill('0.2');
    await expect(async () => {
      await bath(there, 12);
      await expect(card.getByTestId('steady')).toContainText('✓ steady', { timeout: 2000 });
      await card.getByRole('button', { name: /Capture point/ }).click({ timeout: 1000 });
      await expect(kept).toHaveCount(k + 1, { timeout: 2000 });
    }).toPass({ timeout: 40_000 });
  }
  await expect(advice.getByRole('heading')).toHaveText('Enough points');
  await expect(advice).toContainText('within half the tolerance');
  await page.getByRole('button', { name: 'Use this calibration' }).click();
  // Everywhere in the brief it then reads what is there, to within the brief.
  for (const degC of [5, 48, 104]) {
    await expect(async () => {
      await bath(degC, 12);
      expect(Math.abs((await shown(page)) - degC)).toBeLessThan(1);
    }).toPass({ timeout: 20_000 });
  }
});

test('gas watch: three elements are exposed one at a time, and each reads its own gas alone', async ({
  page,
}) => {
  const gadget = await ask<Gadget>('/gadgets', 'POST', {
    template: 'gas-watch',
    name: 'Exposed one at a time',
  });
  const truth = truthOf<'gas-watch'>(1);
  const world = createWorld(truth);
  const channels = gadget.channels.map((c) => truedElement(c, truth));
  const { id } = gadget;
  await ask(`/gadgets/${id}`, 'PATCH', { channels }, { 'If-Match': `"${gadget.version}"` });
  const send = await pushLink(id, 2);
  /** So many readings in one condition, two a second of the gadget's own time. */
  const push = (condition: string, count: number) => {
    world.setCondition(condition);
    return send(count, () => valuesOf(world));
  };
  /** A link that pushes is silent in between: readings come until all of it is over. */
  const whilePushing = async (condition: string, ...work: readonly Promise<unknown>[]) => {
    let isOver = false;
    const all = Promise.all(work).finally(() => (isOver = true));
    while (!isOver) await push(condition, 10);
    await all;
  };
  /** What it reads while readings come. */
  const now = async (condition: string) => {
    await push(condition, 10);
    return (await ask<{ channels: NowReading[] }>(`/gadgets/${id}/now`)).channels;
  };
  /** What comes by network is put in order first: until its own element reads a gas, the one before is still read. */
  const settled = async (condition: string, k: number) => {
    await push(condition, 200);
    await expect
      .poll(async () => (await now(condition))[k]!.value! / truth.doses[k]!, { timeout: 30_000 })
      .toBeCloseTo(1, 1);
  };
  await push('clean', 1200);
  await page.goto(`${DEMO}/g/${id}/true-up?ch=ammonia`);
  const card = page.getByRole('region', { name: 'Cross-sensitivity' });
  // Beside so much ferment vapour ammonia is read that is not there, and the page says what it may be.
  await push('ferment', 200);
  await expect(
    page.getByText(/Fermentation vapour reads 1\d\d ppm\. A gas sensor also responds/),
  ).toBeVisible({
    timeout: 20_000,
  });
  await settled('ferment', 0);
  expect((await now('ferment')).find((c) => c.channelId === 'ammonia')!.value).toBeGreaterThan(10);
  // Nothing that means nothing is kept: of ammonia there is none.
  await card.getByLabel('Reading').fill('25');
  await card.getByLabel('Uncertainty ±').fill('0.5');
  await whilePushing(
    'ferment',
    expect(card.getByRole('alert')).toContainText('where the actual level is', { timeout: 60_000 }),
    card.getByRole('button', { name: /^Capture: only Ammonia/ }).click(),
  );
  const doses = { ferment: 'Fermentation vapour', ammonia: 'Ammonia', solvent: 'Solvent vapour' };
  for (const [k, [condition, name]] of Object.entries(doses).entries()) {
    await settled(condition, k);
    await page.goto(`${DEMO}/g/${id}/true-up?ch=${condition}`);
    await card.getByLabel('Reading').fill(String(Number(truth.doses[k]!.toPrecision(3))));
    await card.getByLabel('Uncertainty ±').fill(String(Number((0.02 * truth.doses[k]!).toPrecision(2))));
    // What is told goes away after some seconds, which a busy machine may take for one push: it is looked for meanwhile.
    const told = page.getByText(`Captured the response of all sensors to ${name.toLowerCase()}.`);
    await whilePushing(
      condition,
      expect(told).toBeVisible({ timeout: 60_000 }),
      card.getByRole('button', { name: /^Capture: only/ }).click(),
    );
  }
  await expect(card.getByRole('table').getByText('unknown')).toHaveCount(0);
  await card.getByRole('button', { name: 'Subtract cross-sensitivity on all channels' }).click();
  await expect(card.getByRole('status')).toHaveText('✓ Cross-sensitivity is subtracted on all channels.');
  // Now each gas alone: its own element reads it, the others nothing that matters, all to within their briefs.
  const asks = gadget.brief!.asks;
  for (const [k, condition] of Object.keys(doses).entries()) {
    await settled(condition, k);
    for (const [i, { channelId, value, uncertainty }] of (await now(condition)).entries()) {
      const { tolerance } = asks.find((a) => a.id === channelId)!;
      const there = i === k ? truth.doses[k]! : 0;
      expect(there - value!, `${channelId} in ${condition}`).toBeLessThan(tolerance);
      // Less than its clean air no element can tell from none.
      expect(value! - there).toBeLessThan(Math.max(tolerance, truth.elements[i]!.backgroundPpm));
      expect(uncertainty).not.toBeNull();
    }
  }
  await push('ferment', 200);
  await expect(page.getByText(/Ferment vapour reads .* A gas sensor also responds/)).toHaveCount(0);
});

test('generator: middle, lag and scale are found in turn, and lamps have a power factor of 1', async ({
  page,
}) => {
  await open(page, 'ac-power', 'true-up?ch=p');
  const card = (name: string) => page.getByRole('region', { name, exact: true });
  // The list stays; what is told beside it goes by itself.
  const inUse = (version: number) =>
    expect(page.getByRole('button', { name: `Save version ${version} as JSON` })).toBeVisible({
      timeout: 60_000,
    });
  await expect(page.getByRole('contentinfo')).toContainText(/\d+ readings\/s/);
  await move(page, 'Running, load off');
  // With the load off there is no lag: nothing is offered to be put in use.
  await expect(async () => {
    await card('Phase').getByRole('button', { name: 'Measure phase lag' }).click();
    await expect(card('Phase').getByRole('alert')).toContainText(/Switch on/, { timeout: 1000 });
  }).toPass({ timeout: 60_000 });
  await expect(card('Phase').getByTestId('found-Phase')).toHaveCount(0);
  await card('Midpoint').getByRole('button', { name: 'Find midpoint' }).click();
  await expect(card('Midpoint').getByTestId('found-Midpoint')).toContainText(/The midpoint is at 20\d\d/);
  await card('Midpoint').getByRole('button', { name: 'Use this calibration' }).click();
  await inUse(1);
  await move(page, 'Lamp bank (resistive load)');
  // Until the seconds that are looked at hold nothing but lamps, the lag is refused.
  await expect(async () => {
    await card('Phase').getByRole('button', { name: 'Measure phase lag' }).click();
    await expect(card('Phase').getByTestId('found-Phase')).toContainText(/lags by −?\d+(\.\d+)? ±\d/, {
      timeout: 1000,
    });
    await card('Phase').getByRole('button', { name: 'Use this calibration' }).click({ timeout: 1000 });
    await expect(page.getByRole('button', { name: 'Save version 2 as JSON' })).toBeVisible({ timeout: 4000 });
  }).toPass({ timeout: 60_000 });
  await card('Scale')
    .getByRole('button', { name: /use these values/ })
    .click();
  await card('Scale').getByRole('button', { name: 'Compare with meter' }).click();
  await expect(card('Scale').getByTestId('found-Scale')).toContainText(/Volts per count/);
  await card('Scale').getByRole('button', { name: 'Use this calibration' }).click();
  await inUse(3);
  // What the meter beside it shows is what the gadget shows: watts are volts times amperes on lamps.
  const meter = async (name: 'Meter reading', i: number) =>
    Number((await card('Scale').getByLabel(name).nth(i).inputValue()).replace(',', '.'));
  const watts = (await meter('Meter reading', 0)) * (await meter('Meter reading', 1));
  await expect(async () => expect(Math.abs((await shown(page)) / watts - 1)).toBeLessThan(0.02)).toPass({
    timeout: 30_000,
  });
});

test(
  'three axes: six rests, recognised by themselves, put 1 g on every side',
  { tag: '@slice' },
  async ({ page }) => {
    await open(page, 'motion-counter', 'true-up');
    const card = page.getByRole('region', { name: 'Six positions' });
    await page.getByRole('button', { name: '×5' }).click();
    for (const [where, side] of [
      ['At rest, z up', '+z up'],
      ['At rest, z down', '−z up'],
      ['At rest, x up', '+x up'],
      ['At rest, x down', '−x up'],
      ['At rest, y up', '+y up'],
      ['At rest, y down', '−y up'],
    ] as const) {
      await move(page, where);
      await expect(card.getByRole('status')).toContainText(`✓ steady, ${side}`, { timeout: 30_000 });
      await card.getByRole('button', { name: 'Capture this position' }).click();
      await expect(card.getByRole('listitem').filter({ hasText: side })).toContainText('✓');
    }
    await expect(card.getByTestId('six-rests')).toContainText(/1 g to within \d+(\.\d+)? mg/);
    await card.getByRole('button', { name: 'Use this calibration' }).click();
    await expect(page.getByText('Axes corrected. Calibration 1 is now active.')).toBeVisible();
    await page.getByRole('button', { name: '×1', exact: true }).click();
  },
);

for (const [template, shown, expected, slip] of [
  ['several-temperatures', '140', '60', /degree Fahrenheit instead of degree Celsius/],
  ['impact-peak', '102', '1000', /Reading in kilograms instead of newtons/],
  ['ac-power', '33.9', '24', /Peak value instead of RMS/],
  ['beat-rate', '120', '60', /Counted twice/],
  ['sprint', '10', '36', /Reading in metre per second instead of kilometre per hour/],
  ['heading', '200', '20', /Reversed: half a turn off/],
] as const)
  test(`what a newcomer types tells the slip: ${template}`, async ({ page }) => {
    await open(page, template, 'true-up#slip');
    const form = page.getByRole('region', { name: 'Find a mistake' });
    await form.getByLabel(/^Reading, /).fill(shown);
    await form.getByLabel(/^Expected value/).fill(expected);
    await form.getByRole('button', { name: 'Find the mistake' }).click();
    await expect(
      page.getByRole('region', { name: 'Find a mistake' }).getByRole('listitem').first(),
    ).toContainText(slip);
  });

test('blow meter: a wrong gain is found by the slip finder, taken out on trial and undone', async ({
  page,
}) => {
  const id = await open(page, 'impact-peak', 'line');
  // The maker has typed half the amplifier's gain.
  await page
    .getByRole('region', { name: 'Stages' })
    .getByRole('button', { name: /^Load cell/ })
    .click();
  await page.getByLabel('Amplifier gain').fill('64');
  await page.getByRole('button', { name: 'Save line' }).click();
  await expect(page.getByText('Line saved.')).toBeVisible();
  await fetch(`${DEMO}/api/gadgets/${id}/link`, {
    method: 'PATCH',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ condition: '20kg' }),
  });
  await page
    .getByRole('navigation', { name: 'Steps' })
    .getByRole('link', { name: /True-up/ })
    .click();
  await expect(async () => expect(await shown(page)).toBeGreaterThan(350)).toPass({ timeout: 20_000 });
  const slips = page.getByRole('region', { name: 'Find a mistake' });
  await slips.getByLabel('Expected value, N').fill('196');
  await slips.getByRole('button', { name: 'Find the mistake' }).click();
  const finder = page.getByRole('region', { name: 'Find a mistake' });
  const gain = finder
    .getByRole('listitem')
    .filter({ hasText: /[Gg]ain/ })
    .first();
  await gain.getByRole('button', { name: /^Apply correction: The amplifier’s gain is 128/ }).click();
  await expect(async () => expect(Math.abs((await shown(page)) - 196)).toBeLessThan(13)).toPass({
    timeout: 20_000,
  });
  await page.getByRole('navigation', { name: 'Steps' }).getByRole('link', { name: /Line/ }).click();
  await page.getByRole('region', { name: 'Stages' }).getByRole('button', { name: 'Undo' }).click();
  // The needle shows the last blow there; the reading stands beside it.
  const reading = page
    .getByRole('list', { name: 'Values for the needle' })
    .getByRole('button', { name: /^Reading/ });
  await expect(reading).toContainText(/[34]\d\d(\.\d)? N/, { timeout: 20_000 });
});

test('dye checker: dark and blank for all lamps, rules between them compared, a dilution series, the vat within its interval', async ({
  page,
}) => {
  const id = await open(page, 'absorbance', 'true-up');
  const hurry = (speed: number) =>
    fetch(`${DEMO}/api/gadgets/${id}/link`, {
      method: 'PATCH',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ speed }),
    });
  await hurry(5);
  const capture = page.getByRole('region', { name: 'Capture a point' });
  const put = (where: string) => capture.getByLabel('Simulated condition').selectOption({ label: where });
  const card = page.getByRole('region', { name: 'Dark and blank' });
  const cells = async (row: RegExp) =>
    (await card.getByRole('row', { name: row }).getByRole('cell').allInnerTexts()).map((t) =>
      Number.parseFloat(t.replace('−', '-')),
    );

  await put('Lamps off, lid shut');
  await expect(card.getByTestId('lamps-state')).toHaveText('✓ dark and steady', { timeout: 20_000 });
  await card.getByRole('button', { name: 'Capture dark' }).click();
  await expect(page.getByText('Dark counts saved in all lines.')).toBeVisible();

  await put('Clear water, lid open in sunlight');
  await expect(card.getByRole('alert')).toContainText('saturating the detector');
  await expect(card.getByRole('button', { name: 'Capture blank' })).toBeDisabled();

  await put('Clear water');
  await expect(card.getByRole('alert')).toBeHidden();
  await expect(card.getByTestId('lamps-state')).toHaveText('✓ bright and steady', { timeout: 20_000 });
  await card.getByRole('button', { name: 'Capture blank' }).click();
  await expect(page.getByText('Blank saved in all lines.')).toBeVisible();
  await expect(async () => {
    for (const nm of [470, 525, 560, 590, 625])
      expect(Math.abs((await cells(new RegExp(`${nm} nm`)))[3]!)).toBeLessThan(0.02);
  }).toPass();

  // Twice the dye, twice the absorbance.
  await put('Standard of 10 mg/L');
  const at525 = async () => (await cells(/525 nm/))[3]!;
  // What it comes to stands for some seconds of the gadget's own.
  let ten = Number.NaN;
  await expect(async () => {
    const [before, after] = [await at525(), (await page.waitForTimeout(1500), await at525())];
    expect(after).toBeGreaterThan(0.1);
    expect(Math.abs(after / before - 1)).toBeLessThan(0.02);
    ten = after;
  }).toPass({ timeout: 20_000 });
  await put('Standard of 20 mg/L');
  await expect(async () => expect((await at525()) / ten).toBeCloseTo(2, 1)).toPass({ timeout: 20_000 });

  const spectrum = page.getByRole('region', { name: 'Spectrum' });
  for (const rule of ['piecewise linear', 'shape-preserving (PCHIP)', 'natural cubic', 'single polynomial'])
    await expect(spectrum.getByRole('row', { name: rule })).toContainText(/5\d\d nm/);
  await expect(spectrum).toContainText(/differ by up to 0\.\d{3}/);

  // What the dye's strength is needs standards: the blank and dilutions of one stock, one of them kept out as a check.
  await page.getByRole('button', { name: 'Dye concentration' }).click();
  const sample = page.getByRole('region', { name: 'Sample' });
  await expect(sample).toContainText('No active calibration yet.');
  const reference = capture.getByLabel('Reference');
  const kept = page.getByRole('table', { name: 'Points' }).locator('tbody tr');
  // On a busy machine the page shows what was in the glass before for as long as it takes.
  const keep = async (where: string, mgL: number, role: RegExp) => {
    await put(where);
    const absorbance = (ten * mgL) / 10;
    await expect(async () =>
      expect(Math.abs((await at525()) - absorbance)).toBeLessThan(0.01 + 0.05 * absorbance),
    ).toPass({ timeout: 20_000 });
    await expect(capture.getByRole('status')).toContainText('✓ steady');
    const before = await kept.count();
    await capture.getByRole('button', { name: role }).click();
    await expect(kept).toHaveCount(before + 1);
  };
  await reference.selectOption({ label: 'Blank' });
  await keep('Clear water', 0, /Capture point/);
  await reference.selectOption({ label: 'Diluted stock solution' });
  await capture.getByLabel('Volume taken').fill('200');
  await expect(capture.getByRole('alert')).toContainText('must be smaller than the final volume');
  await capture.getByLabel('Made up to').fill('100');
  for (const mgL of [2, 5, 10, 20, 40]) {
    await capture.getByLabel('Volume taken').fill(String(mgL));
    await keep(`Standard of ${mgL} mg/L`, mgL, mgL === 10 ? /Capture as check/ : /Capture point/);
  }
  const verdict = page.getByRole('region', { name: 'Verdict at the check point' });
  await expect(verdict.getByTestId('verdict')).toContainText(/Within ±1/);
  await expect(page.getByRole('region', { name: 'Fit', exact: true })).toContainText(
    /Dilution line\s*★ recommended/,
  );
  await verdict.getByRole('button', { name: 'Use this calibration' }).click();
  await expect(verdict.getByRole('button', { name: '✓ Active: calibration 1' })).toBeVisible();

  await put('Vat, diluted tenfold');
  await sample.getByRole('button', { name: 'Diluted', exact: true }).click();
  await expect(async () => {
    const told = sample.getByTestId('strength');
    const [value, uncertainty] = [
      Number(await told.getAttribute('data-value')),
      Number(await told.getAttribute('data-uncertainty')),
    ];
    expect(Math.abs(value - VAT_MG_L)).toBeLessThanOrEqual(uncertainty);
    expect(uncertainty).toBeLessThan(0.03 * VAT_MG_L);
  }).toPass({ timeout: 20_000 });
  await expect(sample).toContainText(/before dilution; in the cuvette [\d.]+ ±[\d.]+ mg\/L, 95 % confidence/);
  await put('Standard of 5 mg/L');
  await sample.getByRole('button', { name: 'Undiluted' }).click();
  await expect(sample.getByTestId('strength')).toContainText(/^[45]\.\d+ ±0\.\d+ mg\/L in the cuvette/);
  await put('Vat, undiluted');
  await expect(sample.getByRole('alert')).toContainText(/dilute it/i);
  await hurry(1);
});

test('cloth: drags there and back give the counts a millimetre, and one too fast is seen', async ({
  page,
}) => {
  await open(page, 'displacement', 'true-up');
  const card = page.getByRole('region', { name: 'Drags along a ruler' });
  await page.getByRole('button', { name: '×5' }).click();
  const rows = card.getByRole('table', { name: 'Drags' }).locator('tbody tr');
  const drag = async (where: string, told: RegExp) => {
    await move(page, 'Cloth at rest');
    await steady(page, 0);
    const before = await rows.count();
    await card.getByRole('button', { name: 'Start a drag' }).click();
    await move(page, where);
    const counts = card.getByRole('status');
    await expect(counts).toContainText(told);
    // The drag is over once nothing more is counted.
    let counted = '';
    await expect
      .poll(
        async () => {
          const [then, now] = [counted, await counts.innerText()];
          counted = now;
          return then === now;
        },
        { intervals: [2500, 1000], timeout: 20_000 },
      )
      .toBe(true);
    await card.getByRole('button', { name: 'Stop and save' }).click();
    await expect(rows).toHaveCount(before + 1);
  };
  await drag('300 mm along the ruler, x', /along x, forwards/);
  await drag('300 mm back, x', /along x, backwards/);
  await drag('300 mm along the ruler, y', /along y, forwards/);
  await expect(card.getByTestId('drags')).toContainText('Along x, forwards minus backwards');
  await expect(card.getByText('slipped, or too fast to track?')).toHaveCount(0);
  await drag('300 mm, too fast for the sensor', /along x, forwards/);
  const odd = rows.filter({ hasText: 'slipped, or too fast to track?' });
  await expect(odd).not.toHaveCount(0);
  await rows.last().getByRole('button', { name: 'Exclude' }).click();
  await expect(card.getByText('slipped, or too fast to track?')).toHaveCount(0);
  await card.getByRole('button', { name: 'Use this calibration' }).click();
  await expect(page.getByText('Counts per millimetre corrected. Calibration 1 is now active.')).toBeVisible();
  await page.getByRole('button', { name: '×1', exact: true }).click();
});

test('spindle: the strobe beside it tells whether its clock is right', async ({ page }) => {
  await open(page, 'rotation', 'true-up');
  const card = page.getByRole('region', { name: 'Compare the rate over time' });
  await page.getByRole('button', { name: '×20' }).click();
  await move(page, 'Water on: spin-up, then steady');
  await expect.poll(() => shown(page), { timeout: 30_000 }).toBeGreaterThan(100);
  await steady(page, 0.2);
  await page.getByRole('button', { name: '×1', exact: true }).click();
  await card.getByRole('button', { name: 'Start', exact: true }).click();
  await expect(card.getByRole('status')).toContainText(/in (4|5|6|7|8|9|\d\d+)(\.\d+)? s/, {
    timeout: 60_000,
  });
  await card.getByLabel('Reference').selectOption({ label: 'Comparison instrument' });
  await card.getByRole('button', { name: 'Stop', exact: true }).click();
  await card.getByRole('button', { name: 'Save comparison' }).click();
  await expect(card.getByTestId('time-base')).toContainText(
    /True rate relative to the reading: .* s per day/,
  );
  await card.getByTestId('time-base').getByRole('button', { name: 'Use this calibration' }).click();
  await expect(page.getByText('Time base corrected. Calibration 1 is now active.')).toBeVisible();
  await move(page, 'Stopped');
});

test('a reference of one’s own is kept on the shelf, offered by name, and told when it is overdue', async ({
  page,
}) => {
  await page.goto(`${DEMO}/shelf`);
  await page.getByRole('link', { name: 'References', exact: true }).click();
  await page.getByRole('button', { name: 'Add a reference' }).click();
  const form = page.getByRole('form', { name: 'New reference' });
  await form.getByLabel('Name').fill('Thermometer from the dairy');
  await form.getByLabel('Unit').selectOption('degC');
  await form.getByLabel('Value').fill('20');
  await form.getByLabel('Uncertainty ± (k = 2)').fill('0.2');
  await form.getByLabel('Last checked').fill('2023-05-04');
  await form.getByRole('button', { name: 'Add to shelf' }).click();
  const list = page.getByRole('list', { name: 'Your references' });
  await expect(list).toContainText('⚠ check overdue since 4 May 2025');

  await open(page, 'several-temperatures', 'true-up?ch=p3');
  const card = page.getByRole('region', { name: 'Capture a point' });
  await card.getByLabel('Reference').selectOption({ label: 'Thermometer from the dairy (overdue)' });
  await expect(card).toContainText('check overdue since 4 May 2025. Have it checked before relying on it.');

  await page.goto(`${DEMO}/shelf/references`);
  await list.getByRole('button', { name: 'Mark as checked today' }).click();
  await expect(list).toContainText(/next check due/);
  await list.getByRole('button', { name: /Remove .* from the shelf/ }).click();
  await expect(page.getByText('No references yet')).toBeVisible();
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(list).toContainText('Thermometer from the dairy');
});

test('a run is read again by another version, side by side', async ({ page }) => {
  await open(page, 'several-temperatures', 'runs');
  await page.getByText('First firing, oak boards').first().click();
  await page.getByText('Compare calibration versions').click();
  const told = page.getByTestId('rereduced');
  await expect(told).toContainText(/The second version differs from the first by [+−]\d+\.\d+ °C on average/);
  await expect(page.getByRole('table', { name: 'Both versions' })).toContainText('calibration 1, active');
  await page.getByRole('combobox', { name: /^compared with/ }).selectOption({ label: 'uncalibrated' });
  await expect(told).toContainText(/up to 0\.0+ °C: within/);
});

test('a calibration in use has a record of one page, a file, and a day in the calendar', async ({ page }) => {
  await open(page, 'several-temperatures', 'true-up');
  const versions = page.getByRole('region', { name: 'Calibration versions' });
  await expect(versions).toContainText('✓ active');
  await versions.getByLabel('Check again after').selectOption({ label: '6 months' });
  const fileOf = async (button: ReturnType<Page['getByRole']>) => {
    const [download] = await Promise.all([page.waitForEvent('download'), button.click()]);
    return readFileSync(await download.path(), 'utf8');
  };
  // Kept with the version, and told among all that is due.
  await expect(versions).toContainText(/Check again after.*\d+ \w{3} 20\d\d/);
  const json = await fileOf(versions.getByRole('button', { name: 'Save version 1 as JSON' }));
  expect(JSON.parse(json)).toMatchObject({ form: 'calibration', calibration: { number: 1 } });
  await page.emulateMedia({ media: 'print' });
  const record = page.getByTestId('record');
  await expect(record).toContainText('Calibration record');
  await expect(record).toContainText('Ice slurry');
  await expect(record).toContainText(/Pass\. .*Within ±1/);
  const pdf = await page.pdf({ format: 'A4' });
  expect(pdf.toString('latin1').match(/\/Type\s*\/Page\b/g)).toHaveLength(1);
  await page.emulateMedia({ media: 'screen' });
  await page.goto(DEMO);
  const due = page.getByRole('region', { name: 'Checks due' });
  await expect(due).toContainText('Nothing is overdue.');
  await expect(due.getByRole('link', { name: 'Drying-kiln probes: Probe 1, door side' })).toBeVisible();
  const calendar = await fileOf(due.getByRole('link', { name: 'Download calendar file' }));
  expect(calendar).toContain('BEGIN:VEVENT');
  expect(calendar).toMatch(/SUMMARY:Calibrate Drying-kiln probes/);
});

test(
  'a marked stretch of a recording is a point, if it stands still',
  { tag: '@slice' },
  async ({ page }) => {
    await open(page, 'several-temperatures', 'true-up?ch=p4');
    const card = page.getByRole('region', { name: 'Capture a point' });
    await card.getByText('Use a run instead').click();
    await card.getByLabel('Run to capture from').selectOption({ label: 'First firing, oak boards' });
    const take = async (from: string, to: string) => {
      await card.getByLabel('From', { exact: true }).fill(from);
      await card.getByLabel('To', { exact: true }).fill(to);
      await card.getByRole('button', { name: 'Use this section' }).click();
    };
    await take('100', '300');
    await expect(card.getByRole('alert')).toContainText(/[Ss]till changing/);
    await take('2075', '2085');
    await expect(card.getByText(/✓ \d+(\.\d+)? counts over \d+ readings/)).toBeVisible();
    await card.getByLabel('Reference').selectOption({ label: 'Comparison thermometer' });
    await card.getByLabel('Reading').fill('60');
    await card.getByRole('button', { name: /Capture point/ }).click();
    await expect(page.getByRole('table', { name: 'Points' }).locator('tbody tr')).toHaveCount(1);
  },
);
