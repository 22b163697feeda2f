import { describe, expect, it } from 'vitest';
import { acMiddle, fitEllipsoid, fitSixPosition, withAxes } from '../src/calibrate/index.ts';
import { compileLine, runLine } from '../src/line/index.ts';
import { seededRandom } from '../src/numerics/index.ts';
import { TEMPLATES } from '../src/plan/index.ts';

describe('acMiddle', () => {
  const swing = (n: number, perCycle: number, middle: number, size: number, lag = 0) =>
    Float64Array.from(
      { length: n },
      (_, i) => middle + size * Math.sin((2 * Math.PI * (i - lag)) / perCycle),
    );

  it('is the middle whatever part of a swing the stretch begins and ends in', () => {
    for (const n of [1000, 1017, 1033]) {
      const found = acMiddle(swing(n, 47.3, 2060.4, 800), swing(n, 47.3, 2048.2, 90, 5));
      if (typeof found === 'string') throw new Error(found);
      expect(found.voltage).toBeCloseTo(2060.4, 1);
      expect(found.current).toBeCloseTo(2048.2, 1);
      // A plain mean of the same stretch is off by a count or more.
      expect(found.cycles).toBeGreaterThan(18);
    }
  });
  it('wants five whole cycles', () => {
    expect(acMiddle(swing(150, 47, 0, 1), swing(150, 47, 0, 1))).toMatch(/Only \d whole cycles/);
    expect(acMiddle(new Float64Array(500).fill(7), new Float64Array(500))).toMatch(/5 are needed/);
  });
});

describe('withAxes', () => {
  const matrix = [2, 0, 0, 0, 2, 0, 0, 0, 2];
  const offset = [10, 20, 30];

  it('puts its constants where the line has a three-axis correction already', () => {
    const { line } = TEMPLATES.find((t) => t.id === 'motion-counter')!.make().channels[0]!;
    const right = withAxes(line, { offset, matrix }, 'gn');
    expect(right.stages).toHaveLength(line.stages.length);
    expect(right.stages[0]).toMatchObject({ id: line.stages[0]!.id, params: { offset, matrix, to: 'gn' } });
    expect(right.stages.slice(1)).toEqual(line.stages.slice(1));
  });

  it('puts the iron right before a heading, and leaves the gravity beside it alone', () => {
    const { line } = TEMPLATES.find((t) => t.id === 'heading')!.make().channels[0]!;
    const right = withAxes(line, { offset, matrix }, 'count');
    expect(right.stages.map((s) => s.kind)).toEqual(['vector-correction', ...line.stages.map((s) => s.kind)]);
    const compiled = compileLine(right, { sampleRateHz: 20 });
    const lanes = [11, 22, 33, 0, 0, 4096].map((v) => ({
      values: Float64Array.of(v),
      reasons: new Uint8Array(1),
    }));
    const [tap] = runLine(compiled, { length: 1, times: Float64Array.of(0), lanes }, [1]);
    expect(tap!.lanes.map((l) => l.values[0])).toEqual([2, 4, 6, 0, 0, 4096]);
  });

  it('takes what the sphere and the six rests give', () => {
    const random = seededRandom(4);
    const cloud = Array.from({ length: 600 }, () => {
      const v = [random.normal(), random.normal(), random.normal()];
      const size = Math.hypot(...v);
      return v.map((x, k) => offset[k]! + (500 * x) / size) as unknown as [number, number, number];
    });
    const sphere = fitEllipsoid(cloud);
    if (typeof sphere === 'string') throw new Error(sphere);
    const six = fitSixPosition(
      [0, 1, 2].flatMap((k) =>
        [1, -1].map((sign) => ({ raw: offset.map((o, j) => o + (j === k ? sign * 2048 : 0)) as never })),
      ),
      1,
    );
    if (typeof six === 'string') throw new Error(six);
    const { line } = TEMPLATES.find((t) => t.id === 'motion-counter')!.make().channels[0]!;
    for (const found of [sphere, six]) {
      const { params } = withAxes(line, found, 'gn').stages[0]!;
      (params['offset'] as number[]).forEach((v, k) => expect(v).toBeCloseTo(offset[k]!, 0));
    }
    expect(six.matrix[0]).toBeCloseTo(1 / 2048, 9);
  });
});
