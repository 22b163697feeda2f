import { fitGuided, GUIDED_FITS, wantsAxes, withNeutralAxes } from '@lucky-needle/core/calibrate';
import type { Evidence, FitResult, LineSpec } from '@lucky-needle/core/model';

/** What a guided fit makes of pieces that are not stored yet, in a line that may want its correction still. */
export function previewGuided(
  fitId: string,
  line: LineSpec,
  pieces: readonly { readonly evidence: Evidence }[],
  sampleRateHz: number,
): FitResult | string {
  const fit = GUIDED_FITS.find((f) => f.id === fitId)!;
  return fitGuided(
    fit,
    wantsAxes(fitId, line) ? withNeutralAxes(line, line.sources[0]!.unit) : line,
    pieces.map((p, i) => ({ id: `p${i}`, excluded: null, evidence: p.evidence })),
    { sampleRateHz },
  );
}
