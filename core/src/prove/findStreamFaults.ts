import { sampling } from './sampling.ts';
import { printNominal } from '../units/index.ts';

/** Raw rows of one column, with what is known of where they come from. */
export interface StreamLook {
  readonly times: ArrayLike<number>;
  readonly values: ArrayLike<number>;
  /** Lowest and highest code of the converter; null for a column that has none. */
  readonly codes: readonly [number, number] | null;
  /** A running count of edges, in the place of a level. */
  readonly isCount: boolean;
  /** Each row says what came to it since the one before, so that it rests at nothing. */
  readonly restsAtZero: boolean;
  /** Whether the first row came when the gadget was switched on, or soon after. */
  readonly fromStart: boolean;
  /** Rows a second that the job asks for; null where nobody knows. */
  readonly neededHz: number | null;
}

export interface StreamFinding {
  readonly id:
    | 'drop-outs'
    | 'stuck'
    | 'slow-converter'
    | 'clipping'
    | 'at-end'
    | 'warm-up'
    | 'missed-edges'
    | 'doubled-edges'
    | 'too-slow';
  readonly title: string;
  /** What was seen, in numbers. */
  readonly seen: string;
  /** The one step that would confirm it. */
  readonly test: string;
  /** How strongly it is shown, for the order: 1 and more. */
  readonly weight: number;
}

/** Fewer rows say nothing. */
const LEAST_ROWS = 60;

/** What is wrong with a stream of raw rows, the most plainly shown first; empty where nothing speaks of a fault. */
export function findStreamFaults(look: StreamLook): StreamFinding[] {
  if (look.times.length < LEAST_ROWS) return [];
  const values = Array.from(look.values).filter(Number.isFinite);
  if (values.length < LEAST_ROWS) return [];
  const held = look.isCount ? null : slowConverter(values);
  const found = [
    dropOuts(look.times),
    tooSlow(look),
    held,
    // What is held for several rows is no stuck sensor, and its steps are no drift.
    look.isCount || (look.restsAtZero && values.at(-1) === 0) ? null : stuck(values),
    look.isCount || held ? null : clipping(values, look.codes),
    look.isCount || held || !look.fromStart ? null : warmUp(values),
    look.isCount ? edges(look.times, values) : null,
  ];
  return found.filter((f) => f !== null).toSorted((a, b) => b.weight - a.weight);
}

const percent = (share: number) => `${printNominal(100 * share, 2)} %`;

function dropOuts(times: ArrayLike<number>): StreamFinding | null {
  const { lost, gaps } = sampling(times);
  if (lost < 0.005 || gaps.length < 3) return null;
  return {
    id: 'drop-outs',
    title: 'Readings lost in transmission',
    seen: `${percent(lost)} of the readings are missing, in ${gaps.length} gaps.`,
    test: 'Shorten the cable, move closer to the radio receiver or send less often, then check again.',
    weight: 2 + 10 * lost,
  };
}

function tooSlow({ times, neededHz }: StreamLook): StreamFinding | null {
  const { rateHz } = sampling(times);
  if (neededHz === null || rateHz >= 0.9 * neededHz) return null;
  return {
    id: 'too-slow',
    title: 'Sampling rate too low',
    seen: `${printNominal(rateHz, 3)} rows per second received, ${printNominal(neededHz, 2)} needed. Faster changes are aliased: they appear as slower ones.`,
    test: 'Increase the sampling rate, or add a filter before the ADC.',
    weight: 1.5 + Math.log10(neededHz / rateHz),
  };
}

/** Steps between rows at which the value changes, with the changes. */
function changesOf(values: readonly number[]): { at: number[]; by: number[] } {
  const [at, by]: [number[], number[]] = [[], []];
  for (let i = 1; i < values.length; i++) {
    const d = values[i]! - values[i - 1]!;
    if (d === 0) continue;
    at.push(i);
    by.push(d);
  }
  return { at, by };
}

const sorted = (values: readonly number[]) => values.toSorted((a, b) => a - b);
const quantile = (ordered: readonly number[], share: number) =>
  ordered[Math.min(ordered.length - 1, Math.floor(share * ordered.length))]!;

/** Each result is sent several times: what changes at all never changes from one row to the next. */
function slowConverter(values: readonly number[]): StreamFinding | null {
  const { at, by } = changesOf(values);
  if (at.length < 12) return null;
  const apart = sorted(at.slice(1).map((k, i) => k - at[i]!));
  const least = quantile(apart, 0.03);
  const usual = quantile(apart, 0.5);
  // A slow slope through whole codes changes seldom as well, but by one code and always the same way.
  const large = by.filter((d) => Math.abs(d) >= 2).length / by.length;
  const turns = by.slice(1).filter((d, i) => d * by[i]! < 0).length / by.length;
  if (least < 2 || usual > 4 * least || (large < 0.3 && turns < 0.3)) return null;
  return {
    id: 'slow-converter',
    title: 'ADC slower than the rate of rows',
    seen: `Each value is repeated about ${printNominal(usual, 2)} times before it changes.`,
    test: 'Increase the conversion rate of the ADC, or read it less often: repeated rows contain no new information.',
    weight: 3 + Math.log2(least),
  };
}

/** A value that once moved and then never again. */
function stuck(values: readonly number[]): StreamFinding | null {
  const last = values.at(-1)!;
  let from = values.length - 1;
  while (from > 0 && values[from - 1] === last) from--;
  const run = values.length - from;
  const { at } = changesOf(values.slice(0, from));
  if (run < 40 || at.length < 10) return null;
  const longest = Math.max(...at.slice(1).map((k, i) => k - at[i]!));
  if (run < 10 * longest) return null;
  return {
    id: 'stuck',
    title: 'Reading stuck',
    seen: `The last ${run} values are identical; before that, no value repeated more than ${longest} times.`,
    test: 'Turn the gadget off and on; if it happens again, check the sensor and its bus.',
    weight: 4,
  };
}

/** Values pile up at an end: at the converter's own, or at one that something before it sets. */
function clipping(values: readonly number[], codes: StreamLook['codes']): StreamFinding | null {
  const [low, high] = [Math.min(...bounded(values)), Math.max(...bounded(values))];
  const range = high - low;
  if (range < 40) return null;
  for (const [end, inward] of [
    [high, -1],
    [low, 1],
  ] as const) {
    const there = values.filter((v) => v === end).length;
    const near = values.filter((v) => Math.abs(v - end) <= 0.05 * range).length;
    // A swing rests a little at its ends, but not on one code.
    if (there < 12 || there < 0.35 * near || there < 0.01 * values.length) continue;
    if (visits(values, end) < 2) continue;
    const isEnd = codes !== null && (end - (inward < 0 ? codes[1] : codes[0])) * inward <= 2;
    return {
      id: isEnd ? 'at-end' : 'clipping',
      title: isEnd ? 'Signal at the end of the ADC range' : 'Signal clipped before the end of the ADC range',
      seen: `${there} of ${values.length} values are exactly ${end}${isEnd ? '' : ', and none is beyond it'}.`,
      test: isEnd
        ? 'Reduce the gain or change the divider, so that the largest signal fits.'
        : 'Check the supply voltage of the amplifier and the maximum output of the sensor.',
      weight: 2 + Math.min(2, (10 * there) / values.length),
    };
  }
  return null;
}

/** Spread into `Math.max` more than so many would overflow the stack. */
function bounded(values: readonly number[]): [number, number] {
  let [low, high] = [Infinity, -Infinity];
  for (const v of values) {
    if (v < low) low = v;
    if (v > high) high = v;
  }
  return [low, high];
}

/** How often a value is come to. */
function visits(values: readonly number[], end: number): number {
  let count = 0;
  for (let i = 1; i < values.length; i++) if (values[i] === end && values[i - 1] !== end) count++;
  return count;
}

const BLOCKS = 16;

/** From the switching on it creeps to where it stays, ever more slowly. */
function warmUp(values: readonly number[]): StreamFinding | null {
  const size = Math.floor(values.length / BLOCKS);
  const means = Array.from({ length: BLOCKS }, (_, b) => {
    let sum = 0;
    for (let i = b * size; i < (b + 1) * size; i++) sum += values[i]!;
    return sum / size;
  });
  const steps = means.slice(1).map((m, b) => m - means[b]!);
  const way = Math.sign(means.at(-1)! - means[0]!);
  const onward = steps.filter((s) => s * way > 0).length;
  const half = Math.floor(BLOCKS / 2);
  const [before, after] = [means[half]! - means[0]!, means.at(-1)! - means[half]!];
  const within = sorted(values.slice(-size).map((v) => Math.abs(v - means.at(-1)!)));
  const noise = (1.48 * quantile(within, 0.5)) / Math.sqrt(size) + 0.3 / Math.sqrt(size);
  const moved = Math.abs(means.at(-1)! - means[0]!);
  const share = moved / Math.max(Math.abs(means.at(-1)!), 1);
  // The first steps tell it from a wander; the last ones are lost in noise.
  const early = steps.slice(0, 6).every((s) => s * way > 0);
  // At the end it must have come to rest, or it is no creeping.
  const rest = quantile(sorted(steps.slice(-5).map(Math.abs)), 0.5);
  // Within a swing it cannot be seen.
  const swing = 2 * quantile(within, 0.8);
  const isCreep =
    early &&
    onward >= 9 &&
    moved > 0.5 * swing &&
    Math.abs(before) >= 2 * Math.abs(after) &&
    moved > 8 * rest;
  if (!isCreep || moved < 12 * noise || share < 0.01) return null;
  return {
    id: 'warm-up',
    title: 'Readings taken before the sensor has warmed up',
    seen: `Since power-on the reading has drifted by ${percent(share)}, more and more slowly.`,
    test: 'Leave it on for the same time again; if the reading is then stable, use that as the warm-up time.',
    weight: 2 + Math.min(1.5, 10 * share),
  };
}

/** Edges that come too late are those that follow one that was missed; too early, one that was counted twice. */
function edges(times: ArrayLike<number>, values: readonly number[]): StreamFinding | null {
  // The newest half: what spins up or runs down is not steady.
  const from = values.length >> 1;
  const steps = values.slice(from + 1).map((v, i) => Math.abs(v - values[from + i]!));
  const busy = steps.filter((s) => s > 0);
  if (busy.length < 30) return null;
  const middle = quantile(sorted(steps), 0.5);
  if (middle >= 3) return missedByCount(steps, middle);
  const at = steps.flatMap((s, i) => (s > 0 ? [Number(times[from + i + 1])] : []));
  const apart = at.slice(1).map((t, i) => t - at[i]!);
  const usual = quantile(sorted(apart), 0.5);
  const row = (Number(times[times.length - 1]) - Number(times[0])) / (times.length - 1);
  // With fewer than four rows between edges a late one cannot be told from one that fell into the next row.
  if (usual < 4 * row) return null;
  const late = apart.filter((d) => d > 1.6 * usual && d < 3.4 * usual).length / apart.length;
  const early = apart.filter((d) => d < 0.4 * usual).length / apart.length;
  if (early > 0.02 && early > 2 * late) return doubledEdges(early);
  return late > 0.015 ? missedEdges(late / (1 + late)) : null;
}

/** Many edges a row: a share that is missed makes their number scatter, towards fewer. */
function missedByCount(steps: readonly number[], middle: number): StreamFinding | null {
  const most = quantile(sorted(steps), 0.98);
  const mean = steps.reduce((a, b) => a + b, 0) / steps.length;
  const missed = 1 - mean / most;
  // Whole edges a row come out one more or less by themselves.
  const scatter = Math.sqrt(steps.reduce((a, s) => a + (s - mean) ** 2, 0) / steps.length);
  return missed > 0.02 && scatter > 0.65 && scatter < 0.5 * middle ? missedEdges(missed) : null;
}

const missedEdges = (share: number): StreamFinding => ({
  id: 'missed-edges',
  title: 'Missed edges',
  seen: `About ${percent(share)} of the marks pass without being counted.`,
  test: 'Check the magnet or tape and the gap to the sensor; turn it slowly and count along.',
  weight: 2 + 5 * share,
});

const doubledEdges = (share: number): StreamFinding => ({
  id: 'doubled-edges',
  title: 'Edges counted twice',
  seen: `${percent(share)} of the marks follow the previous one far too soon.`,
  test: 'Add a dead time or hysteresis to the input, or an RC filter before it.',
  weight: 2 + 5 * share,
});
