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
      const through = (k: number) => lookUpLanes(raw, blocks[k + 1]!, low, high, values[k]!, reasons[k]!);
      const last = stages.length - 1;
      const bad = through(last);
      if (bad === null) return 0;
      for (let k = 0; k < last; k++) {
        // What is good behind them all was good behind each.
        if (wanted[k + 1] || bad > 0) through(k);
        else allGood(raw, blocks[k + 1]!);
      }
      return stages.length;
    },
  };
}

/** A block without values whose readings are all good. */
function allGood(raw: Block, out: Block): void {
  out.length = raw.length;
  out.times = raw.times;
  for (const { reasons } of out.lanes) reasons.fill(REASON.ok, 0, raw.length);
}

/** How many are bad; null when one is bad already or no whole code: then the stages run themselves. */
function lookUpLanes(
  raw: Block,
  out: Block,
  low: number,
  high: number,
  values: Float64Array,
  reasons: Uint8Array,
): number | null {
  out.length = raw.length;
  out.times = raw.times;
  let all = 0;
  for (let j = 0; j < raw.lanes.length; j++) {
    const bad = lookUp(raw.lanes[j]!, out.lanes[j]!, raw.length, low, high, values, reasons);
    if (bad < 0) return null;
    all += bad;
  }
  return all;
}

/** How many are bad; -1 when a sample is bad already or no whole code. */
function lookUp(
  raw: LaneData,
  to: LaneData,
  n: number,
  low: number,
  high: number,
  values: Float64Array,
  reasons: Uint8Array,
): number {
  const { values: x, reasons: given } = raw;
  const out = to.values;
  const toReasons = to.reasons;
  toReasons.fill(REASON.ok, 0, n);
  let bad = 0;
  for (let i = 0; i < n; i++) {
    const v = x[i]!;
    const code = v | 0;
    if (code !== v || code < low || code > high || given[i] !== REASON.ok) return -1;
    const y = values[code - low]!;
    out[i] = y;
    if (y !== y) {
      toReasons[i] = reasons[code - low]!;
      bad++;
    }
  }
  return bad;
}
