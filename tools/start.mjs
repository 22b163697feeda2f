// Builds what is stale and starts the server; --demo gives it a workspace of its own with Quillmere Mill in it.
import { resolve } from 'node:path';
import { build } from './build.mjs';
import { keepRunning } from './keepRunning.mjs';

const demo = process.argv.includes('--demo');
if (demo) process.env.LUCKY_NEEDLE_DATA ??= resolve('data-demo');
await build();
process.exit(await keepRunning([resolve('server/dist/main.mjs'), ...process.argv.slice(2)]));
