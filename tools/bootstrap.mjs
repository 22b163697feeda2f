// Makes sure that the packages are installed as the lock file says and, with --browser, that a Chromium is there.
// Uses nothing but Node itself, because it runs before anything is installed.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';

function fail(message) {
  console.error(message);
  process.exit(1);
}

function run(command, args, options = {}) {
  return spawnSync(command, args, { stdio: 'inherit', ...options }).status === 0;
}

const [major, minor] = process.versions.node.split('.').map(Number);
if (!((major === 20 && minor >= 15) || (major === 22 && minor >= 2) || major > 22)) {
  fail(`Lucky Needle needs Node 20.15 or newer; this is ${process.version}.`);
}

const wanted = createHash('sha256').update(readFileSync('package-lock.json')).digest('hex');
const marker = 'node_modules/.lucky-needle-lock';
if (!existsSync(marker) || readFileSync(marker, 'utf8') !== wanted) {
  console.log('Installing packages, about two minutes the first time…');
  if (!run('npm', ['ci', '--include=dev', '--no-audit', '--no-fund']))
    fail('The packages could not be installed; see above.');
}

if (process.argv.includes('--browser')) {
  ensureChromium();
  ensureBroker();
}

/** A stock broker that links are tested against; without one that test is skipped, so it is no reason to fail. */
function ensureBroker() {
  if (existsSync('/usr/sbin/mosquitto')) return;
  if (!aptInstalls('mosquitto'))
    console.log('mosquitto was not found: the test against a standard broker is skipped.');
}

function aptInstalls(name) {
  if (process.getuid?.() !== 0 || !existsSync('/usr/bin/apt-get')) return false;
  console.log(`Installing ${name} from the Debian packages…`);
  const quiet = { env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' } };
  return run('apt-get', ['update', '-qq'], quiet) && run('apt-get', ['install', '-y', '-qq', name], quiet);
}

function ensureChromium() {
  const path = process.env.CHROMIUM_PATH ?? '/usr/bin/chromium';
  if (existsSync(path)) return;
  if (process.env.CHROMIUM_PATH) fail(`CHROMIUM_PATH is ${path}, but there is no such file.`);
  if (aptInstalls('chromium') && existsSync(path)) return;
  fail(
    'The browser tests need Chromium. Install it (on Debian: apt-get install chromium), or set CHROMIUM_PATH to where it is.',
  );
}
