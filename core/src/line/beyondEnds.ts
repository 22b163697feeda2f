import { REASON } from '../stage/contract.ts';
import { readingAtRest } from './atRest.ts';
import type { CompiledLine } from './compile.ts';

/**
 * Where a reading lies that its converter cut off: below all others, -Infinity, or above them, Infinity. NaN for any other
 * reason, and where the line does not say which way it goes.
 */
export function beyondEnds(line: CompiledLine, reason: number): number {
  if (reason !== REASON.saturatedLow && reason !== REASON.saturatedHigh) return Number.NaN;
  const [first] = line.stages;
  const codes = first?.kind.codes?.(first.spec.params);
  if (!codes || line.sources.length !== 1) return Number.NaN;
  const [low, high] = codes;
  const rise = readingAtRest(line, high - 1) - readingAtRest(line, low + 1);
  const end = reason === REASON.saturatedHigh ? Number.POSITIVE_INFINITY : Number.NEGATIVE_INFINITY;
  return rise > 0 ? end : rise < 0 ? -end : Number.NaN;
}
