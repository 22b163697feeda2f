import { expect, test, type Page } from './test.ts';
import type { Gadget } from '@lucky-needle/core/model';
import { ask, DEMO } from './ask.ts';
import { EMPTY_PORT } from './playwright.config.ts';

async function openRuns(page: Page): Promise<string> {
  const { items } = (await (await fetch(`${DEMO}/api/gadgets`)).json()) as {
    items: { id: string; template: string }[];
  };
  const { id } = items.find((g) => g.template === 'several-temperatures')!;
  await page.goto(`${DEMO}/g/${id}/runs`);
  await page.getByRole('heading', { level: 1, name: 'Runs' }).waitFor();
  return id;
}

const file = (name: string, text: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(text) });
async function bringIn(page: Page, sent: ReturnType<typeof file>): Promise<void> {
  await page.getByLabel('Files to import').setInputFiles(sent);
  await page
    .getByRole('form', { name: 'Import' })
    .getByRole('button', { name: 'Import', exact: true })
    .click();
  // Once the card has gone, nothing below it moves any more.
  await expect(page.getByRole('form', { name: 'Import' })).toBeHidden();
}
const table = (rows: number) =>
  `seconds;fühler 1;p2;feuchte\n${Array.from({ length: rows }, (_, i) => `${i / 2};${600 - i};${610 - i};55`).join('\n')}\nend of file\n`;

test(
  'a file is looked at before anything is stored, mapped to raw columns, and known when it comes again',
  { tag: '@slice' },
  async ({ page }) => {
    await openRuns(page);
    const input = page.getByLabel('Files to import');
    await input.setInputFiles(file('bath.txt', 'once upon a time\nthere was a mill\n'));
    await expect(page.getByRole('alert')).toContainText('No column separator found');
    await input.setInputFiles(file('bath.txt', table(200)));
    const form = page.getByRole('form', { name: 'Import' });
    await expect(form).toContainText(
      /kB, delimited text \(CSV\); time: column 1, seconds, about 2\.00 rows per second/,
    );
    await expect(form.getByLabel('Import p2 as')).toHaveValue('p2');
    await expect(form.getByLabel('Import fühler 1 as')).toHaveValue('');
    await form.getByLabel('Import fühler 1 as').selectOption('p1');
    await form.getByRole('button', { name: 'Import', exact: true }).click();
    const run = page.getByRole('region', { name: 'bath' });
    await expect(run).toContainText('Probe 1, door side');
    await expect(run).toContainText('1 data issue');
    await expect(page.getByRole('list', { name: 'Runs' })).toContainText('200 raw rows');

    await input.setInputFiles(file('the same again.txt', table(200)));
    await expect(form).toContainText('This file has already been imported as “bath”.');
    await form.getByRole('button', { name: 'Cancel import' }).click();
    await expect(form).toBeHidden();
  },
);

test('a run is looked at closer, cut, marked, split, deleted and brought back', async ({ page }) => {
  await openRuns(page);
  await bringIn(page, file('rod.csv', table(400)));
  const run = page.getByRole('region', { name: 'rod', exact: true });
  const list = page.getByRole('list', { name: 'Runs' });
  await run.getByRole('button', { name: 'Zoom in' }).click();
  await run.getByRole('button', { name: 'Keep only this section' }).click();
  await expect(list).toContainText('100 raw rows');
  await run.getByRole('button', { name: 'Restore the whole run' }).click();
  await expect(list).toContainText('400 raw rows');

  await run.getByText('Measure between two times').click();
  await run.getByLabel('Cursor A').fill('10');
  await run.getByLabel('Cursor B').fill('20');
  const between = run.getByRole('table', { name: 'Values at the cursors' });
  await expect(between).toContainText(/Probe 2, loft side\s*\d+\.\d+ °C\s*\d+\.\d+ °C\s*[+−]\d/);
  await expect(
    between.getByRole('row', { name: /Probe 2/ }).getByRole('link', { name: 'Looks wrong?' }),
  ).toHaveAttribute('href', /\/true-up\?ch=[^#]+#slip$/);
  await run.getByRole('textbox', { name: /^Time/ }).fill('50');
  await run.getByLabel('Marker text').fill('lid off');
  await run.getByRole('button', { name: 'Add marker' }).click();
  await expect(run.getByRole('list', { name: 'Markers' })).toContainText('50.0 s lid off');
  await run.getByRole('textbox', { name: /^Time/ }).fill('50');
  await run.getByRole('button', { name: 'Split here' }).click();
  await expect(list).toContainText('rod, part 2');
  await expect(list.getByRole('listitem').filter({ hasText: 'rod, part 2' })).toContainText('300 raw rows');

  // Both laid over each other, then one again.
  await page.getByLabel('Add rod to the overlay').check();
  await page.getByLabel('Add rod, part 2 to the overlay').check();
  const over = page.getByRole('region', { name: 'Overlay' });
  await expect(over.getByRole('list', { name: 'Runs in the overlay' })).not.toContainText('loading');
  await over.getByLabel('Align at').selectOption('passes');
  await over.getByLabel('Level').fill('1000');
  await expect(over).toContainText('has no such point');
  await over.getByRole('button', { name: 'Join into one run' }).click();
  await expect(page.getByRole('region', { name: /joined/ })).toBeVisible();
  await expect(list.getByRole('listitem').filter({ hasText: ', joined' })).toContainText('400 raw rows');

  await list.getByRole('button', { name: /^rod, part 2/ }).click();
  await page
    .getByRole('region', { name: 'rod, part 2', exact: true })
    .getByRole('button', { name: 'Delete' })
    .click();
  await expect(page.getByText('“rod, part 2” deleted.')).toBeVisible();
  await expect(list).not.toContainText('rod, part 2');
  await page.getByRole('button', { name: 'Undo' }).click();
  await expect(list).toContainText('rod, part 2');
});

test('ten thousand readings a look at any zoom: out to all, in to a few', async ({ page }) => {
  await openRuns(page);
  const rows = 300_000;
  const text = `time [s],p1 raw [count]\n${Array.from({ length: rows }, (_, i) => `${i / 10},${500 + ((i * 7) % 13) + (i === 123_456 ? 400 : 0)}`).join('\n')}\n`;
  await bringIn(page, file('long.csv', text));
  const run = page.getByRole('region', { name: 'long', exact: true });
  const channels = run.getByRole('list', { name: 'Channels' });
  await expect(channels).toContainText(' to ');
  const whole = (await channels.textContent())!;
  for (let i = 0; i < 3; i++) await run.getByRole('button', { name: 'Zoom in' }).click();
  // The one spike lies outside what is looked at now.
  await expect(channels).not.toHaveText(whole);
  for (let i = 0; i < 9; i++) {
    const closer = run.getByRole('button', { name: 'Zoom in' });
    if (await closer.isDisabled()) break;
    await closer.click();
  }
  await expect(run.getByRole('button', { name: 'Zoom in' })).toBeDisabled();
  await run.getByRole('button', { name: 'Whole run' }).click();
  await expect(channels).toHaveText(whole);
});

test('a plot is moved along and zoomed on itself, and what goes above a level is found', async ({ page }) => {
  await openRuns(page);
  // Two thousand seconds, warm but for two cold minutes: the thermistor's counts fall with warmth.
  const text = `time [s],p1 raw [count]\n${Array.from(
    { length: 2000 },
    (_, i) => `${i},${(i >= 400 && i < 520) || (i >= 900 && i < 1020) ? 700 : 300 + (i % 3)}`,
  ).join('\n')}\n`;
  await bringIn(page, file('two cold minutes.csv', text));
  const run = page.getByRole('region', { name: 'two cold minutes', exact: true });
  const shown = run.getByRole('group', { name: 'Section' });
  await expect(shown).toContainText('all 33.3 min');
  const ends = async () => {
    const found = /([\d.]+) to ([\d.]+) min/.exec(await shown.innerText());
    if (!found) throw new Error('All of it is shown.');
    return [Number(found[1]), Number(found[2])] as const;
  };
  await run.getByRole('img').scrollIntoViewIfNeeded();
  const box = (await run.getByRole('img').boundingBox())!;
  const middle = { x: box.x + box.width / 2, y: box.y + box.height / 2 };

  await page.mouse.move(middle.x, middle.y);
  // Each step is seen before the next: else the last may come to be shown after the ends were read.
  await page.keyboard.down('Control');
  for (let step = 0; step === 0 || (await ends())[1] - (await ends())[0] >= 20; step++) {
    const told = (await shown.textContent())!;
    await page.mouse.wheel(0, -120);
    await expect(shown).not.toHaveText(told);
  }
  await page.keyboard.up('Control');
  const before = await ends();

  await page.keyboard.down('Shift');
  await page.mouse.down();
  await page.mouse.move(middle.x - 200, middle.y, { steps: 12 });
  await page.mouse.up();
  await page.keyboard.up('Shift');
  await expect(async () => expect((await ends())[0]).toBeGreaterThan(before[0] + 1)).toPass();
  const after = await ends();
  // Both ends are told to a tenth of a minute.
  expect(Math.abs(after[1] - after[0] - (before[1] - before[0]))).toBeLessThan(0.25);

  // The pointer may be anywhere while the next look comes in.
  for (let round = 0; round < 6; round++) {
    await page.keyboard.down('Control');
    await page.mouse.wheel(0, round % 2 === 0 ? -300 : 300);
    await page.keyboard.up('Control');
    for (let i = 0; i < 8; i++) {
      await page.mouse.move(box.x + box.width * (0.05 + 0.11 * i), box.y + box.height * (0.3 + 0.05 * i));
      await page.waitForTimeout(50);
    }
  }
  await expect(shown).toBeVisible();

  // A drag without keys looks closer at what it went over.
  await page.mouse.move(middle.x - 100, middle.y);
  await page.mouse.down();
  await page.mouse.move(middle.x + 100, middle.y, { steps: 8 });
  await page.mouse.up();
  await expect(async () =>
    expect((await ends())[1] - (await ends())[0]).toBeLessThan((after[1] - after[0]) * 0.6),
  ).toPass();
  await run.getByRole('button', { name: 'Whole run' }).click();

  await run.getByText('Find sections above or below a level').click();
  await run.getByLabel('Above or below').selectOption('below');
  await run.getByLabel(/^Level/).fill('3O');
  await expect(run.getByRole('alert')).toContainText('“3O” is not a number.');
  await run.getByLabel(/^Level/).fill('50');
  await run.getByRole('button', { name: 'Find', exact: true }).click();
  await expect(run).toContainText('2 sections below that level, 4.00 min in total.');
  const rows = run.getByRole('table', { name: 'Sections' }).locator('tbody tr');
  await expect(rows).toHaveCount(2);
  await rows.nth(1).getByRole('button', { name: 'Show' }).click();
  await expect(async () => {
    const [from, to] = await ends();
    expect(from).toBeCloseTo(13, 0);
    expect(to).toBeCloseTo(19, 0);
  }).toPass();
  await expect(rows).toHaveCount(1);
});

test('the whole workspace goes out as one file and comes back', async ({ page }) => {
  const base = `http://127.0.0.1:${EMPTY_PORT}`;
  const make = (name: string) =>
    fetch(`${base}/api/gadgets`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify({ template: 'empty', name }),
    });
  await make('Kept in the backup');
  await page.goto(base);
  const card = page.getByRole('region', { name: 'Backup' });
  const [download] = await Promise.all([
    page.waitForEvent('download'),
    card.getByRole('link', { name: 'Back up now' }).click(),
  ]);
  const path = await download.path();
  await make('Made after the backup');
  await page.reload();
  await expect(page.getByRole('link', { name: 'Made after the backup' })).toBeVisible();
  const input = page.getByLabel('Backup file to restore');
  await input.setInputFiles({
    name: 'notes.zip',
    mimeType: 'application/zip',
    buffer: Buffer.from('no zip'),
  });
  await card.getByRole('button', { name: 'Replace and restore' }).click();
  await expect(card.getByRole('alert')).toContainText('not a zip file');
  await input.setInputFiles(path);
  await card.getByRole('button', { name: 'Replace and restore' }).click();
  await expect(page.getByText(/Workspace backup of .* restored\./)).toBeVisible();
  await expect(page.getByRole('link', { name: 'Kept in the backup' })).toBeVisible();
  await expect(page.getByRole('link', { name: 'Made after the backup' })).toHaveCount(0);
  // And what was here before by one click.
  await card.getByRole('button', { name: 'Undo restore' }).click();
  await expect(page.getByRole('link', { name: 'Made after the backup' })).toBeVisible();
});

test('twenty files come in one after the other, a run each; one that is no run of this gadget says why', async ({
  page,
}) => {
  const { id } = await ask<Gadget>('/gadgets', 'POST', { template: 'rotation', name: 'Twenty' });
  const fileOf = (k: number) => ({
    name: `spin ${String(k).padStart(2, '0')}.csv`,
    mimeType: 'text/csv',
    buffer: Buffer.from(
      `time,edges,edge_us\n${Array.from({ length: 60 }, (_, i) => `${i / 10},${i * k},${i * 100000 + k}`).join('\n')}\n`,
    ),
  });
  const files = Array.from({ length: 20 }, (_, k) => fileOf(k + 1));
  const other = {
    name: 'other.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('time,wind\n0,1\n1,2\n2,3\n'),
  };
  await page.goto(`${DEMO}/g/${id}/runs`);
  await page.getByLabel('Files to import').setInputFiles([...files.slice(0, 9), other, ...files.slice(9)]);
  const card = page.getByRole('region', { name: 'Batch import' });
  await expect(card.getByRole('heading')).toHaveText('20 of 21 files imported, 1 not imported', {
    timeout: 60_000,
  });
  await expect(card.getByText('No column for edges, edge_us. Import this file on its own.')).toBeVisible();
  await card.getByRole('button', { name: 'Done' }).click();
  await expect(page.getByRole('list', { name: 'Runs' }).getByRole('listitem')).toHaveCount(20);
  // The same files once more are here already.
  await page.getByLabel('Files to import').setInputFiles(files.slice(0, 2));
  await expect(card.getByRole('heading')).toHaveText('0 of 2 files imported, 2 already imported');
  await ask(`/gadgets/${id}`, 'DELETE');
});
