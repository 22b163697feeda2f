import { spawnSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { afterEach, expect, it } from 'vitest';

const LINT = resolve(import.meta.dirname, '../../tools/words/lint.mjs');
const folders: string[] = [];
afterEach(() => folders.splice(0).forEach((path) => rmSync(path, { recursive: true })));

/** What the lint for words says of one planted file. */
function judge(name: string, text: string, ...options: string[]): { status: number | null; said: string } {
  const folder = mkdtempSync(join(tmpdir(), 'needle-words-'));
  folders.push(folder);
  writeFileSync(join(folder, name), text);
  const { status, stdout } = spawnSync('node', [LINT, folder, ...options], { encoding: 'utf8' });
  return { status, said: stdout };
}

it.each([
  [
    'a literal',
    'a.ts',
    "export const text = 'Reads 3 ppm, give or take 2.';",
    /“give or take” — say “uncertainty ±…”/,
  ],
  ['a template', 'a.ts', 'export const f = (n: number) => `${n} readings a second come.`;', /say “per”/],
  [
    'a template with a choice',
    'a.ts',
    "export const f = (x: boolean) => `It ${x ? 'is not known' : 'is'}.`;",
    /“not known”/,
  ],
  [
    'JSX in pieces',
    'a.tsx',
    'export const A = () => <p>The line is <b>as</b> bought.</p>;',
    /“as bought” — say “uncalibrated”/,
  ],
  [
    'an attribute',
    'a.tsx',
    'export const A = () => <input aria-label="It comes when" />;',
    /never begins with “It”/,
  ],
  [
    'punctuation that a value is joined with',
    'a.tsx',
    'export const A = ({ n }: { n: string }) => <p>Near {n} , from 0.</p>;',
    /no blank before punctuation/,
  ],
  [
    'an ordinal made of a number',
    'a.ts',
    'export const f = (n: number) => `every ${n}th of them`;',
    /ordinals break/,
  ],
  ['a page', 'a.md', 'Take it out of the line.', /“Take it out” — say “remove”/],
] as const)(
  'a text that nobody would say is named with its place and the better word: %s',
  (_what, name, text, told) => {
    const { status, said } = judge(name, `\n${text}\n`);
    expect(status).toBe(1);
    expect(said).toMatch(told);
    expect(said).toMatch(new RegExp(`${name}:2:`));
  },
);

it.each([
  [
    'names in code',
    'a.ts',
    "import { x } from './the bench/worth ±.ts';\nexport const takesOut = x === 'as bought';\n",
  ],
  ['class names', 'a.tsx', 'export const A = () => <p className="not known as bought">Fine.</p>;\n'],
  ['keys that are stored', 'a.ts', "export const state = 'not shown';\n"],
  ['code on a page', 'a.md', '```\ngive or take\n```\nRun `as bought`.\n'],
])('what nobody reads is left alone: %s', (_what, name, text) => {
  expect(judge(name, text)).toMatchObject({ status: 0, said: expect.stringMatching(/use the agreed words/) });
});

it('lists the texts of a file as they are read, for a look from top to end', () => {
  const text =
    "export const A = ({ n }: { n: number }) => <p>\n  {n} of <b>{n}</b> rows{n > 1 && ' and more'}.\n</p>;\n";
  expect(judge('a.tsx', text, '--list').said).toMatch(/a\.tsx:1: \{…\} of \{…\} rows\{ and more\|\}\.\n/);
});
