import type { Gadget, NowReading } from '@lucky-needle/core/model';
import { compileLine, invertLine } from '@lucky-needle/core/line';
import { proposedAlarms } from '@lucky-needle/core/plan';
import { createWorld } from '@lucky-needle/core/simulate';
import { expect, test, type Page } from './test.ts';
import { truedVane, truthOf } from './hiddenTruth.ts';
import { pushLink } from './pushLink.ts';
import { DEMO_PORT } from './playwright.config.ts';

const DEMO = `http://127.0.0.1:${DEMO_PORT}`;

const call = async <T>(method: string, path: string, body?: object, headers: Record<string, string> = {}) =>
  (await (
    await fetch(`${DEMO}${path}`, {
      method,
      headers: { 'Content-Type': 'application/json', ...headers },
      ...(body ? { body: JSON.stringify(body) } : {}),
    })
  ).json()) as T;

/** A gadget of a template with a simulated board at twenty times the pace, looked at on its Face. */
async function open(page: Page, template: string): Promise<Gadget> {
  const gadget = await call<Gadget>('POST', '/api/gadgets', { template, name: `${template} face` });
  await call('POST', `/api/gadgets/${gadget.id}/link`, { settings: { kind: 'simulated' }, mapping: null });
  await drive(gadget.id, { speed: 20 });
  await page.goto(`${DEMO}/g/${gadget.id}/face`);
  await page.getByRole('heading', { level: 1 }).waitFor();
  return gadget;
}
const drive = (id: string, change: object) => call('PATCH', `/api/gadgets/${id}/link`, change);
const alarm = (page: Page, name: string) =>
  page
    .getByRole('list', { name: 'Alarms' })
    .getByRole('listitem')
    .filter({
      has: page.getByRole('button', { name: new RegExp(`^Edit ${name}`) }),
    });

test('ammonia at its dose sounds while ferment vapour is quiet, and nothing is quiet before it is known', async ({
  page,
}) => {
  const { id } = await open(page, 'gas-watch');
  await expect(page.getByTestId('alarm')).toHaveAttribute('data-state', 'none');
  await page.getByRole('button', { name: 'Add suggested alarms' }).click();
  const ammonia = alarm(page, 'Ammonia high');
  await expect(ammonia).toContainText('limit 20 ppm');
  await drive(id, { condition: 'ammonia' });
  // Without a part that was picked nobody knows how long it warms up; the element reads high only once it is warm.
  // As bought the element may read a quarter too little: caution sounds as well.
  await expect(ammonia).toHaveAttribute('data-state', /caution|limit/, { timeout: 60_000 });
  await expect(alarm(page, 'Fermentation vapour high')).toHaveAttribute('data-state', 'quiet');
  await expect(page.getByTestId('alarm')).toHaveAttribute('data-state', /caution|limit/);
  await expect(page.getByTestId('alarm')).toContainText('Ammonia high');
  // What goes from caution to limit meanwhile is news, and sounds until it is silenced as well.
  const silence = page.getByRole('button', { name: 'Silence for 5 min' });
  await expect(async () => {
    if (await silence.isVisible()) await silence.click({ timeout: 5_000 });
    await expect(silence).toBeHidden({ timeout: 5_000 });
  }).toPass({ timeout: 60_000 });
  await drive(id, { plugged: false });
  // What is on stays on; what was quiet is not known.
  await expect(alarm(page, 'Fermentation vapour high')).toHaveAttribute('data-state', 'unknown', {
    timeout: 20_000,
  });
  await expect(ammonia).toHaveAttribute('data-state', /caution|limit/);
  await expect(alarm(page, 'No readings')).toHaveAttribute('data-state', 'limit', { timeout: 20_000 });
});

test('a vane in its sector across north, on a display of pixels that can be heard, and another that does not fit', async ({
  page,
}) => {
  const gadget = await call<Gadget>('POST', '/api/gadgets', { template: 'heading', name: 'Vane face' });
  const { id } = gadget;
  // Its world is known, and its iron is taken out: it reads what it points at.
  const truth = truthOf<'wind-vane'>(12);
  const world = createWorld(truth);
  const channels = [truedVane(gadget.channels[0]!, truth)];
  await call('PATCH', `/api/gadgets/${id}`, { channels }, { 'If-Match': `"${gadget.version}"` });
  const send = await pushLink(id, 10);
  const points = (condition: string) => {
    world.setCondition(condition);
    return send(100, () => {
      const counts = world.step(0.1);
      return Object.fromEntries(world.columns.map((name, k) => [name, counts[k]!]));
    });
  };
  await page.goto(`${DEMO}/g/${id}/face`);
  await page.getByRole('button', { name: 'Add suggested alarms' }).click();
  const sector = alarm(page, 'In the shutters’ sector');
  await expect(sector).toHaveAttribute('data-state', 'unknown');
  // A gadget that is silent for a while has no heading any more: it sends until it is told.
  const told = (condition: string, state: string) =>
    expect(async () => {
      await points(condition);
      await expect(sector).toHaveAttribute('data-state', state, { timeout: 2000 });
    }).toPass({ timeout: 30_000 });
  await told('south', 'quiet');
  await told('north', 'limit');
  await page
    .getByRole('combobox', { name: 'Display', exact: true })
    .selectOption({ label: 'Reflective memory display, 144 × 168' });
  const display = page.getByRole('figure', {
    name: /Display: Wind vane \d+ °; LIMIT In the shutters’ sector/,
  });
  await expect(async () => {
    await points('north');
    await expect(display).toContainText('144 × 168 pixels', { timeout: 1000 });
  }).toPass();
  await page.getByLabel('Shown with it').selectOption({ label: 'Compass rose' });
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Display saved.')).toBeVisible();
});

test('a probe that is stuck is no quiet one, and a wall tells it from across the room', async ({ page }) => {
  const { id } = await open(page, 'several-temperatures');
  await page.getByRole('button', { name: 'Add suggested alarms' }).click();
  const sensor = alarm(page, 'Probe 1: sensor');
  await expect(sensor).toHaveAttribute('data-state', 'quiet', { timeout: 30_000 });
  await drive(id, { speed: 50, faults: { dropOuts: 0, noise: 0, stuck: 'p1' } });
  await expect(sensor).toHaveAttribute('data-state', 'limit', { timeout: 60_000 });
  await expect(sensor).toContainText('stuck');
  await expect(page.getByTestId('lamp-amber')).toHaveAttribute('data-state', 'flashing');
  await expect(page.getByTestId('lamp-green')).toHaveAttribute('data-state', 'off');
  await page.getByRole('link', { name: 'Wall view' }).click();
  const tile = page.getByRole('region', { name: 'several-temperatures face' });
  await expect(tile.getByRole('status')).toHaveText(/Limit/);
  await expect(tile).toContainText('Probe 1: sensor');
  await expect(tile.getByTestId('wall-big')).toContainText('°C');
  // The same on the gadget's own display, as it was arranged; the address keeps it.
  await page.getByRole('button', { name: 'Gadget display' }).click();
  await expect(page).toHaveURL(/as=display/);
  await page.reload();
  await expect(tile.getByRole('figure', { name: /^Display: .*°C.*LIMIT Probe 1: sensor/ })).toBeVisible();
  await page.getByRole('button', { name: 'Large numbers' }).click();
  await drive(id, { plugged: false });
  await expect(tile.getByTestId('wall-big')).not.toContainText('°C', { timeout: 20_000 });
});

test('an alarm is tried on a run with marks, and the level that it proposes is kept', async ({ page }) => {
  const gadget = await call<Gadget>('POST', '/api/gadgets', {
    template: 'several-temperatures',
    name: 'Label',
  });
  // Counts of the probes fall as they warm: for a minute, twice.
  const rows = Array.from({ length: 500 }, (_, t) => {
    const isWarm = (t >= 100 && t < 160) || (t >= 300 && t < 360);
    return `${t},${isWarm ? 300 : 700},700,700,700`;
  });
  const run = (await (
    await fetch(`${DEMO}/api/gadgets/${gadget.id}/recordings/import?name=fires`, {
      method: 'POST',
      headers: { 'Content-Type': 'text/csv' },
      body: `time [s],p1 raw [count],p2 raw [count],p3 raw [count],p4 raw [count]\n${rows.join('\n')}\n`,
    })
  ).json()) as { id: string };
  for (const timeS of [100, 300])
    await call('POST', `/api/recordings/${run.id}/markers`, { timeS, text: 'fire' });
  await page.goto(`${DEMO}/g/${gadget.id}/face`);
  // The face as it stood in the run: cool, then hot, whatever is live.
  await page.getByLabel('Source of the readings').selectOption({ label: 'fires' });
  const moment = page.getByLabel('Playback position');
  await expect(moment).toBeVisible({ timeout: 20_000 });
  const display = page.getByRole('figure', { name: /^Display: / });
  const shownAt = async (k: number) => {
    await moment.fill(String(k));
    await expect(moment).toHaveAttribute('aria-valuetext', /\d+ s of 499 s/);
    return Number(/Probe 1[^;]* (-?\d+(?:\.\d+)?) °C/.exec((await display.getAttribute('aria-label'))!)![1]);
  };
  const [cool, hot] = [await shownAt(30), await shownAt(90)];
  expect(hot).toBeGreaterThan(cool + 20);
  await page.getByRole('button', { name: 'Play' }).click();
  await expect(moment).not.toHaveValue('90');
  await page.getByRole('button', { name: 'Pause' }).click();
  await page.getByLabel('Source of the readings').selectOption({ label: 'Live' });
  await expect(display).toHaveAccessibleName(/no link/);
  await page.getByRole('button', { name: 'Add suggested alarms' }).click();
  const card = page.getByRole('region', { name: 'Test an alarm on a run' });
  await card.getByLabel('Actual events').selectOption({ label: 'at markers “fire”' });
  await card.getByRole('button', { name: 'Test' }).click();
  await expect(card.getByTestId('alarm-trial')).toContainText(/0 of 2 caught, 2 missed.*No false alarms/);
  await card.getByRole('button', { name: /^Set the limit to \d+/ }).click();
  const editor = page.getByRole('form', { name: 'Alarm Probe 1 overheats' });
  await editor.getByRole('button', { name: 'Save alarm' }).click();
  await expect(page.getByText('Alarm “Probe 1 overheats” saved.')).toBeVisible();
  // What was told of the level before is gone once there is another.
  await expect(card.getByTestId('alarm-trial')).toHaveCount(0);
  await card.getByRole('button', { name: 'Test' }).click();
  await expect(card.getByTestId('alarm-trial')).toContainText(/2 of 2 caught/);
  // Two of two are not yet enough to trust it: that stands in Prove, with what would.
  await card.getByRole('button', { name: 'Save as evidence' }).click();
  await expect(card.getByTestId('alarm-kept')).toContainText(/Not proven.*2 of 2 caught does not prove 80 %/);
  await expect(card.getByTestId('alarm-kept')).toContainText('14 markers in total');
  await card.getByRole('link', { name: 'Open the study' }).click();
  await expect(page.getByRole('heading', { name: /Alarm test: Probe 1 overheats/ })).toBeVisible();
  await expect(page.getByRole('table').first()).toContainText('Probe 1 overheats');
});

test('a face arranged by drawing and by keys, with a held peak, a second page and units by button', async ({
  page,
}) => {
  const { id } = await open(page, 'several-temperatures');
  await page
    .getByRole('combobox', { name: 'Display', exact: true })
    .selectOption({ label: 'Colour display, 320 × 240' });
  await page.getByRole('button', { name: 'Edit layout' }).click();
  await page.getByRole('button', { name: 'Peak hold' }).click();
  const things = page.getByRole('group', { name: 'Items on this page' });
  const peak = things.getByRole('button', { name: /^Peak hold/ });
  const placeOf = async () => {
    const [, x, y, w, h] = /column (\d+), row (\d+), (\d+) by (\d+)/
      .exec((await peak.getAttribute('aria-label'))!)!
      .map(Number);
    return { x: x!, y: y!, w: w!, h: h! };
  };
  await peak.focus();
  const before = await placeOf();
  await page.keyboard.press('Shift+ArrowLeft');
  await page.keyboard.press('ArrowUp');
  expect(await placeOf()).toEqual({ ...before, y: before.y - 1, w: before.w - 1 });
  // By its corner: half as wide.
  const corner = (await page.getByTestId('corner').boundingBox())!;
  const box = (await peak.boundingBox())!;
  await page.mouse.move(corner.x + corner.width / 2, corner.y + corner.height / 2);
  await page.mouse.down();
  await page.mouse.move(corner.x - box.width / 4, corner.y, { steps: 4 });
  await page.mouse.move(corner.x - box.width / 2, corner.y, { steps: 4 });
  await page.mouse.up();
  const half = await placeOf();
  expect(Math.abs(half.w - before.w / 2)).toBeLessThan(3);
  // The whole: down to the foot, and never beyond it.
  await page.mouse.move(box.x + 20, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 20, box.y + 300, { steps: 4 });
  await page.mouse.move(box.x + 20, box.y + 900, { steps: 4 });
  await page.mouse.up();
  const { y, h } = await placeOf();
  expect(y - 1 + h).toBe(60);

  await page.getByRole('button', { name: 'Add page', exact: true }).click();
  await expect(page.getByRole('alert', { name: 'Does not fit on the display' })).toContainText(
    'This page is empty',
  );
  await page.getByRole('button', { name: 'Large digits' }).click();
  await page.getByRole('button', { name: 'Done' }).click();
  await page.getByLabel('Add a unit').selectOption('degF');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('Display saved.')).toBeVisible();

  await page.reload();
  const display = page.getByRole('figure', { name: /^Display: / });
  await expect(display).toHaveAccessibleName(/Probe 1[^;]* highest \d+(\.\d+)? °C/, { timeout: 30_000 });
  await page.getByRole('button', { name: 'Button A: next page' }).click();
  await expect(display).toHaveAccessibleName(/^Display: Probe 1[^;]* \d+(\.\d+)? °C(; |$)/);
  await page.getByRole('button', { name: 'Button B: next unit' }).click();
  await expect(display).toHaveAccessibleName(/ °F/);
  const { channels, face } = await call<Gadget>('GET', `/api/gadgets/${id}`);
  expect(channels[0]!.figures?.filter((f) => f.kind === 'extreme')).toHaveLength(1);
  expect(face!.pages).toHaveLength(2);
  // An alarm that asks for the second page shows it, whichever was turned to, until somebody has seen it.
  await page.getByRole('button', { name: 'Page 1', exact: true }).click();
  const stored = await call<Gadget>('GET', `/api/gadgets/${id}`);
  const [rule] = proposedAlarms(stored).filter((r) => r.kind === 'high');
  await call(
    'PATCH',
    `/api/gadgets/${id}`,
    { alarms: [{ ...rule!, caution: null, limit: -200, page: 2, lamp: 'red', latch: true }] },
    { 'If-Match': `"${stored.version}"` },
  );
  const second = page.getByRole('button', { name: 'Page 2', exact: true });
  await expect(second).toHaveAttribute('aria-pressed', 'true', { timeout: 20_000 });
  await alarm(page, rule!.name).getByRole('button', { name: 'Acknowledge' }).click();
  await expect(second).toHaveAttribute('aria-pressed', 'false', { timeout: 20_000 });
  // A smaller display: what reaches beyond it is named, and can be laid out anew.
  await page
    .getByRole('combobox', { name: 'Display', exact: true })
    .selectOption({ label: 'OLED display, 128 × 64' });
  await page.getByRole('button', { name: 'Button A: next page' }).click();
  await expect(page.getByRole('alert', { name: 'Does not fit on the display' })).toContainText(
    'extends beyond the display',
  );
  await page.getByRole('button', { name: 'Edit layout' }).click();
  await page.getByRole('button', { name: 'Reset layout' }).click();
  await expect(page.getByRole('alert', { name: 'Does not fit on the display' })).toBeHidden();
});

test('a blow of ten milliseconds at two thousand a second is not missed while the page is closed', async ({
  page,
}) => {
  const gadget = await call<Gadget>('POST', '/api/gadgets', { template: 'impact-peak', name: 'Hammer' });
  const { id } = gadget;
  const line = compileLine(gadget.channels[0]!.line, { sampleRateHz: 2000 });
  const load = (newton: number) => ({ load: Math.round(invertLine(line, newton)[0]!) });
  const send = await pushLink(id, 2000);
  await page.goto(`${DEMO}/g/${id}/face`);
  await page.getByRole('button', { name: 'Add an alarm' }).click();
  const form = page.getByRole('form', { name: /^Alarm / });
  await form.getByLabel('Name').fill('Hard impact');
  await form.getByLabel('Triggers when').selectOption({ label: 'Value is too high' });
  await form.getByLabel('Limit at').fill('1000');
  await form.getByLabel('Stays on until acknowledged').check();
  await form.getByRole('button', { name: /Keep|Save/ }).click();
  const hard = alarm(page, 'Hard impact');
  await expect(hard).toHaveAttribute('data-state', 'unknown');
  const peaks = [1100, 1234, 1050];
  for (const peak of peaks) {
    await page.goto('about:blank');
    await send(1000, () => load(2));
    let k = 0;
    await send(20, () => load(peak * Math.sin((Math.PI * (k++ + 0.5)) / 20)));
    await send(2000, () => load(-2));
    await page.goto(`${DEMO}/g/${id}/face`);
    await expect(hard).toHaveAttribute('data-state', 'limit', { timeout: 30_000 });
    await expect(hard).toContainText('The condition has cleared; waiting to be acknowledged.');
    await hard.getByRole('button', { name: 'Acknowledge' }).click();
    await expect(hard).not.toHaveAttribute('data-state', 'limit');
  }
  // Each of them was counted, and the book tells it where it went beyond its limit, on the way up.
  const [anvil] = (await call<{ channels: NowReading[] }>('GET', `/api/gadgets/${id}/now`)).channels;
  expect(anvil!.figures.find((f) => f.id === 'count')!.value).toBe(peaks.length);
  await page.goto(`${DEMO}/g/${id}/logbook`);
  await expect(page.getByText(/Alarm “Hard impact”: limit at 1,?0\d\d N/).last()).toBeVisible();
});

test(
  'an empty slot, a cell put in backwards and a wheel that stands are told by their words, everywhere',
  { tag: '@slice' },
  async ({ page }) => {
    const { id } = await open(page, 'cell-bench');
    const display = (text: RegExp) => page.getByRole('figure', { name: text });
    await drive(id, { condition: 'reversed' });
    await expect(display(/^Display: Voltage reversed/)).toBeVisible({ timeout: 20_000 });
    await drive(id, { condition: 'empty' });
    await expect(display(/^Display: Voltage empty slot/)).toBeVisible({ timeout: 20_000 });
    await drive(id, { condition: 'rest' });
    await expect(display(/^Display: Voltage 4\.\d+ V/)).toBeVisible({ timeout: 20_000 });
    // A word of the maker's own, of which a wrong one is refused with its reason.
    const words = page.getByRole('region', { name: 'Words' });
    await expect(words).toContainText('“reversed” at most −0.1 V');
    await words.getByRole('button', { name: 'Add a word' }).click();
    const form = words.getByRole('form', { name: 'New word' });
    await form.getByLabel('Word to show').fill('charged');
    await form.getByLabel(/^From/).fill('4.3');
    await form.getByLabel(/^To/).fill('4.1');
    await expect(form.getByRole('alert')).toContainText('runs from 4.3 to 4.1 V');
    await expect(form.getByRole('button', { name: 'Save word' })).toBeDisabled();
    await form.getByLabel(/^From/).fill('4');
    await form.getByLabel(/^To/).fill('');
    await form.getByRole('button', { name: 'Save word' }).click();
    await expect(display(/^Display: Voltage charged/)).toBeVisible();
    await page.goto(`${DEMO}/wall?g=${id}`);
    await expect(page.getByTestId('wall-big')).toHaveText('charged');
    const wheel = await open(page, 'rotation');
    await drive(wheel.id, { condition: 'running' });
    await expect(display(/^Display: Millstone spindle [\d.]+ rpm/)).toBeVisible({ timeout: 20_000 });
    await drive(wheel.id, { condition: 'stopped' });
    await expect(display(/^Display: Millstone spindle stopped/)).toBeVisible({ timeout: 30_000 });
    await page.goto(`${DEMO}/g/${wheel.id}/line`);
    await expect(page.getByTestId('needle-shown')).toContainText('stopped 0.0 rpm');
  },
);
