// Bundles the benches as the server is bundled, so that what is measured is what ships, and runs them.
import { mkdirSync } from 'node:fs';
import { pathToFileURL } from 'node:url';
import { resolve } from 'node:path';
import { build as bundle } from 'esbuild';
import { build } from './build.mjs';

const folder = resolve('node_modules/.cache/bench');
mkdirSync(folder, { recursive: true });
await build();
const only = ['readings', 'push', 'trials'].find((name) => process.argv.includes(`--${name}`));
const names = only === 'readings' ? ['store'] : only ? [only] : ['main', 'trials', 'store', 'push'];
for (const name of names) {
  const out = resolve(folder, `${name}.mjs`);
  await bundle({
    entryPoints: [`tools/bench/${name}.ts`],
    bundle: true,
    platform: 'node',
    format: 'esm',
    outfile: out,
    external: ['@playwright/test'],
    logLevel: 'warning',
  });
  await import(pathToFileURL(out).href);
}
