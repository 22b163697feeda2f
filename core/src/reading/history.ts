import { lowerBound } from '../numerics/index.ts';

/** Readings column by column. */
export interface Readings {
  readonly times: Float64Array;
  readonly columns: readonly Float64Array[];
}

/**
 * The newest readings of one place in a line, oldest first, for as long as asked and no more than a limit. Grows as they
 * come, so that a slow gadget costs little.
 */
export class History {
  private readonly keepS: number;
  private readonly most: number;
  private readonly width: number;
  private all: Float64Array[];
  private from = 0;
  private to = 0;
  private added = 0;

  /** @param keepS how long they are kept @param most however fast they come @param width columns beside the times */
  constructor(keepS: number, most: number, width: number) {
    this.keepS = keepS;
    this.most = most;
    this.width = width;
    this.all = this.room(64);
  }

  get length(): number {
    return this.to - this.from;
  }

  /** How many have ever come, with those that are no longer kept. */
  get total(): number {
    return this.added;
  }

  /** Views, good until the next readings come. */
  get times(): Float64Array {
    return this.all[0]!.subarray(this.from, this.to);
  }

  column(k: number): Float64Array {
    return this.all[k + 1]!.subarray(this.from, this.to);
  }

  /** Time of the newest; NaN without any. */
  get newestS(): number {
    return this.length > 0 ? this.all[0]![this.to - 1]! : Number.NaN;
  }

  /** Views of those from a moment on. */
  since(timeS: number): Readings {
    const { times } = this;
    return this.behind(lowerBound(times, timeS));
  }

  /** Views of the newest so many. */
  newest(count: number): Readings {
    return this.behind(Math.max(0, this.length - count));
  }

  /** Takes the first `count` of some columns; numbers of any kind of array. */
  add(times: ArrayLike<number>, columns: readonly ArrayLike<number>[], count: number): void {
    this.added += count;
    const skipped = Math.max(0, count - this.most);
    this.makeRoom(count - skipped);
    for (let i = skipped; i < count; i++) {
      this.all[0]![this.to] = times[i]!;
      for (let k = 0; k < this.width; k++) this.all[k + 1]![this.to] = columns[k]![i]!;
      this.to++;
    }
    const oldest = this.newestS - this.keepS;
    if (this.length > this.most) this.from = this.to - this.most;
    const t = this.all[0]!;
    while (this.from < this.to && t[this.from]! < oldest) this.from++;
  }

  private behind(first: number): Readings {
    return {
      times: this.times.subarray(first),
      columns: Array.from({ length: this.width }, (_, k) => this.column(k).subarray(first)),
    };
  }

  private makeRoom(count: number): void {
    const size = this.all[0]!.length;
    if (this.to + count <= size) return;
    const { length } = this;
    // Twice what is needed, so that moving them down is seldom.
    const next = length + count > size / 2 ? this.room(2 * (length + count)) : this.all;
    this.all.forEach((column, k) => next[k]!.set(column.subarray(this.from, this.to)));
    this.all = next;
    this.from = 0;
    this.to = length;
  }

  private room(size: number): Float64Array[] {
    return Array.from({ length: this.width + 1 }, () => new Float64Array(size));
  }
}
