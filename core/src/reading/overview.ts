import type { CurveThinner, Gap } from './curve.ts';

/** Readings that one bucket of an overview stands for, at the most. */
export const BUCKET_READINGS = 64;

/** Numbers of a bucket, packed in this order. */
const F = {
  firstS: 0,
  lastS: 1,
  low: 2,
  lowAtS: 3,
  high: 4,
  highAtS: 5,
  good: 6,
  bad: 7,
  area: 8,
  span: 9,
  /** When the last row before a gap came, in the first bucket behind it; NaN without one. */
  gapFromS: 10,
} as const;
const SIZE = 11;

/** A reading, good or bad (NaN). */
export interface Reading {
  readonly timeS: number;
  readonly value: number;
}

/**
 * Sums readings up, 64 at a time: when, lowest and highest with their moments, how many are good and bad, and the area under
 * them by the trapezoid rule with the time that it spans. A gap ends a bucket: what comes after it knows where it began.
 */
export class OverviewBuilder {
  private packed = new Float64Array(SIZE * 16);
  /** Buckets that are begun; the last one is open while it has room. */
  private count = 0;
  private open = false;
  private newestS: number;
  private newestValue: number;
  private readonly longestS: number;
  /** Until when the open bucket has room. */
  private untilS = Infinity;
  /** A reading that comes alone. */
  private readonly one = { times: new Float64Array(1), values: new Float64Array(1) };

  /**
   * @param before the last reading before the first that comes; NaN where there is none to go on from
   * @param longestS a bucket stands for no longer, so that of a line that reads seldom each reading is kept
   */
  constructor(before: Reading = { timeS: Number.NaN, value: Number.NaN }, longestS = Infinity) {
    this.longestS = longestS;
    this.newestS = before.timeS;
    this.newestValue = before.value;
  }

  /** The newest reading, to go on from. */
  get newest(): Reading {
    return { timeS: this.newestS, value: this.newestValue };
  }

  add(timeS: number, value: number): void {
    this.one.times[0] = timeS;
    this.one.values[0] = value;
    this.addAll(this.one.times, this.one.values, 1);
  }

  /** The first so many, a bucket at a time, since a recording has millions. */
  addAll(times: Float64Array, values: Float64Array, count: number): void {
    for (let i = 0; i < count;) {
      if (!this.open || times[i]! > this.untilS) this.begin(times[i]!);
      i = this.fillBucket(times, values, i, count);
    }
  }

  /** Readings from one place on into the open bucket, while it has room. @returns where the next one goes on */
  private fillBucket(times: Float64Array, values: Float64Array, from: number, count: number): number {
    const { packed: b, untilS } = this;
    const at = (this.count - 1) * SIZE;
    let [good, bad, area, span] = [b[at + F.good]!, b[at + F.bad]!, b[at + F.area]!, b[at + F.span]!];
    let [low, lowAtS, high, highAtS] = [
      b[at + F.low]!,
      b[at + F.lowAtS]!,
      b[at + F.high]!,
      b[at + F.highAtS]!,
    ];
    let { newestS, newestValue } = this;
    let end = Math.min(count, from + BUCKET_READINGS - good - bad);
    if (times[end - 1]! > untilS) {
      end = from;
      while (times[end]! <= untilS) end++;
    }
    // All good, as nearly always: nothing needs to be asked of each.
    if (newestValue === newestValue && areGood(values, from, end)) {
      if (low !== low) {
        low = high = values[from]!;
        lowAtS = highAtS = times[from]!;
      }
      for (let i = from; i < end; i++) {
        const timeS = times[i]!;
        const value = values[i]!;
        if (value < low) {
          low = value;
          lowAtS = timeS;
        } else if (value > high) {
          high = value;
          highAtS = timeS;
        }
        const step = timeS - newestS;
        area += ((newestValue + value) / 2) * step;
        span += step;
        newestS = timeS;
        newestValue = value;
      }
      good += end - from;
    } else {
      for (let i = from; i < end; i++) {
        const timeS = times[i]!;
        const value = values[i]!;
        if (value === value) {
          good++;
          if (!(value >= low)) {
            low = value;
            lowAtS = timeS;
          }
          if (!(value <= high)) {
            high = value;
            highAtS = timeS;
          }
          if (newestValue === newestValue) {
            area += ((newestValue + value) / 2) * (timeS - newestS);
            span += timeS - newestS;
          }
        } else bad++;
        newestS = timeS;
        newestValue = value;
      }
    }
    b[at + F.lastS] = newestS;
    b[at + F.low] = low;
    b[at + F.lowAtS] = lowAtS;
    b[at + F.high] = high;
    b[at + F.highAtS] = highAtS;
    b[at + F.good] = good;
    b[at + F.bad] = bad;
    b[at + F.area] = area;
    b[at + F.span] = span;
    this.newestS = newestS;
    this.newestValue = newestValue;
    if (good + bad >= BUCKET_READINGS) this.open = false;
    return end;
  }

  /** Rows are missing here. */
  gap({ fromS, toS }: Gap): void {
    this.newestValue = Number.NaN;
    this.begin(toS);
    this.packed[(this.count - 1) * SIZE + F.gapFromS] = fromS;
  }

  /** All that came, bucket by bucket. */
  pack(): Float64Array {
    this.open = false;
    return this.packed.slice(0, this.count * SIZE);
  }

  private begin(timeS: number): void {
    const at = this.count++ * SIZE;
    if (at + SIZE > this.packed.length) {
      const grown = new Float64Array(2 * this.packed.length);
      grown.set(this.packed);
      this.packed = grown;
    }
    const { packed } = this;
    // A call to fill so few takes longer than filling them.
    for (let i = at; i < at + SIZE; i++) packed[i] = Number.NaN;
    for (let i = at + F.good; i <= at + F.span; i++) packed[i] = 0;
    packed[at + F.firstS] = timeS;
    packed[at + F.lastS] = timeS;
    this.untilS = timeS + this.longestS;
    this.open = true;
  }
}

/** Whether none is NaN. */
function areGood(values: Float64Array, from: number, to: number): boolean {
  for (let i = from; i < to; i++) if (values[i]! !== values[i]!) return false;
  return true;
}

/** Every so many buckets as one, but never across a gap. */
export function mergeOverview(packed: Float64Array, each: number): Float64Array {
  const out = new Float64Array(packed.length);
  let count = 0;
  let merged = each;
  for (let from = 0; from + SIZE <= packed.length; from += SIZE) {
    const gap = packed[from + F.gapFromS]!;
    if (merged >= each || gap === gap) {
      out.set(packed.subarray(from, from + SIZE), count++ * SIZE);
      merged = 1;
      continue;
    }
    const to = (count - 1) * SIZE;
    merged++;
    out[to + F.lastS] = packed[from + F.lastS]!;
    for (const field of [F.good, F.bad, F.area, F.span]) out[to + field]! += packed[from + field]!;
    if (packed[from + F.good] === 0) continue;
    if (!(packed[from + F.low]! >= out[to + F.low]!)) {
      out[to + F.low] = packed[from + F.low]!;
      out[to + F.lowAtS] = packed[from + F.lowAtS]!;
    }
    if (!(packed[from + F.high]! <= out[to + F.high]!)) {
      out[to + F.high] = packed[from + F.high]!;
      out[to + F.highAtS] = packed[from + F.highAtS]!;
    }
  }
  return out.slice(0, count * SIZE);
}

/** Draws buckets: lowest and highest at their moments, gaps, and stretches of nothing but bad readings. Of one reading, that. */
export function drawOverview(curve: CurveThinner, packed: Float64Array): void {
  for (let at = 0; at + SIZE <= packed.length; at += SIZE) {
    const [lowAtS, highAtS] = [packed[at + F.lowAtS]!, packed[at + F.highAtS]!];
    const gapFromS = packed[at + F.gapFromS]!;
    if (gapFromS === gapFromS) curve.gap({ fromS: gapFromS, toS: packed[at]! });
    if (packed[at + F.good] === 0) {
      if (packed[at + F.bad]! > 1) curve.thin();
      if (packed[at + F.bad]! > 0) curve.add((packed[at]! + packed[at + F.lastS]!) / 2, Number.NaN);
      continue;
    }
    if (packed[at + F.good] === 1) {
      // Nothing of it is left out: bad ones beside it are a break on their side.
      const [firstS, lastS] = [packed[at]!, packed[at + F.lastS]!];
      if (packed[at + F.bad]! > 0 && firstS < lowAtS) curve.add(firstS, Number.NaN);
      curve.add(lowAtS, packed[at + F.low]!);
      if (packed[at + F.bad]! > 0 && lastS > lowAtS) curve.add(lastS, Number.NaN);
      continue;
    }
    curve.thin();
    curve.add(lowAtS, packed[at + F.low]!);
    if (highAtS !== lowAtS) curve.add(highAtS, packed[at + F.high]!);
  }
}

/** What readings come to: counts, extremes, and the mean weighted by time. */
export class ReadingSummary {
  good = 0;
  bad = 0;
  low = Number.NaN;
  high = Number.NaN;
  area = 0;
  span = 0;

  /** Adds buckets. */
  addOverview(packed: Float64Array): void {
    for (let at = 0; at + SIZE <= packed.length; at += SIZE) {
      this.good += packed[at + F.good]!;
      this.bad += packed[at + F.bad]!;
      this.area += packed[at + F.area]!;
      this.span += packed[at + F.span]!;
      if (packed[at + F.good]! > 0) this.extremes(packed[at + F.low]!, packed[at + F.high]!);
    }
  }

  /** Adds a reading with the one before it; NaN where that is not to be gone on from. */
  add(timeS: number, value: number, beforeS: number, before: number): void {
    if (value !== value) {
      this.bad++;
      return;
    }
    this.good++;
    this.extremes(value, value);
    if (before !== before) return;
    this.area += ((before + value) / 2) * (timeS - beforeS);
    this.span += timeS - beforeS;
  }

  /** NaN where nothing spans any time. */
  get mean(): number {
    return this.span > 0 ? this.area / this.span : Number.NaN;
  }

  private extremes(low: number, high: number): void {
    if (!(low >= this.low)) this.low = low;
    if (!(high <= this.high)) this.high = high;
  }
}
