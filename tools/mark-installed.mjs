// Remembers which lock file node_modules was installed from, so that bootstrap.mjs can tell when it is stale.
import { createHash } from 'node:crypto';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';

if (existsSync('package-lock.json') && existsSync('node_modules')) {
  const hash = createHash('sha256').update(readFileSync('package-lock.json')).digest('hex');
  writeFileSync('node_modules/.lucky-needle-lock', hash);
}
