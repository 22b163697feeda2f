import { readingAtRest } from '../line/atRest.ts';
import { compileLine } from '../line/compile.ts';
import { LineError, type PrepareContext } from '../stage/contract.ts';
import type { LineSpec } from '../model/line.ts';

/** What a gas line shows at its baseline, where the ratio is 1: the level that its curve starts from. Null for other lines. */
export function cleanAirLevel(line: LineSpec, context: PrepareContext): number | null {
  const at = line.stages.findIndex((s) => s.kind === 'ratio-to-baseline' && !s.off);
  if (at < 0) return null;
  try {
    const curve = compileLine(
      { sources: [{ column: 'ratio', unit: '1' }], stages: line.stages.slice(at + 1) },
      context,
    );
    const level = readingAtRest(curve, 1);
    return Number.isFinite(level) ? level : null;
  } catch (error) {
    if (error instanceof LineError) return null;
    throw error;
  }
}
