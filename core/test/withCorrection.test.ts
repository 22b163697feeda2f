import { describe, expect, it } from 'vitest';
import {
  fitCalibration,
  fitsFor,
  hasCorrection,
  withCorrection,
  type FitPoint,
} from '../src/calibrate/index.ts';
import { compileLine, editLine, readingAtRest } from '../src/line/index.ts';
import type { LineSpec } from '../src/model/line.ts';

const CONTEXT = { sampleRateHz: 10 };
/** Counts to millimetres by a straight line, as a maker without a template builds it. */
const plain: LineSpec = {
  sources: [{ column: 'raw', unit: 'count' }],
  stages: [
    {
      id: 'correction',
      kind: 'linear',
      params: { slope: 0.1, intercept: 2, to: 'mm' },
      uncertainty: {},
      off: false,
    },
  ],
};

describe('a line that nothing corrects', () => {
  it('has no fit, gets a correction that changes nothing, and then every fit of a reading', () => {
    expect(fitsFor(plain)).toEqual([]);
    const line = withCorrection(plain);
    expect(hasCorrection(plain)).toBe(false);
    expect(hasCorrection(line)).toBe(true);
    expect(withCorrection(line)).toBe(line);
    // The name of another stage is not taken.
    expect(line.stages.map((s) => s.id)).toEqual(['correction', 'correction-2']);
    for (const raw of [0, 17.5, 900])
      expect(readingAtRest(compileLine(line, CONTEXT), raw)).toBe(
        readingAtRest(compileLine(plain, CONTEXT), raw),
      );
    expect(fitsFor(line).map((f) => f.id)).toContain('gain-offset');
  });

  it('is trued up by it', () => {
    const line = withCorrection(plain);
    // Truly 0.11 mm a count, and 1 at zero.
    const points: FitPoint[] = [10, 300, 600, 900].map((raw, i) => ({
      id: `p${i}`,
      raw,
      uRaw: 0.1,
      reference: 1 + 0.11 * raw,
      uReference: 0.01,
      title: `${i}`,
    }));
    const fit = fitsFor(line).find((f) => f.id === 'gain-offset')!;
    const result = fitCalibration(fit, line, CONTEXT, points);
    if (typeof result === 'string') throw new Error(result);
    expect(readingAtRest(compileLine(editLine(line, result.edits), CONTEXT), 450)).toBeCloseTo(50.5, 3);
  });

  it('counts none that is off as one', () => {
    const off = withCorrection(plain);
    expect(hasCorrection({ ...off, stages: off.stages.map((s) => ({ ...s, off: true })) })).toBe(false);
  });
});
