import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export interface CProgram {
  /** File name to contents. */
  readonly files: Readonly<Record<string, string>>;
  readonly main: string;
  readonly flags?: readonly string[];
}

/** Compiles with the machine's compiler, warnings as errors, runs it on the input and returns its output. */
export function compileAndRun({ files, main, flags = [] }: CProgram, input: string): string {
  const folder = mkdtempSync(join(tmpdir(), 'needle-c-'));
  try {
    for (const [name, text] of Object.entries(files)) writeFileSync(join(folder, name), text);
    const program = join(folder, 'main');
    execFileSync(
      'cc',
      ['-std=c99', '-Wall', '-Wextra', '-Werror', '-O1', ...flags, join(folder, main), '-o', program, '-lm'],
      { stdio: ['ignore', 'pipe', 'pipe'] },
    );
    return execFileSync(program, { input, encoding: 'utf8', maxBuffer: 64e6 });
  } finally {
    rmSync(folder, { recursive: true });
  }
}
