import type { CompiledStage } from './compile.ts';
import { REASON, type Block } from './stage.ts';

/** Largest converter worth a table. */
const MAX_CODES = 65536;

export interface CodeTables {
  /**
   * Looks the leading stages up for this block.
   * @returns how many stages were done: 0 when a sample is no whole code in range, so that the stages must run themselves
   */
  run(blocks: readonly Block[], wanted: readonly boolean[]): number;
}

interface Plan {
  readonly size: number;
  build(): CodeTables;
}

/**
 * A converter gives whole codes, few of them: the stages that follow it without memory can be worked out once for every
 * code. The entries are what the stages themselves give, so a look-up changes no bit. Null when the line does not start so.
 */
export function codeTables(stages: readonly CompiledStage[]): Plan | null {
  const codes = stages[0]?.kind.codes?.(stages[0].spec.params);
  if (!codes) return null;
  const [low, high] = codes;
  const size = high - low + 1;
  if (!(size <= MAX_CODES)) return null;
  let count = 0;
  while (count < stages.length && stages[count]!.kind.scalar) count++;
  return { size, build: () => build(stages.slice(0, count), low, high) };
}

function build(stages: readonly CompiledStage[], low: number, high: number): CodeTables {
  const size = high - low + 1;
  const values = stages.map(() => new Float64Array(size));
  const reasons = stages.map(() => new Uint8Array(size));
  const maps = stages.map((stage) => stage.kind.scalar!(stage.spec.params));
  for (let code = 0; code < size; code++) {
    let x = low + code;
    let reason: number = REASON.ok;
    maps.forEach((map, k) => {
      if (reason === REASON.ok) {
        const y = map.forward(x);
        if (Number.isNaN(y)) reason = map.reasonAt?.(x) ?? REASON.outOfDomain;
        x = y;
      }
      values[k]![code] = x;
      reasons[k]![code] = reason;
    });
  }
  return {
    run(blocks, wanted) {
      const raw = blocks[0]!;
      if (!raw.lanes.every((lane) => allCodes(lane.values, lane.reasons, raw.length, low, high))) return 0;
      for (let k = 0; k < stages.length; k++) {
        if (!wanted[k + 1] && k + 1 < stages.length) continue;
        const out = blocks[k + 1]!;
        out.length = raw.length;
        out.times = raw.times;
        raw.lanes.forEach((lane, j) => {
          lookUp(
            lane.values,
            out.lanes[j]!.values,
            out.lanes[j]!.reasons,
            raw.length,
            low,
            values[k]!,
            reasons[k]!,
          );
        });
      }
      return stages.length;
    },
  };
}

function allCodes(x: Float64Array, reasons: Uint8Array, n: number, low: number, high: number): boolean {
  for (let i = 0; i < n; i++) {
    const v = x[i]!;
    if (reasons[i] !== REASON.ok || (v | 0) !== v || v < low || v > high) return false;
  }
  return true;
}

function lookUp(
  x: Float64Array,
  to: Float64Array,
  toReasons: Uint8Array,
  n: number,
  low: number,
  values: Float64Array,
  reasons: Uint8Array,
): void {
  for (let i = 0; i < n; i++) {
    const at = (x[i]! | 0) - low;
    to[i] = values[at]!;
    toReasons[i] = reasons[at]!;
  }
}
