// Bundles the bench as the server is bundled, so that what is measured is what ships, and runs it.
import { mkdirSync } from 'node:fs';
import { pathToFileURL } from 'node:url';
import { resolve } from 'node:path';
import { build } from 'esbuild';

const out = resolve('node_modules/.cache/bench/main.mjs');
mkdirSync(resolve('node_modules/.cache/bench'), { recursive: true });
await build({
  entryPoints: ['tools/bench/main.ts'],
  bundle: true,
  platform: 'node',
  format: 'esm',
  outfile: out,
  logLevel: 'warning',
});
await import(pathToFileURL(out).href);
