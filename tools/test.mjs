// Every check of the project: types, lint, format, unit, server, browser. The last line counts over all of them.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { build } from './build.mjs';

const OUT = 'test-results';
rmSync(OUT, { recursive: true, force: true });
mkdirSync(OUT, { recursive: true });

/** Runs a command with its output shown; a command that hangs is ended. */
function run(command, args, { cwd = '.', minutes = 6 } = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { cwd, stdio: ['ignore', 'inherit', 'inherit'] });
    const timer = setTimeout(() => child.kill('SIGKILL'), minutes * 60_000);
    child.on('error', () => resolve(false));
    child.on('exit', (code) => {
      clearTimeout(timer);
      resolve(code === 0);
    });
  });
}

const bin = (name) => `node_modules/.bin/${name}`;
const results = [];
const note = (suite, passed, failed) => {
  results.push({ suite, passed, failed });
  console.log(`\n== ${suite}: ${passed} passed, ${failed} failed`);
};

async function check(suite, command, args) {
  console.log(`\n== ${suite}`);
  const good = await run(command, args);
  note(suite, good ? 1 : 0, good ? 0 : 1);
}

/** A suite that ran no test, or whose runner died, counts as a failure of its own. */
function count(suite, good, file, read) {
  let passed = 0;
  let failed = 0;
  if (existsSync(file)) ({ passed, failed } = read(JSON.parse(readFileSync(file, 'utf8'))));
  if (passed + failed === 0) {
    console.log(`${suite} ran no test.`);
    failed = 1;
  } else if (!good && failed === 0) failed = 1;
  note(suite, passed, failed);
}

async function unit(project) {
  console.log(`\n== ${project}`);
  const file = `${OUT}/${project}.json`;
  const good = await run(bin('vitest'), [
    'run',
    '--project',
    project,
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${file}`,
  ]);
  count(project, good, file, (r) => ({ passed: r.numPassedTests, failed: r.numFailedTests }));
}

await check('types', 'node', ['tools/types.mjs']);
await check('lint', bin('eslint'), ['.', '--max-warnings=0']);
await check('format', bin('prettier'), ['--check', '--log-level=warn', '.']);
for (const project of ['core', 'server', 'web']) await unit(project);
console.log('\n== browser');
await build({ force: true });
const good = await run('../node_modules/.bin/playwright', ['test'], { cwd: 'e2e', minutes: 10 });
count('browser', good, `${OUT}/e2e.json`, ({ stats }) => ({
  passed: stats.expected,
  failed: stats.unexpected + stats.flaky,
}));

const total = (key) => results.reduce((sum, r) => sum + r[key], 0);
console.log('');
for (const r of results) console.log(`${r.suite.padEnd(8)} ${r.passed} passed, ${r.failed} failed`);
// Set before the last line is written, so that nothing can follow it.
process.exitCode = total('failed') === 0 ? 0 : 1;
console.log(`\n${total('passed')} passed, ${total('failed')} failed`);
