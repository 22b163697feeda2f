import type { CurveThinner, Gap } from './curve.ts';

/** Readings that one bucket of an overview stands for, at the most. */
export const BUCKET_READINGS = 64;

/** Numbers of a bucket, in this order. */
const FIELDS = [
  'firstS',
  'lastS',
  'low',
  'lowAtS',
  'high',
  'highAtS',
  'good',
  'bad',
  'area',
  'span',
  'gapFromS',
] as const;
export type Bucket = Record<(typeof FIELDS)[number], number>;

/**
 * Sums readings up, 64 at a time: when, lowest and highest with their moments, how many are good and bad, and the area under
 * them by the trapezoid rule with the time that it spans. A gap ends a bucket: what comes after it knows where it began.
 */
export class OverviewBuilder {
  private packed = new Float64Array(FIELDS.length * 16);
  private count = 0;
  private open: Bucket | null = null;
  private beforeS = Number.NaN;
  private before = Number.NaN;

  /** @param before the last reading before the first that comes, NaN where there is none to go on from */
  constructor(before: { readonly timeS: number; readonly value: number } | null = null) {
    if (before) [this.beforeS, this.before] = [before.timeS, before.value];
  }

  /** The newest reading, to go on from. */
  get newest(): { readonly timeS: number; readonly value: number } {
    return { timeS: this.beforeS, value: this.before };
  }

  add(timeS: number, value: number): void {
    const b = (this.open ??= fresh(timeS));
    b.lastS = timeS;
    if (value === value) {
      b.good++;
      if (!(value >= b.low)) {
        b.low = value;
        b.lowAtS = timeS;
      }
      if (!(value <= b.high)) {
        b.high = value;
        b.highAtS = timeS;
      }
      if (this.before === this.before) {
        b.area += ((this.before + value) / 2) * (timeS - this.beforeS);
        b.span += timeS - this.beforeS;
      }
    } else b.bad++;
    this.beforeS = timeS;
    this.before = value;
    if (b.good + b.bad >= BUCKET_READINGS) this.close();
  }

  /** Rows are missing here. */
  gap({ fromS, toS }: Gap): void {
    this.close();
    this.before = Number.NaN;
    this.open = { ...fresh(toS), gapFromS: fromS };
  }

  /** All that came, packed bucket by bucket. */
  pack(): Float64Array {
    this.close();
    return this.packed.slice(0, this.count * FIELDS.length);
  }

  private close(): void {
    const { open } = this;
    if (!open) return;
    this.open = null;
    const size = FIELDS.length;
    if ((this.count + 1) * size > this.packed.length) {
      const grown = new Float64Array(2 * this.packed.length);
      grown.set(this.packed);
      this.packed = grown;
    }
    FIELDS.forEach((field, k) => (this.packed[this.count * size + k] = open[field]));
    this.count++;
  }
}

const fresh = (timeS: number): Bucket => ({
  firstS: timeS,
  lastS: timeS,
  low: Number.NaN,
  lowAtS: Number.NaN,
  high: Number.NaN,
  highAtS: Number.NaN,
  good: 0,
  bad: 0,
  area: 0,
  span: 0,
  gapFromS: Number.NaN,
});

/** Buckets as they were packed. */
export function* unpackOverview(packed: Float64Array): Generator<Bucket> {
  const size = FIELDS.length;
  for (let at = 0; at + size <= packed.length; at += size) {
    const bucket = {} as Bucket;
    FIELDS.forEach((field, k) => (bucket[field] = packed[at + k]!));
    yield bucket;
  }
}

/** Draws a bucket. */
export function drawBucket(curve: CurveThinner, b: Bucket): void {
  if (b.gapFromS === b.gapFromS) curve.gap({ fromS: b.gapFromS, toS: b.firstS });
  if (b.good > 0) {
    const [first, second] = b.lowAtS <= b.highAtS ? [true, false] : [false, true];
    if (first) curve.add(b.lowAtS, b.low);
    curve.add(b.highAtS, b.high);
    if (second) curve.add(b.lowAtS, b.low);
  } else if (b.bad > 0) curve.add((b.firstS + b.lastS) / 2, Number.NaN);
}

/** What readings come to: counts, extremes, and the mean weighted by time. */
export class ReadingSummary {
  good = 0;
  bad = 0;
  low = Number.NaN;
  high = Number.NaN;
  area = 0;
  span = 0;

  add(b: Pick<Bucket, 'good' | 'bad' | 'low' | 'high' | 'area' | 'span'>): void {
    this.good += b.good;
    this.bad += b.bad;
    if (!(b.low >= this.low)) this.low = b.low === b.low ? b.low : this.low;
    if (!(b.high <= this.high)) this.high = b.high === b.high ? b.high : this.high;
    this.area += b.area;
    this.span += b.span;
  }

  /** NaN where nothing spans any time. */
  get mean(): number {
    return this.span > 0 ? this.area / this.span : Number.NaN;
  }
}
