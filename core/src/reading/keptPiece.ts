import type { Block } from '../stage/contract.ts';
import { roomFor } from '../stage/roomFor.ts';

/**
 * Readings of one channel from one piece of rows. What comes in one block is looked at where it lies, until the next rows
 * are fed; only what comes in several is copied.
 */
export class KeptPiece {
  length = 0;
  times: Float64Array = new Float64Array(0);
  values: Float64Array = new Float64Array(0);
  private readonly own = { times: new Float64Array(0), values: new Float64Array(0) };

  clear(): void {
    this.length = 0;
  }

  add({ length, times, lanes }: Block): void {
    const { values } = lanes[0]!;
    if (length === 0) return;
    if (this.length === 0) {
      this.times = times;
      this.values = values;
      this.length = length;
      return;
    }
    const before = this.length;
    const room = before + length;
    for (const [column, added] of [
      ['times', times],
      ['values', values],
    ] as const) {
      const from = this[column];
      if (this.own[column].length < room) this.own[column] = new Float64Array(roomFor(room));
      const to = this.own[column];
      if (from !== to) to.set(from.subarray(0, before));
      to.set(added.subarray(0, length), before);
      this[column] = to;
    }
    this.length = room;
  }
}
