import { wrapOf } from '@lucky-needle/core/formats';

export interface IncomingReading {
  /** The gadget's own time, s; null where it tells none. */
  readonly timeS: number | null;
  readonly sequence: number | null;
  readonly values: readonly number[];
}

export interface IntakeSink {
  /** Readings in order of time, which never runs backwards. */
  accept(timeS: number, values: readonly number[]): void;
  remark(code: string, text: string): void;
}

export interface IntakeOptions {
  /** Expected readings a second, until the gadget's own pace is known. */
  readonly rateHz: number;
  /** Readings wait so long for earlier ones that are still on their way, s; 0 for cables, where none overtakes another. */
  readonly orderWindowS: number;
  /** Seconds of gadget time a second of the server's; other than 1 for simulated gadgets. */
  readonly speed: () => number;
}

export type Outcome = 'accepted' | 'duplicate' | 'late';

/** A gadget's clock may run this far ahead of the server's between two readings; further on, it was set anew. */
const LEAD_S = 60;
/**
 * What comes late only ever lies behind. Once a clock has kept its distance for a while, a reading that lies further ahead
 * than any before, by this and by what a poor clock gains meanwhile, comes from a clock that was set.
 */
const STEADY_S = 5;
const [AHEAD_S, GAIN] = [2, 0.02];
/** Nearer than this to its least distance, a reading was not held up. */
const PROMPT_S = 1;
/** Sequence numbers remembered to tell doubled readings. */
const REMEMBERED = 20_000;
/** Intervals from which the gadget's own pace is told: an odd number has a middle. */
const PACED_BY = 15;

interface Waiting {
  readonly timeS: number;
  readonly values: readonly number[];
  readonly arrivalS: number;
}

/**
 * Puts what a gadget sends on one time base: drops doubles by their number, waits for overtaken ones, counts what is lost,
 * and goes on after the gadget restarts or its clock is set. Times are never invented: a shift is remarked with its size.
 */
export class Intake {
  lost = 0;
  duplicated = 0;
  late = 0;
  private readonly sink: IntakeSink;
  private readonly options: IntakeOptions;
  private waiting: Waiting[] = [];
  /** Newest given on. */
  private lastS: number | null = null;
  /** Newest taken in, on the common time base, with when it came. */
  private newest: { readonly timeS: number; readonly arrivalS: number } | null = null;
  private startArrivalS: number | null = null;
  private shiftS = 0;
  private readonly seen = new Set<number>();
  private lastSequence: number | null = null;
  /** How much later than the promptest one, by its time, the newest came. */
  private behindS = 0;
  /** The newest time as the gadget told it. */
  private toldS = Number.NaN;
  /** One reading that came before its time; a second one after it means that the clock did. */
  private stray: { readonly reading: IncomingReading; readonly arrivalS: number } | null = null;
  private intervals: number[] = [];
  private pace: number | null = null;

  constructor(options: IntakeOptions, sink: IntakeSink) {
    this.options = options;
    this.sink = sink;
  }

  /** Seconds between readings, by the gadget's own pace where that is known. */
  get periodS(): number {
    return this.pace ?? 1 / this.options.rateHz;
  }

  /** @param arrivalS when it came, by a clock that only runs forwards */
  take(reading: IncomingReading, arrivalS: number): Outcome {
    this.startArrivalS ??= arrivalS;
    const { sequence } = reading;
    if (sequence !== null && this.seen.has(sequence) && !this.restarted(reading)) {
      this.duplicated++;
      return 'duplicate';
    }
    const timeS =
      reading.timeS === null ? arrivalS - this.startArrivalS : this.onCommonTime(reading, arrivalS);
    if (timeS === this.newest?.timeS && sequence === null) {
      // Two readings of one instant cannot both stand.
      this.duplicated++;
      return 'duplicate';
    }
    if (timeS === null) {
      this.late++;
      this.remember(sequence);
      return 'late';
    }
    this.accept(reading, timeS, arrivalS);
    return 'accepted';
  }

  private accept({ sequence, values, timeS: toldS }: IncomingReading, timeS: number, arrivalS: number): void {
    this.count(sequence, timeS);
    this.remember(sequence);
    if (!this.newest || timeS > this.newest.timeS) {
      if (this.newest) this.behindS = Math.max(0, this.behindS - this.leadOf(timeS, arrivalS));
      this.newest = { timeS, arrivalS };
      this.toldS = toldS ?? Number.NaN;
    }
    if (this.options.orderWindowS === 0) this.give({ timeS, values, arrivalS });
    else this.hold({ timeS, values, arrivalS });
  }

  /** How much more time passed by the gadget's clock than here since the newest reading, s. */
  private leadOf(timeS: number, arrivalS: number): number {
    const passed = (arrivalS - this.newest!.arrivalS) * this.options.speed();
    return timeS - this.newest!.timeS - passed;
  }

  private wasSet(timeS: number, arrivalS: number): boolean {
    const lead = this.leadOf(timeS, arrivalS);
    if (lead > LEAD_S) return true;
    const isSteady =
      this.options.speed() === 1 &&
      this.newest!.arrivalS - this.startArrivalS! >= STEADY_S &&
      this.behindS < PROMPT_S;
    const passed = arrivalS - this.newest!.arrivalS;
    return isSteady && lead - this.behindS > AHEAD_S + GAIN * passed;
  }

  /** Gives on what has waited long enough. */
  flush(nowS: number): void {
    const ripe = this.waiting.findIndex((w) => nowS - w.arrivalS < this.options.orderWindowS);
    const give = this.waiting.splice(0, ripe < 0 ? this.waiting.length : ripe);
    for (const w of give) this.give(w);
  }

  /** Readings that still wait to be put in order. */
  get held(): number {
    return this.waiting.length;
  }

  private hold(reading: Waiting): void {
    let at = this.waiting.length;
    while (at > 0 && this.waiting[at - 1]!.timeS > reading.timeS) at--;
    this.waiting.splice(at, 0, reading);
  }

  private give({ timeS, values }: Waiting): void {
    if (this.lastS !== null && timeS <= this.lastS) {
      // Two readings of one instant cannot both stand.
      if (timeS < this.lastS) this.late++;
      else this.duplicated++;
      return;
    }
    if (this.lastS !== null) {
      this.intervals.push(timeS - this.lastS);
      // The middle of so many intervals holds until there are as many new ones.
      if (this.intervals.length === PACED_BY) {
        this.pace = this.intervals.toSorted((a, b) => a - b)[PACED_BY >> 1]!;
        this.intervals = [];
      }
    }
    this.lastS = timeS;
    this.sink.accept(timeS, values);
  }

  /** The reading's time on the common base, or null when it comes too late to be put in order. */
  private onCommonTime(reading: IncomingReading, arrivalS: number): number | null {
    if (!this.newest) return reading.timeS! + this.shiftS;
    const wrap = wrapOf(this.toldS, reading.timeS!);
    if (wrap) {
      this.shiftS += wrap.byS;
      const what = `The gadget’s ${wrap.unit} counter wrapped around`;
      this.sink.remark(
        'wrapped',
        `${what}: ${wrap.byS} s added to its timestamps from ${reading.timeS} s on.`,
      );
    }
    // One from before that, which was overtaken.
    const before = wrapOf(reading.timeS!, this.toldS)?.byS ?? 0;
    const timeS = reading.timeS! + this.shiftS - (before <= this.shiftS ? before : 0);
    const passed = (arrivalS - this.newest.arrivalS) * this.options.speed();
    const step = timeS - this.newest.timeS;
    if (this.wasSet(timeS, arrivalS)) return this.shift(reading, passed, 'clock-set');
    if (step >= 0 && (step > 0 || reading.sequence === null)) {
      this.stray = null;
      return timeS;
    }
    // Within the window it was only overtaken.
    if (this.options.orderWindowS > 0 && (this.lastS === null || timeS > this.lastS)) return timeS;
    if (this.restarted(reading)) {
      this.seen.clear();
      this.lastSequence = null;
      return this.shift(reading, passed, 'restarted');
    }
    if (reading.sequence !== null && this.lastSequence !== null && reading.sequence > this.lastSequence)
      return this.shift(reading, passed, 'clock-set');
    if (reading.sequence !== null) return null;
    // Without numbers, two in a row that both come before their time tell that the clock was set or the gadget restarted.
    const first = this.stray;
    if (!first || first.reading.timeS! > reading.timeS!) {
      this.stray = { reading, arrivalS };
      return null;
    }
    // The first of them was none that came late.
    this.late--;
    const meanwhile = (first.arrivalS - this.newest.arrivalS) * this.options.speed();
    this.accept(first.reading, this.shift(first.reading, meanwhile, 'restarted'), first.arrivalS);
    return reading.timeS! + this.shiftS;
  }

  /** Whether both number and time began anew: a gadget that lost its power counts from the start again. */
  private restarted({ sequence, timeS }: IncomingReading): boolean {
    if (sequence === null || this.lastSequence === null || !this.newest) return false;
    const earlier = timeS === null || timeS + this.shiftS < this.newest.timeS - this.options.orderWindowS;
    return earlier && sequence < 3 && this.lastSequence > sequence + 3;
  }

  /** Lets time go on by what passed here, and says so. */
  private shift(reading: IncomingReading, passedS: number, code: string): number {
    const goesOn = this.newest!.timeS + Math.max(this.periodS, passedS);
    const by = goesOn - (reading.timeS! + this.shiftS);
    this.shiftS += by;
    this.behindS = 0;
    this.stray = null;
    const what = code === 'restarted' ? 'The gadget restarted' : 'The gadget’s clock was changed';
    this.sink.remark(code, `${what}: ${by.toFixed(3)} s added to its timestamps from ${reading.timeS} s on.`);
    return goesOn;
  }

  private count(sequence: number | null, timeS: number): void {
    if (sequence !== null) {
      if (this.lastSequence !== null) {
        if (sequence > this.lastSequence + 1) this.lost += sequence - this.lastSequence - 1;
        // It was counted as lost, and only came later.
        else if (sequence < this.lastSequence && this.lost > 0) this.lost--;
      }
      this.lastSequence = Math.max(this.lastSequence ?? sequence, sequence);
      return;
    }
    if (!this.newest) return;
    const missed = Math.round((timeS - this.newest.timeS) / this.periodS) - 1;
    if (missed > 0) this.lost += missed;
  }

  private remember(sequence: number | null): void {
    if (sequence === null) return;
    this.seen.add(sequence);
    if (this.seen.size > REMEMBERED) this.seen.delete(this.seen.values().next().value!);
  }
}
