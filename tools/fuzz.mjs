// Draws so many broken files, requests and messages of each kind: npm run fuzz -- 10000 [seed]. The report names what failed.
import { spawnSync } from 'node:child_process';

const [rounds = '10000', seed = String(Date.now() % 1e6)] = process.argv.slice(2);
console.log(`${rounds} of each kind, seed ${seed}`);
const { status } = spawnSync(
  'node_modules/.bin/vitest',
  ['run', '--project', 'server', 'server/test/fuzz.test.ts', '--testTimeout=3600000', '--reporter=verbose'],
  { stdio: 'inherit', env: { ...process.env, FUZZ: rounds, FUZZ_SEED: seed } },
);
process.exit(status ?? 1);
