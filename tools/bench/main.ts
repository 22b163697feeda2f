// How fast the core is, as ratios: ours beside scipy's where python3 has it. --json prints one object a line.
import { execFileSync } from 'node:child_process';
import { compileLine, editLine, type Block } from '../../core/src/line/index.ts';
import type { LineSpec } from '../../core/src/model/line.ts';
import { thermistorLine } from '../../core/src/plan/index.ts';

const N = 10_000_000;
const REPEATS = 3;

interface Row {
  readonly name: string;
  readonly unit: string;
  /** Peer's time over ours that is wanted, at least. */
  readonly bar: number;
  /** Python that sets `seconds`, the best of three. */
  readonly peer: string;
  run(): void;
}

const counts = Float64Array.from({ length: N }, (_, i) => 520 + 400 * Math.sin(i / 999));
const block: Block = { length: N, times: counts, lanes: [{ values: counts, reasons: new Uint8Array(N) }] };
const runLine = (spec: LineSpec) => () =>
  compileLine(spec, { sampleRateHz: 1000 })
    .start()
    .process(block, () => {});

const base = thermistorLine('p');
const conversion = {
  ...editLine(base, [
    { stageId: 'thermistor', kind: 'steinhart-hart', params: { a: 1.12e-3, b: 2.37e-4, c: 6e-8 } },
  ]),
};
const toCelsius: LineSpec = { ...conversion, stages: conversion.stages.slice(0, 3) };
const butterworth: LineSpec = {
  ...base,
  stages: [
    { id: 'f', kind: 'butterworth-lowpass', params: { order: 4, cutoffHz: 20 }, uncertainty: {}, off: false },
  ],
};

const ROWS: readonly Row[] = [
  {
    name: 'Butterworth low-pass, order 4, 10 M samples',
    unit: 'samples/s',
    bar: 1,
    run: runLine(butterworth),
    peer: `import scipy.signal as s
sos = s.butter(4, 20, fs=1000, output='sos')
seconds = best(lambda: s.sosfilt(sos, x))`,
  },
  {
    name: 'counts to degC, divider and three-term thermistor, 10 M samples',
    unit: 'samples/s',
    bar: 1,
    run: runLine(toCelsius),
    peer: `def convert():
    r = x / 1023.0
    l = np.log(3300.0 * r / (1 - r))
    return 1 / (1.12e-3 + l * (2.37e-4 + 6e-8 * l * l)) - 273.15
seconds = best(convert)`,
  },
];

const json = process.argv.includes('--json');
for (const row of ROWS) {
  row.run();
  const ours = Math.min(...Array.from({ length: REPEATS }, () => seconds(row.run)));
  const peer = peerSeconds(row.peer);
  const result = {
    name: row.name,
    ours: N / ours,
    peer: peer && N / peer,
    unit: row.unit,
    ratio: peer && peer / ours,
    bar: row.bar,
  };
  if (json) console.log(JSON.stringify(result));
  else {
    const rate = (v: number) => `${(v / 1e6).toFixed(1)} M ${row.unit}`;
    console.log(
      `${row.name}\n  ours ${rate(result.ours)}${result.peer ? `, peer ${rate(result.peer)}, ratio ${result.ratio!.toFixed(2)} (wanted ${row.bar})` : '; no python3 with scipy to compare with'}`,
    );
  }
}

function seconds(action: () => void): number {
  const start = performance.now();
  action();
  return (performance.now() - start) / 1000;
}

function peerSeconds(body: string): number | null {
  const program = `import time, numpy as np
x = 520 + 400 * np.sin(np.arange(${N}) / 999.0)
def best(f):
    f(); t = []
    for _ in range(${REPEATS}):
        s = time.perf_counter(); f(); t.append(time.perf_counter() - s)
    return min(t)
${body}
print(seconds)`;
  for (const python of ['/usr/bin/python3', 'python3']) {
    try {
      return Number(
        execFileSync(python, ['-c', program], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] }),
      );
    } catch {
      // This Python has no scipy; try the next.
    }
  }
  return null;
}
