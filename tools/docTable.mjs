// Runs a test that measures something over many seeds and writes what it tells into a place of docs/formulas.md.
import { spawnSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { format, resolveConfig } from 'prettier';

const DOC = 'docs/formulas.md';

export const table = (head, rows) =>
  [head, head.map(() => '---'), ...rows].map((row) => `| ${row.join(' | ')} |`).join('\n');

/**
 * @param place name of the place: <!-- place --> and <!-- end of place --> @param test file that measures
 * @param env what it is told, beside the file for its rows @param rowsIn name of the variable that tells that file
 * @param write rows as text
 */
export async function writeDocTable({ place, test, env, rowsIn, write }) {
  const folder = mkdtempSync(join(tmpdir(), `${place}-`));
  const file = join(folder, 'rows.json');
  const { status } = spawnSync(
    'node_modules/.bin/vitest',
    ['run', '--project', 'core', '--test-timeout', '600000', test],
    { stdio: 'inherit', env: { ...process.env, ...env, [rowsIn]: file } },
  );
  const text = write(JSON.parse(readFileSync(file, 'utf8')));
  rmSync(folder, { recursive: true });
  const [before, rest] = readFileSync(DOC, 'utf8').split(`<!-- ${place} -->`);
  const after = rest?.split(`<!-- end of ${place} -->`)[1];
  if (after === undefined) throw new Error(`${DOC} has no place for the table (<!-- ${place} -->).`);
  const whole = `${before}<!-- ${place} -->\n\n${text}\n\n<!-- end of ${place} -->${after}`;
  writeFileSync(DOC, await format(whole, { ...(await resolveConfig(DOC)), filepath: DOC }));
  // One that failed stands, whatever comes behind it.
  process.exitCode ||= status ?? 1;
}
