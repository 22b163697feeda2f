import type { CWriter } from '../stage/contract.ts';

/** Taps in C, newest sample first, started as if the first sample had always been there. */
export function emitTaps(taps: Float64Array, c: CWriter): void {
  const n = taps.length;
  const table = c.table('TAPS', taps);
  const ring = c.state('ring', '0', n);
  const at = c.state('at', '-1');
  c.line(`if (${at} < 0) { for (int i = 0; i < ${n}; i++) ${ring}[i] = x; ${at} = 0; }`);
  c.line(`int k = (int)${at}; ${ring}[k] = x; ${at} = k + 1 < ${n} ? k + 1 : 0;`);
  c.line('LN_WIDE sum = 0;');
  c.line(
    `for (int i = 0; i < ${n}; i++) { sum += (LN_WIDE)${table}[i] * ${ring}[k]; k = k > 0 ? k - 1 : ${n - 1}; }`,
  );
  c.line('x = (LN_REAL)sum;');
}
