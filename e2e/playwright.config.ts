import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { defineConfig } from '@playwright/test';
import { CHROMIUM } from '../tools/chromium.mjs';

export const DEMO_PORT = 4671;
export const EMPTY_PORT = 4672;

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

export default defineConfig({
  testDir: '.',
  outputDir: '../test-results',
  timeout: 150_000,
  expect: { timeout: 15_000 },
  workers: 1,
  forbidOnly: true,
  reporter: [['list'], ['json', { outputFile: '../test-results/e2e.json' }]],
  use: {
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    actionTimeout: 15_000,
    trace: 'off',
    launchOptions: CHROMIUM,
  },
  webServer: [server(DEMO_PORT, '--demo'), server(EMPTY_PORT, '')],
});
