// The whole of the endurance tests: fifty killed recordings, two hundred gadgets for a minute. Takes about five minutes.
import { spawnSync } from 'node:child_process';

const { status } = spawnSync(
  'node_modules/.bin/vitest',
  ['run', '--project', 'server', 'server/test/endurance.test.ts'],
  { stdio: 'inherit', env: { ...process.env, ENDURANCE: 'whole' } },
);
process.exit(status ?? 1);
