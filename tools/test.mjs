// The checks of the project: types, lint, format, unit, server, and of the browser's tests a slice; with --whole all of them.
// The last line counts over all of them.
import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { build } from './build.mjs';
import { ofBrowser, ofUnits } from './failures.mjs';

const OUT = 'test-results';
const isWhole = process.argv.includes('--whole');
// Of what is drawn from seeds, a quick run looks at a part.
if (!isWhole) Object.assign(process.env, { FIGURE_SEEDS: '15', COVERAGE_TRIALS: '25' });
rmSync(OUT, { recursive: true, force: true });
mkdirSync(OUT, { recursive: true });

/** Runs a command and shows its output in one piece when it ends, since several run at once; one that hangs is ended. */
function run(command, args, { cwd = '.', minutes = 20 } = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { cwd, stdio: ['ignore', 'pipe', 'pipe'] });
    const said = [];
    for (const stream of [child.stdout, child.stderr]) {
      stream.setEncoding('utf8');
      stream.on('data', (piece) => said.push(piece));
    }
    const timer = setTimeout(() => child.kill('SIGKILL'), minutes * 60_000);
    child.on('error', () => resolve(false));
    child.on('close', (code) => {
      clearTimeout(timer);
      process.stdout.write(said.join(''));
      resolve(code === 0);
    });
  });
}

const bin = (name) => `node_modules/.bin/${name}`;
const ORDER = ['types', 'lint', 'format', 'core', 'server', 'web', 'browser'];
const results = [];
const failures = [];
const note = (suite, passed, failed) => {
  results.push({ suite, passed, failed });
  console.log(`\n== ${suite}: ${passed} passed, ${failed} failed`);
};

async function check(suite, command, args) {
  const good = await run(command, args);
  note(suite, good ? 1 : 0, good ? 0 : 1);
}

/** A suite that ran no test, or whose runner died, counts as a failure of its own. */
function count(suite, good, file, read, failuresOf) {
  let passed = 0;
  let failed = 0;
  if (existsSync(file)) {
    const report = JSON.parse(readFileSync(file, 'utf8'));
    ({ passed, failed } = read(report));
    failures.push(...failuresOf(report));
  }
  if (passed + failed === 0) {
    console.log(`${suite} ran no test.`);
    failed = 1;
  } else if (!good && failed === 0) failed = 1;
  note(suite, passed, failed);
}

async function unit(project, ...more) {
  const file = `${OUT}/${project}.json`;
  const good = await run(bin('vitest'), [
    'run',
    '--project',
    project,
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${file}`,
    ...more,
  ]);
  count(project, good, file, (r) => ({ passed: r.numPassedTests, failed: r.numFailedTests }), ofUnits);
}

// What has been looked at and did not change is not looked at again; eslint is told so in package.json.
const CACHED = ['--cache', '--cache-strategy=content', '--cache-location=.cache/prettier'];
const asWritten = () =>
  Promise.all([
    check('types', 'node', ['tools/types.mjs']),
    check('lint', 'npm', ['run', '--silent', 'lint']),
    check('format', bin('prettier'), ['--check', '--log-level=warn', ...CACHED, '.']),
  ]);

// The server's tests wait as much as they compute, so they go beside those that only compute. By itself the runner leaves a core free.
const units = () =>
  Promise.all([
    unit('server', '--maxWorkers=3'),
    unit('core', '--maxWorkers=2').then(() => unit('web', '--maxWorkers=2')),
  ]);

async function browser() {
  const good = await run(
    '../node_modules/.bin/playwright',
    ['test', ...(isWhole ? [] : ['--grep', '@slice'])],
    { cwd: 'e2e', minutes: 25 },
  );
  count(
    'browser',
    good,
    `${OUT}/e2e.json`,
    ({ stats }) => ({ passed: stats.expected, failed: stats.unexpected + stats.flaky }),
    ofBrowser,
  );
}

// A quick run has the browser's slice beside what is checked without running anything: its tests wait more than they compute.
if (isWhole) {
  await asWritten();
  await units();
  await build({ force: true });
  await browser();
} else {
  await build({ force: true });
  await Promise.all([asWritten(), browser()]);
  await units();
}

const total = (key) => results.reduce((sum, r) => sum + r[key], 0);
for (const failure of failures) console.log(`\nFailed: ${failure}`);
console.log('');
results.sort((a, b) => ORDER.indexOf(a.suite) - ORDER.indexOf(b.suite));
for (const r of results) console.log(`${r.suite.padEnd(8)} ${r.passed} passed, ${r.failed} failed`);
// Set before the last line is written, so that nothing can follow it.
process.exitCode = total('failed') === 0 ? 0 : 1;
if (!isWhole)
  console.log('\nOnly some of the browser tests ran. npm run test:whole runs all of them, as CI does.');
console.log(`\n${total('passed')} passed, ${total('failed')} failed`);
