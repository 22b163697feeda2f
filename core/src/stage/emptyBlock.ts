import type { Block } from './contract.ts';

/** A block of so many columns with room for nothing yet. */
export const emptyBlock = (lanes: number): Block => ({
  length: 0,
  times: new Float64Array(0),
  lanes: Array.from({ length: lanes }, () => ({
    values: new Float64Array(0),
    reasons: new Uint8Array(0),
  })),
});
