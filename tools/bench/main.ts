// How fast the core is, as ratios: ours beside scipy's where python3 has it. --json prints one object a line.
import { spawn } from 'node:child_process';
import { createInterface } from 'node:readline';
import { findPeaks } from '../../core/src/detect/index.ts';
import { centredMedian } from '../../core/src/filters/index.ts';
import { compileLine, editLine, type Block } from '../../core/src/line/index.ts';
import type { LineSpec } from '../../core/src/model/line.ts';
import { planOf, rankSensors, SHELF, TEMPLATES, thermistorLine } from '../../core/src/plan/index.ts';

const N = 10_000_000;
const M = 1_000_000;
const REPEATS = 3;
const ROUNDS = 9;

interface Row {
  readonly name: string;
  readonly samples: number;
  /** Peer's time over ours that is wanted, at least. */
  readonly bar: number;
  /**
   * Python expression that the peer's time is taken of; `x` holds counts, `w` a noisy wave of a million. Seconds that it
   * may take, where no peer does the same.
   */
  readonly peer: string | number;
  run(): void;
}

// Whole codes, as a converter gives them, and a noisy wave.
const counts = Float64Array.from({ length: N }, (_, i) => Math.round(520 + 400 * Math.sin(i / 999)));
const wave = Float64Array.from(
  { length: M },
  (_, i) => Math.sin(i / 25) + 0.3 * Math.sin(i * 1.7) * Math.cos(i * i * 0.3),
);
const block: Block = { length: N, times: counts, lanes: [{ values: counts, reasons: new Uint8Array(N) }] };
/** Only the reading is looked at, as when a recording is reduced. */
const process = (spec: LineSpec) => () => {
  const line = compileLine(spec, { sampleRateHz: 1000 });
  line.start([line.stages.length]).process(block, () => {});
};

const base = editLine(thermistorLine('p'), [
  { stageId: 'thermistor', kind: 'steinhart-hart', params: { a: 1.12e-3, b: 2.37e-4, c: 6e-8 } },
]);
const toCelsius: LineSpec = { ...base, stages: base.stages.slice(0, 3) };
const butterworth: LineSpec = {
  ...base,
  stages: [
    { id: 'f', kind: 'butterworth-lowpass', params: { order: 4, cutoffHz: 20 }, uncertainty: {}, off: false },
  ],
};

/** Every family's brief with the whole shelf, no board picked yet. */
const plans = TEMPLATES.flatMap((t) => {
  const now = '2026-01-01T00:00:00.000Z';
  const gadget = {
    id: 'g',
    template: t.id,
    version: 1,
    name: 'g',
    createdAt: now,
    updatedAt: now,
    ...t.make(),
  };
  const plan = planOf(gadget, SHELF);
  return plan && t.family !== null ? [plan] : [];
});
const rankAll = () =>
  plans.flatMap((plan) =>
    plan.brief.asks.flatMap((ask) => (ask.measurand === 'worked out' ? [] : rankSensors(plan, ask.id))),
  );

const ROWS: readonly Row[] = [
  {
    name: 'Butterworth low-pass, order 4, 10 M samples',
    samples: N,
    bar: 1,
    run: process(butterworth),
    peer: `(lambda sos: lambda: s.sosfilt(sos, x))(s.butter(4, 20, fs=1000, output='sos'))`,
  },
  {
    name: 'counts to degC, divider and three-term thermistor, 10 M samples',
    samples: N,
    bar: 1,
    run: process(toCelsius),
    peer: 'convert',
  },
  {
    name: 'moving median, width 9, 1 M samples',
    samples: M,
    bar: 1,
    run: () => void centredMedian(wave, 9),
    peer: `lambda: n.median_filter(w, 9, mode='nearest')`,
  },
  {
    name: 'moving median, width 101, 1 M samples',
    samples: M,
    bar: 1,
    run: () => void centredMedian(wave, 101),
    peer: `lambda: n.median_filter(w, 101, mode='nearest')`,
  },
  {
    name: 'peaks with prominence, 1 M samples',
    samples: M,
    bar: 1,
    run: () => void findPeaks(wave, { prominence: 0.5 }),
    peer: `lambda: s.find_peaks(w, prominence=0.5)`,
  },
  {
    name: `ranking the sensors of ${plans.length} briefs on a shelf of ${SHELF.length} parts`,
    samples: rankAll().length,
    bar: 1,
    run: () => void rankAll(),
    peer: 0.05,
  },
];

const json = globalThis.process.argv.includes('--json');
const peer = await startPeer();
for (const [i, row] of ROWS.entries()) {
  // Turn about: a busy neighbour on the machine slows both sides of a round alike, and the middle round is what counts.
  const ours: number[] = [];
  const theirs: number[] = [];
  row.run();
  for (let round = 0; round < ROUNDS; round++) {
    ours.push(Math.min(...Array.from({ length: REPEATS }, () => seconds(row.run))));
    if (typeof row.peer === 'number') theirs.push(row.peer);
    else if (peer) theirs.push(await peer.seconds(i));
  }
  const result = {
    name: row.name,
    ours: row.samples / middle(ours),
    peer: theirs.length > 0 ? row.samples / middle(theirs) : null,
    unit: typeof row.peer === 'number' ? 'verdict sheets/s' : 'samples/s',
    ratio: theirs.length > 0 ? middle(ours.map((v, k) => theirs[k]! / v)) : null,
    bar: row.bar,
  };
  if (json) console.log(JSON.stringify(result));
  else {
    const rate = (v: number) =>
      v >= 1e6 ? `${(v / 1e6).toFixed(1)} M ${result.unit}` : `${Math.round(v)} ${result.unit}`;
    const beside = typeof row.peer === 'number' ? `${row.peer * 1000} ms would be` : 'peer';
    console.log(
      `${row.name}\n  ours ${rate(result.ours)}${result.peer ? `, ${beside} ${rate(result.peer)}, ratio ${result.ratio!.toFixed(2)} (wanted ${row.bar})` : '; no python3 with scipy to compare with'}`,
    );
  }
}
peer?.stop();

function middle(values: readonly number[]): number {
  return values.toSorted((a, b) => a - b)[values.length >> 1]!;
}

function seconds(action: () => void): number {
  const start = performance.now();
  action();
  return (performance.now() - start) / 1000;
}

/** Pythons that have scipy, the newest scipy first. */
async function newestFirst(): Promise<string[]> {
  const found: { python: string; version: number[] }[] = [];
  for (const python of ['python3', '/usr/bin/python3', '/usr/local/bin/python3']) {
    const child = spawn(python, ['-c', 'import scipy; print(scipy.__version__)'], {
      stdio: ['ignore', 'pipe', 'ignore'],
    });
    child.on('error', () => {});
    const first = await createInterface({ input: child.stdout })[Symbol.asyncIterator]().next();
    if (typeof first.value === 'string') found.push({ python, version: first.value.split('.').map(Number) });
  }
  found.sort((a, b) => b.version[0]! - a.version[0]! || b.version[1]! - a.version[1]!);
  return found.map((f) => f.python);
}

/** A Python with scipy that answers the number of a row with its best time; null where there is none. */
async function startPeer() {
  const program = `import sys, time, numpy as np
import scipy.signal as s, scipy.ndimage as n
x = np.round(520 + 400 * np.sin(np.arange(${N}) / 999.0))
i = np.arange(${M})
w = np.sin(i / 25) + 0.3 * np.sin(i * 1.7) * np.cos(i * i * 0.3)
def convert():
    r = x / 1023.0
    l = np.log(3300.0 * r / (1 - r))
    return 1 / (1.12e-3 + l * (2.37e-4 + 6e-8 * l * l)) - 273.15
rows = [${ROWS.map((row) => (typeof row.peer === 'number' ? 'None' : row.peer)).join(', ')}]
print('ready', flush=True)
for line in sys.stdin:
    f = rows[int(line)]
    t = []
    for _ in range(${REPEATS}):
        b = time.perf_counter(); f(); t.append(time.perf_counter() - b)
    print(min(t), flush=True)`;
  for (const python of await newestFirst()) {
    const child = spawn(python, ['-c', program], { stdio: ['pipe', 'pipe', 'ignore'] });
    child.on('error', () => {});
    const lines = createInterface({ input: child.stdout })[Symbol.asyncIterator]();
    const first = await lines.next();
    if (first.value !== 'ready') continue; // This Python has no scipy; try the next.
    return {
      async seconds(row: number): Promise<number> {
        child.stdin.write(`${row}\n`);
        return Number((await lines.next()).value);
      },
      stop: () => child.stdin.end(),
    };
  }
  return null;
}
