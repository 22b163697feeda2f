import { describe, expect, it } from 'vitest';
import { fitCalibration, fitPoint, FITS } from '../src/calibrate/index.ts';
import { compileLine, editLine, invertLine } from '../src/line/index.ts';
import type { Calibration, CalibrationPoint } from '../src/model/index.ts';
import { briefOfAsk, TEMPLATES, thermistorLine } from '../src/plan/index.ts';
import { proveChannel } from '../src/prove/index.ts';
import { movedSince } from '../src/prove/movedSince.ts';

const CONTEXT = { sampleRateHz: 10 };
const bought = thermistorLine('p');
const hidden = compileLine(editLine(bought, [{ stageId: 'divider', params: { seriesOhm: 3360 } }]), CONTEXT);
const points = [0, 25, 60, 95].map(
  (celsius, i): CalibrationPoint =>
    ({
      id: `p${i}`,
      channelId: 'c',
      role: 'fit',
      excluded: null,
      reference: { kind: 'instrument', reading: celsius, uncertainty: 0.2 },
      worth: { value: celsius, uncertainty: 0.2, unit: 'degC' },
      capture: { mean: invertLine(hidden, celsius)[0]!, sd: 0.4, n: 100, nEffective: 90 },
      keptAt: '2026-01-20T00:00:00Z',
    }) as unknown as CalibrationPoint,
);
const result = fitCalibration(
  FITS.find((f) => f.id === 'gain-offset')!,
  bought,
  CONTEXT,
  points.map((p) => fitPoint(p, 'degC')),
);
if (typeof result === 'string') throw new Error(result);
const calibration = {
  id: 'k',
  number: 1,
  result,
  pointIds: points.map((p) => p.id),
} as unknown as Calibration;
const inUse = (edits: Parameters<typeof editLine>[1] = []) =>
  compileLine(editLine(editLine(bought, edits), result.edits), CONTEXT);

describe('a calibration and the line that it was made with', () => {
  it('stand still while nothing is changed', () => {
    expect(movedSince(inUse(), calibration, points)).toBe(0);
    expect(movedSince(inUse(), null, points)).toBe(0);
    // A point that is gone says nothing; one that was left out meanwhile still does.
    expect(movedSince(inUse(), calibration, points.slice(1))).toBe(0);
  });

  it('have moved when a constant before the fit was changed, or a reference corrected', () => {
    const changed = inUse([{ stageId: 'divider', params: { seriesOhm: 3600 } }]);
    expect(movedSince(changed, calibration, points)).toBeGreaterThan(1);
    const corrected = points.map((p, i) => (i === 2 ? { ...p, worth: { ...p.worth, value: 62 } } : p));
    expect(movedSince(inUse(), calibration, corrected)).toBeCloseTo(2, 1);
  });

  it('leave the budget not shown, with the way out, and show it again without the change', () => {
    const whole = TEMPLATES.find((t) => t.id === 'several-temperatures')!.make().brief!;
    const budgetOf = (edits: Parameters<typeof editLine>[1]) =>
      proveChannel({
        line: inUse(edits),
        brief: { ...briefOfAsk(whole, whole.asks[0]!), tolerance: 3 },
        calibration,
        points,
        achievedHz: 10,
        sensor: null,
        atMs: Date.parse('2026-02-01T00:00:00Z'),
      }).claims.find((c) => c.id === 'budget')!;
    expect(budgetOf([{ stageId: 'divider', params: { seriesOhm: 3600 } }])).toMatchObject({
      state: 'not shown',
      sentence: expect.stringMatching(/has changed since this calibration: at its own points/) as string,
      by: 'true-up',
    });
    expect(budgetOf([]).sentence).not.toMatch(/changed since/);
  });
});
