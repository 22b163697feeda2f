// Checks the types of everything: the core by itself, which knows neither Node nor a browser, then what runs in either.
import { spawn } from 'node:child_process';

const check = (project) =>
  new Promise((done) => {
    const child = spawn('node', ['node_modules/typescript/bin/tsc', '-p', project], { stdio: 'inherit' });
    child.on('close', (code) => done(code === 0));
  });

const good = [
  await check('core'),
  ...(await Promise.all([check('tsconfig.server-side.json'), check('tsconfig.browser-side.json')])),
];
process.exit(good.every(Boolean) ? 0 : 1);
