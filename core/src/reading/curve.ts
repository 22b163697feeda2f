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
  private readonly whole: { t: number; v: number }[] | null;
  private readonly low: Float64Array;
  private readonly high: Float64Array;
  private readonly lowAt: Float64Array;
  private readonly highAt: Float64Array;
  private readonly bad: Uint8Array;
  private readonly gaps: Gap[] = [];

  /** @param points about how many to keep @param whole whether all are kept, since there are few */
  constructor(fromS: number, toS: number, points: number, whole: boolean) {
    this.fromS = fromS;
    this.toS = toS;
    this.slots = Math.max(1, Math.floor(points / 2));
    this.scale = this.slots / Math.max(toS - fromS, 1e-12);
    this.whole = whole ? [] : null;
    const n = whole ? 0 : this.slots;
    this.low = new Float64Array(n).fill(Number.NaN);
    this.high = this.low.slice();
    this.lowAt = this.low.slice();
    this.highAt = this.low.slice();
    this.bad = new Uint8Array(n);
  }

  add(timeS: number, value: number): void {
    if (timeS < this.fromS || timeS > this.toS) return;
    if (this.whole) {
      this.whole.push({ t: timeS, v: value });
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
        this.whole.push({ t: (gap.fromS + gap.toS) / 2, v: Number.NaN });
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
