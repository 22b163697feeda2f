// One current picture of each main view, from a fresh demo at 1280x800, into docs/screenshots/.
import { spawn } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { chromium } from '@playwright/test';
import { build } from './build.mjs';
import { CHROMIUM } from './chromium.mjs';

const OUT = 'docs/screenshots';
const PORT = '4673';
const BASE = `http://127.0.0.1:${PORT}`;
const data = mkdtempSync(join(tmpdir(), 'needle-shots-'));

await build();
mkdirSync(OUT, { recursive: true });
const server = spawn('node', ['server/dist/main.mjs', '--demo'], {
  env: { ...process.env, PORT, LUCKY_NEEDLE_DATA: data },
  stdio: 'inherit',
});
try {
  // The server answers while the mill is still being let in.
  const { items } = await answered(`${BASE}/api/gadgets?limit=200`, (body) => body.items.length === 14);
  const of = (template) => `${BASE}/g/${items.find((g) => g.template === template).id}`;
  const gadget = of('several-temperatures');
  const browser = await chromium.launch(CHROMIUM);
  const shoot = async (
    name,
    address,
    { theme = 'light', waitMs = 1500, width = 1280, height = 800, press = '' } = {},
  ) => {
    const context = await browser.newContext({ viewport: { width, height }, colorScheme: theme });
    const page = await context.newPage();
    await page.goto(address);
    await page.locator('h1').waitFor();
    await page.waitForTimeout(waitMs);
    if (press) await page.getByRole('button', { name: press, exact: true }).click();
    await page.screenshot({ path: `${OUT}/${name}.png` });
    await context.close();
    console.log(`${OUT}/${name}.png`);
  };
  const change = (template, path, method, body) =>
    fetch(`${BASE}/api/gadgets/${items.find((g) => g.template === template).id}/${path}`, {
      method,
      headers: { 'Content-Type': 'application/json' },
      body: JSON.stringify(body),
    }).then((answer) => answer.json());
  // The sieve runs, and the hammer is at work.
  await change('motion-counter', 'link', 'PATCH', { condition: 'shaking' });
  await change('impact-peak', 'link', 'PATCH', { condition: 'blows' });
  // A minute of readings first, so that live plots have something to show, and the weeks before are in.
  await new Promise((done) => setTimeout(done, 45_000));
  await shoot('workshop', BASE);
  await shoot('shelf', `${BASE}/shelf`);
  await shoot('help', `${BASE}/help`);
  await shoot('brief', `${of('gas-watch')}/brief`);
  await shoot('pick', `${of('impact-peak')}/pick?slot=blow`);
  await shoot('bring-up', `${gadget}/hook-up?tab=sheet`);
  await shoot('hook-up-dark', `${of('cell-bench')}/hook-up`, { theme: 'dark' });
  for (const page of ['hook-up', 'true-up', 'prove', 'logbook']) await shoot(page, `${gadget}/${page}`);
  await shoot('face', `${of('heading')}/face`, { press: 'Edit layout', height: 1000 });
  const { items: studies } = await fetch(
    `${BASE}/api/gadgets/${items.find((g) => g.template === 'sprint').id}/studies`,
  ).then((answer) => answer.json());
  const agreement = studies.find(({ study }) => study.kind === 'agreement').study;
  await shoot('study', `${of('sprint')}/prove/${agreement.id}`, { height: 1000 });
  await shoot('link', `${gadget}/link`, { waitMs: 3000 });
  await shoot('line', `${of('motion-counter')}/line`, { waitMs: 3000, height: 1180 });
  await shoot('runs', `${of('crossing-timer')}/runs`, { waitMs: 5000, height: 1400 });
  await shoot('true-up-guided', `${of('ac-power')}/true-up?ch=p`, { waitMs: 3000 });
  const wall = ['gas-watch', 'several-temperatures', 'ac-power', 'heading', 'rotation', 'cell-bench']
    .map((template) => items.find((g) => g.template === template).id)
    .join(',');
  await shoot('wall', `${BASE}/wall?g=${wall}`, { theme: 'dark', waitMs: 3000 });
  await shoot('true-up-phone', `${gadget}/true-up`, { width: 375, height: 812 });
  await browser.close();
} finally {
  server.kill('SIGTERM');
  await new Promise((done) => server.once('exit', done));
  rmSync(data, { recursive: true, force: true });
}

async function answered(address, isWhole) {
  for (let i = 0; i < 100; i++) {
    const answer = await fetch(address).catch(() => null);
    const body = answer?.ok ? await answer.json() : null;
    if (body && isWhole(body)) return body;
    await new Promise((done) => setTimeout(done, 200));
  }
  throw new Error(`The server did not answer at ${address}.`);
}
