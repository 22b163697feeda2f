/** Silence after which a link counts as lost. */
export const LOST_AFTER_MS = 2000;
/** Readings are counted over this long for the achieved rate. */
const RATE_WINDOW_S = 10;
/** Readings from which the scatter of arrivals is told. */
const JITTER_OF = 200;
/** A column that gives one and the same number for so long, and so many readings, is stuck. */
const STUCK_S = 10;
const STUCK_READINGS = 100;

/** How well a link runs, from when its readings came and what was in them. */
export class Health {
  gaps = 0;
  private lastMs: number;
  private startedMs: number;
  /** Readings of each of the last seconds, the newest last. */
  private seconds: { readonly second: number; count: number }[] = [];
  private readonly offsets: number[] = [];
  private firstOffset: number | null = null;
  private readonly runs: { value: number; sinceMs: number; count: number }[];
  private received = 0;

  constructor(columnCount: number, nowMs: number) {
    this.lastMs = nowMs;
    this.startedMs = nowMs;
    this.runs = Array.from({ length: columnCount }, () => ({ value: Number.NaN, sinceMs: nowMs, count: 0 }));
  }

  /** @param gadgetS the gadget's own time; null where it tells none */
  took(nowMs: number, gadgetS: number | null, values: readonly number[]): void {
    if (this.received > 0 && nowMs - this.lastMs > LOST_AFTER_MS) this.gaps++;
    this.received++;
    this.lastMs = nowMs;
    const second = Math.floor(nowMs / 1000);
    const newest = this.seconds.at(-1);
    if (newest?.second === second) newest.count++;
    else this.seconds.push({ second, count: 1 });
    if (this.seconds.length > RATE_WINDOW_S + 1) this.seconds.shift();
    if (gadgetS !== null) {
      const offset = nowMs - 1000 * gadgetS;
      this.firstOffset ??= offset;
      this.offsets.push(offset);
      // Cut back now and then, not one by one: a fast link brings thousands a second.
      if (this.offsets.length >= 2 * JITTER_OF) this.offsets.splice(0, JITTER_OF);
    }
    this.runs.forEach((run, k) => {
      if (run.value === values[k]) run.count++;
      else Object.assign(run, { value: values[k]!, sinceMs: nowMs, count: 1 });
    });
  }

  /** The pace of time has changed, or the gadget's clock was set: what was seen before says nothing of now. */
  restart(nowMs: number): void {
    this.startedMs = nowMs;
    this.seconds = [];
    this.offsets.length = 0;
    this.firstOffset = null;
  }

  /** Since the newest reading; endless before the first. */
  silentMs(nowMs: number): number {
    return this.received === 0 ? Infinity : nowMs - this.lastMs;
  }

  /** Readings a second of the server's time, over the last ten whole seconds or the fewer since the start. */
  rateHz(nowMs: number): number {
    const to = Math.floor(nowMs / 1000);
    const from = Math.max(to - RATE_WINDOW_S, Math.ceil(this.startedMs / 1000));
    if (to <= from) return 0;
    const counted = this.seconds.filter((s) => s.second >= from && s.second < to);
    return counted.reduce((n, s) => n + s.count, 0) / (to - from);
  }

  /** Standard deviation of the arrivals about the gadget's time, ms; its clock's steady drift is taken off. */
  get jitterMs(): number | null {
    const n = this.offsets.length;
    if (n < 10) return null;
    const middle = (n - 1) / 2;
    const mean = this.offsets.reduce((a, b) => a + b, 0) / n;
    let [sxx, sxy, syy] = [0, 0, 0];
    this.offsets.forEach((o, i) => {
      sxx += (i - middle) ** 2;
      sxy += (i - middle) * (o - mean);
      syy += (o - mean) ** 2;
    });
    return Math.sqrt(Math.max(0, syy - sxy ** 2 / sxx) / (n - 2));
  }

  /** By how much the gadget's clock fell behind since the first reading, s. */
  get clockBehindS(): number | null {
    if (this.firstOffset === null || this.offsets.length < 10) return null;
    return (Math.min(...this.offsets.slice(-50)) - this.firstOffset) / 1000;
  }

  /** Indices of columns that do not move. */
  stuck(nowMs: number): number[] {
    return this.runs.flatMap((run, k) =>
      run.count >= STUCK_READINGS && nowMs - run.sinceMs >= 1000 * STUCK_S ? [k] : [],
    );
  }
}
