// Holds the texts of the program, README and docs against the words that they should use. Part of `npm run lint`.
// With --list it prints every text of the program instead, in the order of the files, to be read through.
// Folders and pages may be named; all of them when none is.
import { existsSync, readdirSync, readFileSync, statSync } from 'node:fs';
import { join } from 'node:path';
import { textsOf } from './extract.mjs';
import { faultsOf } from './rules.mjs';

const PROGRAM = ['core/src', 'server/src', 'web/src', 'demo/src'];
const PAGES = ['README.md', 'docs'];

const named = process.argv.slice(2).filter((arg) => !arg.startsWith('--'));
const roots = (named.length > 0 ? named : [...PROGRAM, ...PAGES]).filter((path) => existsSync(path));
const files = roots.flatMap((path) =>
  statSync(path).isFile()
    ? [path]
    : readdirSync(path, { recursive: true })
        .map((name) => join(path, name))
        .toSorted(),
);

/** Prose of a page, without its code. */
function proseOf(file) {
  let inCode = false;
  return readFileSync(file, 'utf8')
    .split('\n')
    .flatMap((text, k) => {
      if (/^\s*```/.test(text)) inCode = !inCode;
      return inCode || text.startsWith('<!--')
        ? []
        : [{ line: k + 1, text: text.replace(/`[^`]*`/g, '`…`') }];
    });
}

let count = 0;
let faults = 0;
for (const file of files) {
  const texts = /\.tsx?$/.test(file) ? textsOf(file) : /\.md$/.test(file) ? proseOf(file) : [];
  count += texts.length;
  for (const { line, text } of texts) {
    if (process.argv.includes('--list')) console.log(`${file}:${line}: ${text}`);
    else
      for (const { found, say } of faultsOf(text)) {
        faults++;
        console.log(`${file}:${line}: “${found}” — say ${say}\n    ${text}`);
      }
  }
}
if (!process.argv.includes('--list'))
  console.log(faults > 0 ? `${faults} texts to reword.` : `${count} texts use the agreed words.`);
process.exitCode = faults > 0 ? 1 : 0;
