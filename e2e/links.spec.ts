import { spawn } from 'node:child_process';
import { appendFileSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test, type Page } from './test.ts';
import { EMPTY_PORT } from './playwright.config.ts';

const BASE = `http://127.0.0.1:${EMPTY_PORT}`;

async function newGadget(page: Page, name: string): Promise<string> {
  const answer = await fetch(`${BASE}/api/gadgets`, {
    method: 'POST',
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ template: 'several-temperatures', name }),
  });
  const { id } = (await answer.json()) as { id: string };
  await page.goto(`${BASE}/g/${id}/link`);
  await page.getByRole('heading', { level: 1, name: 'Link' }).waitFor();
  return id;
}

const state = (page: Page) => page.getByRole('region', { name: 'Link health' }).getByRole('status');

/** A port as browsers have it, that plays a board: prints lines until its cable is pulled, and again when it is back. */
function standInPort(page: Page) {
  return page.addInitScript(() => {
    const board = { pulled: false, n: 0, opened: [] as number[] };
    const port = {
      readable: null as ReadableStream<Uint8Array> | null,
      async open({ baudRate }: { baudRate: number }) {
        if (board.pulled) throw new Error('no such device');
        board.opened.push(baudRate);
        const encoder = new TextEncoder();
        this.readable = new ReadableStream({
          async pull(controller) {
            await new Promise((done) => setTimeout(done, 50));
            if (board.pulled) return controller.close();
            const n = ++board.n;
            // Cut in the middle, as a port does.
            const line = `${n * 100};${500 + (n % 7)};480;${512 + (n % 3)};505\r\n`;
            controller.enqueue(encoder.encode(line.slice(0, 5)));
            controller.enqueue(encoder.encode(line.slice(5)));
          },
        });
      },
      async close() {},
    };
    Object.assign(window, { board });
    Object.defineProperty(navigator, 'serial', {
      value: Object.assign(new EventTarget(), {
        requestPort: async () => port,
        getPorts: async () => [port],
      }),
    });
  });
}

test('a board on a cable is read by the page, understood from its lines, and taken up again after the cable was out', async ({
  page,
}) => {
  await standInPort(page);
  await newGadget(page, 'Probes on a cable');
  await page.getByText('Serial cable').click();
  await page.getByRole('button', { name: 'Set up link' }).click();
  await expect(state(page)).toContainText('no readings');
  await page.getByRole('button', { name: 'Choose port' }).click();
  await expect(state(page)).toContainText('receiving readings');
  const lines = page.getByRole('region', { name: 'Incoming lines' });
  await expect(lines).toContainText('Detected automatically: numbers, separated by semicolons.');
  await expect(lines.getByLabel(/^Time(?! unit)/)).toHaveValue('1');
  await expect(page.getByRole('contentinfo')).toContainText(/1\d(\.\d+)? readings\/s|\d\d readings\/s/);

  // Another field for a column, kept.
  await lines.getByLabel('Raw p1').selectOption('4');
  await lines.getByRole('button', { name: 'Use this mapping' }).click();
  await expect(page.getByText('Line format saved.')).toBeVisible();
  await expect(lines).toContainText('Read as numbers, separated by');

  // It is the page's cable, not one page's: another page of the bench shows the readings.
  await page
    .getByRole('link', { name: /^.*Line/ })
    .first()
    .click();
  await expect(page.getByTestId('needle-shown')).toContainText('°C');

  await page.evaluate(() => ((window as never as { board: { pulled: boolean } }).board.pulled = true));
  await expect(page.getByRole('contentinfo')).toContainText('no readings', { timeout: 15_000 });
  await page.getByRole('contentinfo').getByRole('link').click();
  await expect(page.getByRole('region', { name: 'Serial cable' })).toContainText('reconnecting');
  await page.evaluate(() => ((window as never as { board: { pulled: boolean } }).board.pulled = false));
  await expect(state(page)).toContainText('receiving readings', { timeout: 15_000 });
  await page.getByRole('button', { name: 'Disconnect' }).click();
  await expect(page.getByRole('region', { name: 'Serial cable' })).toContainText('not connected');
});

test(
  'a gadget that sends by itself gets an address and a token, and a new one when that is lost',
  { tag: '@slice' },
  async ({ page }) => {
    await newGadget(page, 'Probes by radio');
    await page.getByText('Gadget sends over HTTP').click();
    await page.getByRole('button', { name: 'Set up link' }).click();
    const token = page.getByTestId('push-token');
    await expect(token).toHaveText(/^[\w-]{32}$/);
    const first = await token.innerText();
    const address = /http\S+/.exec(await page.getByTestId('push-example').innerText())![0];
    let seq = 0;
    const send = (by: string, count: number) =>
      fetch(address, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', Authorization: `Bearer ${by}` },
        body: JSON.stringify({
          readings: Array.from({ length: count }, () => ({
            t: seq / 10,
            seq: seq++,
            values: { p1: 500 + (seq % 5), p2: 490, p3: 512, p4: 505 },
          })),
        }),
      });
    expect((await send(first, 30)).status).toBe(200);
    await expect(state(page)).toContainText('receiving readings');
    seq += 5;
    await send(first, 20);
    await expect(page.getByRole('region', { name: 'Link health' })).toContainText(/Lost readings\s*5/);
    await page.getByRole('button', { name: 'Create a new token' }).click();
    await expect(token).not.toHaveText(first);
    expect((await send(first, 1)).status).toBe(401);
    expect((await send(await token.innerText(), 1)).status).toBe(200);
    // The token is told once: it is not there when the page is opened again.
    await page.reload();
    await expect(page.getByText('The token was shown once')).toBeVisible();
  },
);

test('a log file is followed, its odd lines are counted, and a broken simulated gadget is seen to be broken', async ({
  page,
}) => {
  const folder = mkdtempSync(join(tmpdir(), 'needle-log-'));
  const file = join(folder, 'kiln.log');
  writeFileSync(file, '');
  let n = 0;
  const timer = setInterval(() => {
    n++;
    appendFileSync(file, n % 10 === 0 ? 'bus: no answer\n' : `p1=${500 + (n % 5)} p2=490 p3=512 p4=505\n`);
  }, 50);
  try {
    await newGadget(page, 'Probes in a file');
    await page.getByText('Log file').click();
    await page.getByLabel(/File path/).fill('/etc/passwd');
    await page.getByRole('button', { name: 'Set up link' }).click();
    await expect(page.getByRole('alert')).toContainText('outside the folders allowed for log files');
    await page.getByLabel(/File path/).fill(file);
    await page.getByRole('button', { name: 'Set up link' }).click();
    await expect(state(page)).toContainText('receiving readings');
    await expect(page.getByRole('region', { name: 'Incoming lines' }).getByRole('status')).toContainText(
      /\d+ of the last \d+ lines readable/,
    );
    await expect(page.getByRole('contentinfo')).toContainText(/unreadable lines/);
  } finally {
    clearInterval(timer);
    rmSync(folder, { recursive: true });
  }
  await page.getByRole('button', { name: 'Remove link' }).click();
  await page.getByRole('radio', { name: /Simulated gadget/ }).check();
  await page.getByRole('button', { name: 'Set up link' }).click();
  await page.getByLabel('Replace one line in twenty with noise').click();
  await expect(page.getByRole('contentinfo')).toContainText(/unreadable lines/, { timeout: 30_000 });
});

test('a recording goes on through a pulled cable and a server that was away, and marks the gap', async ({
  page,
}) => {
  const port = 4675;
  const base = `http://127.0.0.1:${port}`;
  const data = mkdtempSync(join(tmpdir(), 'needle-away-'));
  const start = async () => {
    const child = spawn(process.execPath, ['../server/dist/main.mjs'], {
      env: { ...process.env, PORT: String(port), MQTT_PORT: '0', LUCKY_NEEDLE_DATA: data },
      stdio: 'ignore',
    });
    await expect(async () => expect((await fetch(`${base}/api/health`)).ok).toBe(true)).toPass();
    return child;
  };
  const post = async (path: string, body: object) =>
    (
      await fetch(`${base}${path}`, {
        method: 'POST',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(body),
      })
    ).json();
  let server = await start();
  try {
    const { id } = (await post('/api/gadgets', { template: 'several-temperatures', name: 'Probes' })) as {
      id: string;
    };
    await post(`/api/gadgets/${id}/link`, { settings: { kind: 'simulated' }, mapping: null });
    await page.goto(`${base}/g/${id}/runs`);
    await page.getByLabel('Name').fill('Cut through');
    await page.getByRole('button', { name: 'Record', exact: true }).click();
    const committed = page.getByTestId('committed');
    await expect(committed).toContainText(/[1-9]\d+ raw rows saved to disk/);
    await expect(page.getByText(/disk space for .*\d/)).toBeVisible();
    const plug = (plugged: boolean) =>
      fetch(`${base}/api/gadgets/${id}/link`, {
        method: 'PATCH',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ plugged }),
      });
    await plug(false);
    await expect(page.getByText('No data from the link; the gap will be marked.')).toBeVisible();
    await page.waitForTimeout(1500);
    await plug(true);
    await expect(page.getByText('No data from the link; the gap will be marked.')).toBeHidden();
    await page.getByRole('button', { name: 'Add marker' }).click();
    await page.getByRole('button', { name: 'Stop', exact: true }).click();
    const run = page.getByRole('region', { name: 'Cut through' });
    await run.getByText('1 data issue').click();
    await expect(run).toContainText(/No readings for \d+\.\d s before/);
    await expect(run.getByRole('list', { name: 'Markers' })).toContainText('marker 1');

    // The page stays open while the server is gone, and goes on by itself.
    server.kill('SIGTERM');
    await expect(page.getByRole('contentinfo')).toContainText('server not responding; retrying');
    server = await start();
    await expect(page.getByRole('contentinfo')).toContainText(/\d readings\/s/, { timeout: 30_000 });
    await expect(page.getByRole('contentinfo')).toContainText('● Simulated gadget');
  } finally {
    server.kill('SIGKILL');
    await new Promise((done) => setTimeout(done, 300));
    rmSync(data, { recursive: true, force: true });
  }
});
