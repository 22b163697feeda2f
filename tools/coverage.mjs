// How often intervals hold the truth, over a thousand seeds, for every fit and guided true-up; writes the table of
// docs/formulas.md. Takes a few minutes.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { format, resolveConfig } from 'prettier';

const TRIALS = 1000;
const DOC = 'docs/formulas.md';
const folder = mkdtempSync(join(tmpdir(), 'coverage-'));
const file = join(folder, 'rows.json');
const { status } = spawnSync(
  'node_modules/.bin/vitest',
  ['run', '--project', 'core', '--test-timeout', '600000', 'core/test/coverage.test.ts'],
  { stdio: 'inherit', env: { ...process.env, COVERAGE_TRIALS: String(TRIALS), COVERAGE_ROWS: file } },
);
const { fits, guided } = JSON.parse(readFileSync(file, 'utf8'));
rmSync(folder, { recursive: true });

const table = (head, rows) =>
  [head, head.map(() => '---'), ...rows].map((row) => `| ${row.join(' | ')} |`).join('\n');
const text = [
  table(['fit', 'points', 'constants', 'band', 'width', 'band of a bent sensor'], fits),
  table(['guided true-up', 'evidence', 'constants'], guided),
].join('\n\n');
const [before, rest] = readFileSync(DOC, 'utf8').split('<!-- coverage -->');
const after = rest?.split('<!-- end of coverage -->')[1];
if (after === undefined) throw new Error(`${DOC} has no place for the table (<!-- coverage -->).`);
const whole = `${before}<!-- coverage -->\n\n${text}\n\n<!-- end of coverage -->${after}`;
writeFileSync(DOC, await format(whole, { ...(await resolveConfig(DOC)), filepath: DOC }));
process.exit(status ?? 1);
