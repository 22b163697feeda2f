// A thousand trials cut out of ten million samples, beside running the line over them once. --json prints one object a line.
import { readoutSpec, SHELF, TEMPLATES } from '../../core/src/plan/index.ts';
import { createReadout, createWatchedReadout } from '../../core/src/reading/index.ts';
import { createTrialCutter, firstRule } from '../../core/src/trial/index.ts';
import { compileLine, invertLine } from '../../core/src/line/index.ts';
import { seededRandom } from '../../core/src/numerics/index.ts';

const N = 10_000_000;
const TRIALS = 1000;
const PIECE = 65_536;
const ROUNDS = 3;
/** So many times the line alone it may take. */
const BAR = 2;

const template = TEMPLATES.find((t) => t.id === 'impact-peak')!;
const now = '2026-01-01T00:00:00.000Z';
const gadget = {
  id: 'g',
  template: template.id,
  version: 1,
  name: 'g',
  createdAt: now,
  updatedAt: now,
  ...template.make(),
};
const spec = readoutSpec(gadget, [], SHELF, gadget.sampleRateHz);
const rule = firstRule(gadget)!;
const at = spec.channels.findIndex((c) => c.id === rule.channelId);

// Blows of some ten milliseconds on quiet counts, of any height.
const random = seededRandom(1);
const times = Float64Array.from({ length: N }, (_, i) => i / gadget.sampleRateHz);
const line = compileLine(spec.channels[at]!.line, { sampleRateHz: gadget.sampleRateHz });
const [rest, full] = [0, gadget.brief!.asks[0]!.high].map((v) => invertLine(line, v)[0]!) as [number, number];
const counts = Float64Array.from({ length: N }, () => Math.round(rest + 3 * random.normal()));
for (let k = 0; k < TRIALS; k++) {
  const from = Math.round(((k + 0.5) * N) / TRIALS);
  const height = (0.3 + 0.6 * random.uniform()) * (full - rest);
  for (let i = 0; i < 24; i++) counts[from + i]! += Math.round(height * Math.sin((Math.PI * i) / 24));
}
const columns = spec.columns.map(() => counts);
const nothing = () => undefined;

function pieces(feed: (rows: { length: number; times: Float64Array; columns: Float64Array[] }) => void) {
  for (let from = 0; from < N; from += PIECE) {
    const to = Math.min(N, from + PIECE);
    feed({
      length: to - from,
      times: times.subarray(from, to),
      columns: columns.map((c) => c.subarray(from, to)),
    });
  }
}

function alone(): void {
  const readout = createReadout({ ...spec, channels: [spec.channels[at]!] });
  pieces((rows) => readout.feed(rows, nothing));
}

function cut(): number {
  const readout = createWatchedReadout({ ...spec, channels: [spec.channels[at]!] });
  let found = 0;
  const cutter = createTrialCutter(rule, 0, ({ toS }) => {
    found += readout.figures(0).length > 0 ? 1 : 0;
    readout.nextTrial(0, toS);
  });
  pieces((rows) => readout.feed(rows, nothing, (_, event) => cutter.event(event)));
  return found;
}

const seconds = (action: () => unknown) => {
  const begin = performance.now();
  action();
  return (performance.now() - begin) / 1000;
};
const found = cut();
// Turn about: a busy neighbour slows both.
const ratios = Array.from({ length: ROUNDS }, () => {
  const line = seconds(alone);
  return seconds(cut) / line;
}).sort((a, b) => a - b);
const ratio = ratios[ROUNDS >> 1]!;
const name = `${found} trials cut out of ${N / 1e6} M samples, beside the line alone`;
console.log(
  process.argv.includes('--json')
    ? JSON.stringify({ name, ratio, bar: BAR, isBelow: true })
    : `${name}\n  ${ratio.toFixed(2)} times as long (at most ${BAR} wanted)`,
);
