/** A curve to draw: NaN breaks it. */
export interface Curve {
  readonly times: Float64Array;
  readonly values: Float64Array;
}

/** Times of the instants after which rows are missing: between two readings on either side of one nothing is known. */
export interface Gap {
  readonly fromS: number;
  readonly toS: number;
}

/**
 * Thins readings for drawing after they were made: of few all are kept, of many the lowest and highest of each slot of
 * time, so that no peak is lost and every point drawn is a reading. A slot of nothing but bad readings draws as a break,
 * and so does a gap that is long enough to be seen.
 */
export class CurveThinner {
  private readonly fromS: number;
  private readonly toS: number;
  private readonly slots: number;
  private readonly scale: number;
  private readonly points: number;
  /** All that came, while it is little enough. */
  private whole: { t: number; v: number; gap: Gap | null }[] | null;
  private low = new Float64Array(0);
  private high = this.low;
  private lowAt = this.low;
  private highAt = this.low;
  private bad = new Uint8Array(0);
  private readonly gaps: Gap[] = [];

  /** @param points about how many to keep; no more than so many are kept whole */
  constructor(fromS: number, toS: number, points: number) {
    this.fromS = fromS;
    this.toS = toS;
    this.points = points;
    this.slots = Math.max(1, Math.floor(points / 2));
    this.scale = this.slots / Math.max(toS - fromS, 1e-12);
    this.whole = [];
  }

  /** Whether some of what came is not drawn. */
  get thinned(): boolean {
    return this.whole === null;
  }

  /** Goes over to the lowest and highest of each slot; what is added are not all readings, or they are too many. */
  thin(): void {
    const { whole } = this;
    if (!whole) return;
    this.whole = null;
    this.low = new Float64Array(this.slots).fill(Number.NaN);
    this.high = this.low.slice();
    this.lowAt = this.low.slice();
    this.highAt = this.low.slice();
    this.bad = new Uint8Array(this.slots);
    for (const { t, v, gap } of whole) {
      if (gap) this.gap(gap);
      else this.add(t, v);
    }
  }

  add(timeS: number, value: number): void {
    if (timeS < this.fromS || timeS > this.toS) return;
    if (this.whole) {
      this.whole.push({ t: timeS, v: value, gap: null });
      if (this.whole.length > this.points) this.thin();
      return;
    }
    const slot = Math.min(this.slots - 1, Math.floor((timeS - this.fromS) * this.scale));
    if (value !== value) {
      this.bad[slot] = 1;
      return;
    }
    if (!(value >= this.low[slot]!)) {
      this.low[slot] = value;
      this.lowAt[slot] = timeS;
    }
    if (!(value <= this.high[slot]!)) {
      this.high[slot] = value;
      this.highAt[slot] = timeS;
    }
  }

  gap(gap: Gap): void {
    if (this.whole) {
      if (gap.toS > this.fromS && gap.fromS < this.toS)
        this.whole.push({ t: (gap.fromS + gap.toS) / 2, v: Number.NaN, gap });
    } else if ((gap.toS - gap.fromS) * this.scale >= 1) this.gaps.push(gap);
  }

  curve(): Curve {
    const points = this.whole ?? this.drawn();
    return {
      times: Float64Array.from(points, (p) => p.t),
      values: Float64Array.from(points, (p) => p.v),
    };
  }

  private drawn(): { t: number; v: number }[] {
    const points: { t: number; v: number }[] = [];
    let nextGap = 0;
    const put = (t: number, v: number) => {
      for (; nextGap < this.gaps.length && this.gaps[nextGap]!.toS <= t; nextGap++) {
        const { fromS, toS } = this.gaps[nextGap]!;
        points.push({ t: (fromS + toS) / 2, v: Number.NaN });
      }
      points.push({ t, v });
    };
    for (let s = 0; s < this.slots; s++) {
      const [low, high] = [this.low[s]!, this.high[s]!];
      if (low !== low) {
        if (this.bad[s]) put(this.fromS + (s + 0.5) / this.scale, Number.NaN);
        continue;
      }
      const [lowAt, highAt] = [this.lowAt[s]!, this.highAt[s]!];
      if (lowAt <= highAt) {
        put(lowAt, low);
        if (highAt !== lowAt) put(highAt, high);
      } else {
        put(highAt, high);
        put(lowAt, low);
      }
    }
    return points;
  }
}
