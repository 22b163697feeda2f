// Checks the types of every workspace.
import { spawnSync } from 'node:child_process';

const projects = ['tools', 'core', 'core/tsconfig.test.json', 'demo', 'server', 'web', 'e2e'];
let bad = 0;
for (const project of projects) {
  if (
    spawnSync('node', ['node_modules/typescript/bin/tsc', '-p', project], { stdio: 'inherit' }).status !== 0
  )
    bad++;
}
process.exit(bad === 0 ? 0 : 1);
