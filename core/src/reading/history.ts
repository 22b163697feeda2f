import { lowerBound } from '../numerics/index.ts';

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

  /** Views of those after a moment. */
  since(timeS: number): { readonly times: Float64Array; readonly columns: readonly Float64Array[] } {
    const { times } = this;
    const first = lowerBound(times, timeS);
    return {
      times: times.subarray(first),
      columns: Array.from({ length: this.width }, (_, k) => this.column(k).subarray(first)),
    };
  }

  /** Takes the first `count` of some columns; numbers of any kind of array. */
  add(times: ArrayLike<number>, columns: readonly ArrayLike<number>[], count: number): void {
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

  clear(): void {
    this.from = this.to = 0;
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
