import type { SensorPart } from '../model/part.ts';
import { seconds, type Candidate } from './verdict.ts';

/** What speaks for the module's own processing and for raw readings, where the shelf has both for one ask; null where it has not. */
export function processingChoice(
  candidates: readonly Candidate<SensorPart>[],
): { own: string; raw: string; ownBest: string; rawBest: string } | null {
  const best = (processing: SensorPart['processing']) =>
    candidates.find((c) => c.part.processing === processing && !c.failed) ??
    candidates.find((c) => c.part.processing === processing);
  const [own, raw] = [best('own'), best('raw')];
  if (!own || !raw) return null;
  return {
    ownBest: own.part.title,
    rawBest: raw.part.title,
    own: `${own.part.title} sends a finished value: less work for you, but its filter (${seconds(own.part.responseS)}) and its formula are fixed, and its processing cannot be undone later.`,
    raw: `${raw.part.title} sends ${raw.part.columns > 1 ? `${raw.part.columns} raw columns` : 'raw values'}: the line does the rest, and you can see, calibrate and redo every step, even on old runs.`,
  };
}
