import type { CompiledStage } from './compiledLine.ts';
import { REASON, type Block, type LaneData } from '../stage/contract.ts';

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
      for (let k = 0; k < stages.length; k++) {
        if (!wanted[k + 1] && k + 1 < stages.length) continue;
        const out = blocks[k + 1]!;
        out.length = raw.length;
        out.times = raw.times;
        for (let j = 0; j < raw.lanes.length; j++) {
          const { values: x, reasons: given } = raw.lanes[j]!;
          if (!lookUp(x, given, out.lanes[j]!, raw.length, low, high, values[k]!, reasons[k]!)) return 0;
        }
      }
      return stages.length;
    },
  };
}

/** False when a sample is bad already or no whole code: then the stages run themselves. */
function lookUp(
  x: Float64Array,
  given: Uint8Array,
  to: LaneData,
  n: number,
  low: number,
  high: number,
  values: Float64Array,
  reasons: Uint8Array,
): boolean {
  const out = to.values;
  const toReasons = to.reasons;
  toReasons.fill(REASON.ok, 0, n);
  for (let i = 0; i < n; i++) {
    const v = x[i]!;
    const code = v | 0;
    if (code !== v || code < low || code > high || given[i] !== REASON.ok) return false;
    const y = values[code - low]!;
    out[i] = y;
    if (y !== y) toReasons[i] = reasons[code - low]!;
  }
  return true;
}
