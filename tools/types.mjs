// Checks the types of everything: the core by itself, which knows neither Node nor a browser, then what runs in either.
// By the compiler that is a native program, in a fifth of the time; lint, which asks for types from within, has the older one.
import { spawnSync } from 'node:child_process';

const PROJECTS = ['core', 'tsconfig.server-side.json', 'tsconfig.browser-side.json'];

const good = PROJECTS.map(
  (project) =>
    spawnSync('node', ['node_modules/typescript-native/bin/tsc', '-p', project], { stdio: 'inherit' })
      .status === 0,
);
process.exit(good.every(Boolean) ? 0 : 1);
