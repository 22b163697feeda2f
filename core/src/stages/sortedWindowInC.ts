import type { CWriter } from '../stage/contract.ts';

/** A sorted window of the last values in C; returns the name of the sorted array after x was taken in. */
export function emitSortedWindow(width: number, c: CWriter): string {
  const ring = c.state('ring', '0', width);
  const sorted = c.state('sorted', '0', width);
  const at = c.state('at', '-1');
  c.line(
    `if (${at} < 0) { for (int i = 0; i < ${width}; i++) { ${ring}[i] = x; ${sorted}[i] = x; } ${at} = 0; }`,
  );
  c.line('{');
  c.line(`  int i = 0, k = (int)${at};`);
  c.line(`  LN_REAL old = ${ring}[k];`);
  c.line(`  ${ring}[k] = x; ${at} = k + 1 < ${width} ? k + 1 : 0;`);
  c.line(`  while (i < ${width - 1} && ${sorted}[i] != old) i++;`);
  c.line(`  while (i + 1 < ${width} && ${sorted}[i + 1] < x) { ${sorted}[i] = ${sorted}[i + 1]; i++; }`);
  c.line(`  while (i > 0 && ${sorted}[i - 1] > x) { ${sorted}[i] = ${sorted}[i - 1]; i--; }`);
  c.line(`  ${sorted}[i] = x;`);
  c.line('}');
  return sorted;
}
