import type { CompiledLine, LineMemory, LineRun } from '../line/compiledLine.ts';
import { REASON, type Block, type StageKind, type StageParams } from '../stage/contract.ts';
import { roomFor } from '../stage/roomFor.ts';
import { lanesFrom, type RawRows } from './rawLanes.ts';

/** A channel whose readings a stage over channels takes. */
export interface OtherLine {
  readonly line: CompiledLine;
  /** Places of its raw columns among those that are fed. */
  readonly from: readonly number[];
  /** Readings before this time are still warming up, s on the gadget's own clock. */
  readonly warmUpS: number;
}

/** What a stage over channels remembers: each other line, what it read last, and what it has read ahead. */
export interface BesideMemory {
  readonly others: readonly {
    readonly line: LineMemory;
    readonly held: Held;
    readonly ahead: readonly Held[];
  }[];
}

type Held = readonly [timeS: number, value: number, reason: number];

const NOTHING: Held = [0, Number.NaN, REASON.waiting];

/**
 * A stage over channels at work: it runs the lines of the others over the same rows, and gives each of its own readings what
 * the others read last. A reading of another that is none makes it none, with its reason.
 */
export class Beside {
  private readonly others: { readonly of: OtherLine; readonly run: LineRun; held: Held; ahead: Held[] }[];
  private readonly combine: (own: number, others: readonly number[]) => number;
  private values = new Float64Array(0);
  private reasons = new Uint8Array(0);

  constructor(kind: StageKind, params: StageParams, others: readonly OtherLine[]) {
    this.combine = kind.over!.combine(params);
    this.others = others.map((of) => ({ of, run: of.line.start([]), held: NOTHING, ahead: [] }));
  }

  /** Rows, before its own readings of them come. */
  hear(rows: RawRows): void {
    for (const { of, run, ahead } of this.others)
      run.process(lanesFrom(rows, of.from), (blocks) => {
        const { length, times, lanes } = blocks.at(-1)!;
        const { values, reasons } = lanes[0]!;
        for (let i = 0; i < length; i++) ahead.push([times[i]!, values[i]!, reasons[i]!]);
      });
  }

  through({ length, times, lanes }: Block): Block {
    if (this.values.length < length) {
      this.values = new Float64Array(roomFor(length));
      this.reasons = new Uint8Array(this.values.length);
    }
    const own = lanes[0]!;
    const read = this.others.map(() => Number.NaN);
    const at = this.others.map(() => 0);
    for (let i = 0; i < length; i++) {
      const t = times[i]!;
      let reason: number = own.reasons[i]!;
      this.others.forEach((other, k) => {
        const { ahead } = other;
        while (at[k]! < ahead.length && ahead[at[k]!]![0] <= t) other.held = ahead[at[k]!++]!;
        const [, value, why] = t < other.of.warmUpS ? WARMING : other.held;
        if (reason === REASON.ok) reason = why;
        read[k] = value;
      });
      const y = reason === REASON.ok ? this.combine(own.values[i]!, read) : Number.NaN;
      this.values[i] = y;
      this.reasons[i] = reason === REASON.ok && Number.isNaN(y) ? REASON.outOfDomain : reason;
    }
    this.others.forEach(({ ahead }, k) => ahead.splice(0, at[k]!));
    return { length, times, lanes: [{ values: this.values, reasons: this.reasons }] };
  }

  save(): BesideMemory {
    return {
      others: this.others.map(({ run, held, ahead }) => ({ line: run.save(), held, ahead: [...ahead] })),
    };
  }

  /** @throws {RangeError} when it is another stage's */
  restore({ others }: BesideMemory): void {
    if (others.length !== this.others.length)
      throw new RangeError(
        `The saved state has ${others.length} other channels, but this stage uses ${this.others.length}. Start again.`,
      );
    others.forEach(({ line, held, ahead }, k) => {
      const other = this.others[k]!;
      other.run.restore(line);
      other.held = held;
      other.ahead = [...ahead];
    });
  }
}

const WARMING: Held = [0, Number.NaN, REASON.warmingUp];
