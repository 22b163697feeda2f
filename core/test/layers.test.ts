import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join, resolve } from 'node:path';
import { afterEach, expect, it } from 'vitest';

const ROOT = resolve(import.meta.dirname, '../..');
const folders: string[] = [];
afterEach(() => folders.splice(0).forEach((path) => rmSync(path, { recursive: true })));

/** What the rules say of some planted files. */
function judge(files: Readonly<Record<string, string>>): { status: number | null; said: string } {
  const folder = mkdtempSync(join(tmpdir(), 'needle-layers-'));
  folders.push(folder);
  for (const [name, text] of Object.entries(files)) {
    mkdirSync(dirname(join(folder, name)), { recursive: true });
    writeFileSync(join(folder, name), text);
  }
  const { status, stdout } = spawnSync(
    join(ROOT, 'node_modules/.bin/depcruise'),
    ['--config', join(ROOT, '.dependency-cruiser.cjs'), 'core'],
    { cwd: folder, encoding: 'utf8' },
  );
  return { status, said: stdout };
}

it('an import from a lower layer to a higher one is refused by name', () => {
  const { status, said } = judge({
    'core/src/units/a.ts': "import { b } from '../plan/b.ts';\nexport const a = b;\n",
    'core/src/plan/b.ts': 'export const b = 1;\n',
  });
  expect(status).not.toBe(0);
  expect(said).toMatch(/units, numerics, filters know none of .*units\/a\.ts → core\/src\/plan\/b\.ts/);
});

it('files that go round in a circle are refused, also by type only', () => {
  const { status, said } = judge({
    'core/src/line/a.ts': "import type { B } from './b.ts';\nexport type A = B | 1;\n",
    'core/src/line/b.ts': "import type { A } from './a.ts';\nexport type B = A | 2;\n",
  });
  expect(status).not.toBe(0);
  expect(said).toMatch(/no circle/);
});

it('an import downwards is none of their business', () => {
  const { status } = judge({
    'core/src/plan/b.ts': "import { a } from '../units/a.ts';\nexport const b = a;\n",
    'core/src/units/a.ts': 'export const a = 1;\n',
  });
  expect(status).toBe(0);
});
