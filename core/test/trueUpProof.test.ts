import { describe, expect, it } from 'vitest';
import { fitCalibration, fitPoint, fitsFor } from '../src/calibrate/index.ts';
import { compileLine, invertLine } from '../src/line/index.ts';
import type { Calibration, CalibrationPoint, FitResult } from '../src/model/calibration.ts';
import type { Channel, Gadget } from '../src/model/gadget.ts';
import { allClaims, briefFor, gadgetProof, SHELF, TEMPLATES, trueUpChannel } from '../src/plan/index.ts';
import { rangeIn } from '../src/plan/rangeIn.ts';
import { createWorld, FAMILIES } from '../src/simulate/index.ts';
import { familyGadget } from './support/familyGadget.ts';

const AT = '2026-02-01T00:00:00Z';

/** Points at five readings over the range, where the line can be walked back to raw values. */
function pointsOf(gadget: Gadget, channel: Channel): CalibrationPoint[] {
  const line = compileLine(channel.line, { sampleRateHz: gadget.sampleRateHz });
  const { unit } = line.outputs[0]!;
  const range = rangeIn(briefFor(gadget, channel)!, unit);
  if (!range || line.sources.length > 1) return [];
  return [0, 0.25, 0.5, 0.75, 1].flatMap((share, k) => {
    const value = range.low + share * (range.high - range.low);
    const raw = rawAt(line, value);
    if (raw === null) return [];
    const worth = {
      title: 'typed',
      value: value * 1.001,
      unit,
      uncertainty: 1e-4 * range.high,
      workings: [],
    };
    return [
      {
        id: `${channel.id}-${k}`,
        channelId: channel.id,
        role: k === 3 ? ('check' as const) : ('fit' as const),
        reference: { kind: 'typed', title: `of its own, ${k}`, value, unit, uncertainty: worth.uncertainty },
        worth,
        capture: { mean: raw, sd: 1, n: 50, nEffective: 50, durationS: 5 },
        excluded: null,
        keptAt: AT,
      } as unknown as CalibrationPoint,
    ];
  });
}

function rawAt(line: ReturnType<typeof compileLine>, value: number): number | null {
  try {
    const [raw] = invertLine(line, value);
    return Number.isFinite(raw) ? raw! : null;
  } catch {
    return null;
  }
}

/** What a guided true-up leaves where there is no fit through points: constants as they were, and now known. */
const guided = {
  fit: 'guided',
  title: 'Manual count',
  parameters: [],
  covariance: [],
  edits: [],
  residuals: [],
  leaveOneOutRms: null,
  aicc: null,
  chiSquare: null,
  degreesOfFreedom: 3,
  birge: 1,
  converged: true,
  reason: '',
  validRaw: [-1e12, 1e12],
  validReading: [-1e12, 1e12],
} satisfies FitResult;

function calibrationOf(gadget: Gadget, channel: Channel, points: readonly CalibrationPoint[]): Calibration {
  const context = { sampleRateHz: gadget.sampleRateHz };
  const { unit } = compileLine(channel.line, context).outputs[0]!;
  const fitted = points.filter((p) => p.role === 'fit').map((p) => fitPoint(p, unit));
  const result =
    fitsFor(channel.line)
      .map((kind) => fitCalibration(kind, channel.line, context, fitted))
      .find((r): r is FitResult => typeof r !== 'string' && r.converged) ?? guided;
  return {
    id: `c-${channel.id}`,
    channelId: channel.id,
    number: 1,
    state: 'in use',
    result,
    pointIds: points.filter((p) => p.role === 'fit').map((p) => p.id),
    note: '',
    createdAt: AT,
    usedAt: AT,
  };
}

/** Rows of the family's world, as the bench would have seen them. */
function seenOf(family: number) {
  const { draw, sampleRateHz } = FAMILIES.find((f) => f.family === family)!;
  const world = createWorld(draw(3));
  const rows = Array.from({ length: 20 }, () => [...world.step(1 / sampleRateHz)]);
  return { columns: world.columns, rows, now: {}, figures: {} };
}

describe('the proof of every family, before and after a true-up', () => {
  const families = TEMPLATES.flatMap((t) => (t.family === null ? [] : [[t.id, t.family] as const]));
  it.each(families)('%s', (_id, family) => {
    const gadget = familyGadget(family);
    const judged = gadget.channels.filter((c) => briefFor(gadget, c) && trueUpChannel(gadget, c).id === c.id);
    const points = judged.flatMap((c) => pointsOf(gadget, c));
    const calibrations = judged.map((c) =>
      calibrationOf(
        gadget,
        c,
        points.filter((p) => p.channelId === c.id),
      ),
    );
    const proofs = [
      [[], []],
      [calibrations, points],
    ] as const;
    const [before, after] = proofs.map(([used, kept]) =>
      gadgetProof(
        gadget,
        used,
        kept,
        gadget.sampleRateHz,
        seenOf(family),
        [],
        SHELF,
        Date.parse(AT) + 86_400_000,
      )!,
    );
    for (const proof of [before!, after!]) {
      expect(proof.channels.map((c) => c.channelId)).toEqual(judged.map((c) => c.id));
      for (const channel of proof.channels) {
        const claims = allClaims(channel);
        expect(claims.length, channel.name).toBeGreaterThan(0);
        for (const c of claims) {
          expect(c.sentence, c.title).not.toBe('');
          expect(c.sentence, c.title).not.toMatch(/NaN|Infinity|undefined/);
          // What is not shown says what is next, and where; what passes has nothing left to do.
          expect([c.title, c.next !== '', c.by !== null]).toEqual([
            c.title,
            c.state !== 'pass',
            c.state !== 'pass',
          ]);
        }
      }
    }
    // Without a sensor and without figures from a bench, points alone make no budget pass.
    expect(before!.channels.flatMap((c) => allClaims(c)).find((c) => c.id === 'budget')?.state).not.toBe(
      'pass',
    );
    // What was trued up through points has shown more than before, and never less.
    if (points.length > 0) expect(after!.shown).toBeGreaterThan(before!.shown);
    else expect(after!.shown).toBeGreaterThanOrEqual(before!.shown);
  });
});
