import { mkdtempSync } from 'node:fs';
import { availableParallelism, tmpdir } from 'node:os';
import { join } from 'node:path';
import { defineConfig } from '@playwright/test';
import { CHROMIUM } from '../tools/chromium.mjs';

/** Each has servers of its own. Two at least: much of a test is waiting for the mill. */
const WORKERS = Math.max(2, Math.min(4, availableParallelism()));
const portOf = (worker: number, which: number) => 4671 + 10 * worker + which;
const worker = Number(process.env['TEST_PARALLEL_INDEX'] ?? 0);
export const DEMO_PORT = portOf(worker, 0);
export const EMPTY_PORT = portOf(worker, 1);

/** One for all: the mill with weeks behind it, which nothing else is done to. */
export const PAST_PORT = 4669;

const server = (port: number, args: string) => ({
  command: `node ../server/dist/main.mjs ${args}`,
  url: `http://127.0.0.1:${port}/api/health`,
  reuseExistingServer: false,
  env: {
    PORT: String(port),
    MQTT_PORT: '0',
    LUCKY_NEEDLE_FOLLOW: tmpdir(),
    LUCKY_NEEDLE_DATA: mkdtempSync(join(tmpdir(), 'needle-e2e-')),
  },
});

// Those tagged @slice are what `npm test` runs of them: short ones, one or two for each part of the program.
export default defineConfig({
  testDir: '.',
  outputDir: '../test-results',
  timeout: 240_000,
  expect: { timeout: 30_000 },
  workers: WORKERS,
  fullyParallel: true,
  forbidOnly: true,
  reporter: [['list'], ['json', { outputFile: '../test-results/e2e.json' }]],
  use: {
    trace: 'off',
    launchOptions: CHROMIUM,
  },
  webServer: [
    ...Array.from({ length: WORKERS }, (_, k) => [
      server(portOf(k, 0), '--demo --without-past'),
      server(portOf(k, 1), ''),
    ]).flat(),
    server(PAST_PORT, '--demo'),
  ],
});
