import { describe, expect, it } from 'vitest';
import {
  compileLine,
  editLine,
  emitLineExample,
  emitLineHeader,
  runLine,
  singleLane,
  type CompiledLine,
} from '../src/line/index.ts';
import type { LineSpec } from '../src/model/line.ts';
import { thermistorLine } from '../src/plan/index.ts';
import { compileAndRun } from './support/runInC.ts';

const CONTEXT = { sampleRateHz: 10 };

/** Compiles the header and feeds it the samples. */
function runInC(
  line: CompiledLine,
  name: string,
  prefix: string,
  samples: readonly number[],
  flags: readonly string[] = [],
): number[] {
  const main = `#include <stdio.h>
#include "line.h"
int main(void) {
  ${prefix}_line line;
  double x;
  ${prefix}_start(&line);
  while (scanf("%lf", &x) == 1) printf("%.17g\\n", (double)${prefix}_convert(&line, (LN_REAL)x));
  return 0;
}
`;
  const header = emitLineHeader(line, { name, remarks: ['a test'] });
  const out = compileAndRun(
    { files: { 'line.h': header, 'main.c': main }, main: 'main.c', flags },
    samples.join('\n'),
  );
  return out
    .trim()
    .split('\n')
    .map((t) => (/nan/i.test(t) ? Number.NaN : Number(t)));
}

function worst(line: CompiledLine, ours: readonly number[], samples: readonly number[]): number {
  const values = Float64Array.from(samples);
  const core = runLine(line, singleLane(values, values))[0]!.lanes[0]!.values;
  return Math.max(
    ...ours.map((v, i) => (Number.isNaN(v) && Number.isNaN(core[i]!) ? 0 : Math.abs(v - core[i]!))),
  );
}

const SAMPLES = [
  0,
  1023,
  ...Array.from({ length: 300 }, (_, i) => Math.round(520 + 480 * Math.sin(i / 17) * Math.cos(i / 5))),
  700.5,
];

const base = thermistorLine('p');
const LINES: [string, LineSpec][] = [
  ['beta and smoothing', base],
  [
    'three terms',
    editLine(base, [
      { stageId: 'thermistor', kind: 'steinhart-hart', params: { a: 1.12e-3, b: 2.37e-4, c: 6e-8 } },
    ]),
  ],
  [
    'every filter, corrected, series to ground',
    {
      ...editLine(base, [
        { stageId: 'divider', params: { side: 'bottom' } },
        { stageId: 'correction', params: { gain: 1.01, offset: -0.3 } },
      ]),
      stages: [
        ...editLine(base, [
          { stageId: 'divider', params: { side: 'bottom' } },
          { stageId: 'correction', params: { gain: 1.01, offset: -0.3 } },
        ]).stages,
        { id: 'mean', kind: 'moving-mean', params: { width: 5 }, uncertainty: {}, off: false },
        {
          id: 'low',
          kind: 'butterworth-lowpass',
          params: { order: 3, cutoffHz: 1.5 },
          uncertainty: {},
          off: false,
        },
      ],
    },
  ],
];

describe('C header', () => {
  it.each(LINES)('%s agrees with the core to 1e-5 degC', (_name, spec) => {
    const line = compileLine(spec, CONTEXT);
    const out = runInC(line, 'Probe 2, loft side', 'probe_2_loft_side', SAMPLES);
    expect(out).toHaveLength(SAMPLES.length);
    expect(out.slice(0, 2).every(Number.isNaN)).toBe(true);
    expect(worst(line, out, SAMPLES)).toBeLessThan(1e-5);
  });

  it('agrees to a few hundredths in single precision, as on a small board', () => {
    const line = compileLine(base, CONTEXT);
    expect(worst(line, runInC(line, 'p', 'p', SAMPLES, ['-DLN_REAL=float']), SAMPLES)).toBeLessThan(0.02);
  });

  it('makes names that C accepts from any channel name, and cannot be broken out of', () => {
    const line = compileLine(base, CONTEXT);
    expect(emitLineHeader(line, { name: '2. Fühler */', remarks: ['x */ int evil;'] })).toContain(
      'ch_2_fu_hler_convert',
    );
    expect(emitLineHeader(line, { name: '★', remarks: ['x */ int evil;'] })).not.toContain('x */');
    expect(runInC(line, '!!', 'channel', [512])).toHaveLength(1);
  });

  it('lets a line without any stage through', () => {
    const line = compileLine({ ...base, stages: [] }, CONTEXT);
    expect(runInC(line, 'raw', 'raw', [17])).toEqual([17]);
  });

  const behindThinning = (kind: string, params: Record<string, number | string>): LineSpec => ({
    sources: [{ column: 'c', unit: 'count' }],
    stages: [
      { id: 't', kind: 'decimate', params: { factor: 4, keep: 'last' }, uncertainty: {}, off: false },
      { id: 's', kind, params, uncertainty: {}, off: false },
    ],
  });

  it.each([
    ['gate-rate', { marks: 2, gateS: 2, to: 'rpm' }],
    ['warm-up', { warmUpS: 8 }],
  ])('%s counts time in calls, also behind a stage that swallows readings', (kind, params) => {
    const line = compileLine(behindThinning(kind, params), CONTEXT);
    const edges = Array.from({ length: 400 }, (_, i) => Math.floor(i * 1.3 + 5 * Math.sin(i / 30)));
    const times = Float64Array.from(edges, (_, i) => i / CONTEXT.sampleRateHz);
    const tap = runLine(line, singleLane(times, Float64Array.from(edges)))[0]!;
    const expected = Array<number>(edges.length).fill(Number.NaN);
    tap.times.forEach((t, i) => (expected[Math.round(t * CONTEXT.sampleRateHz)] = tap.lanes[0]!.values[i]!));
    const ours = runInC(line, 'g', 'g', edges);
    expect(expected.filter((v) => !Number.isNaN(v)).length).toBeGreaterThan(15);
    expect(ours.map(Number.isNaN)).toEqual(expected.map(Number.isNaN));
    ours.forEach((v, i) => Number.isNaN(v) || expect(v).toBeCloseTo(expected[i]!, 9));
  });

  it('refuses what must see every reading behind a stage that swallows some', () => {
    const beats = { over: 3, shortestS: 1, memoryS: 9, minHeight: 1, to: 'perMin' };
    const line = compileLine(behindThinning('beat-rate', beats), CONTEXT);
    expect(() => emitLineHeader(line, { name: 'b', remarks: [] })).toThrow(
      /Beat rate cannot .* after a stage that reduces the number of readings. Move that stage/,
    );
  });

  it('comes with an example that compiles and shows the same readings', () => {
    const heading = {
      sources: ['mx', 'my', 'mz', 'ax', 'ay', 'az'].map((column, k) => ({
        column,
        unit: k < 3 ? ('uT' as const) : ('gn' as const),
      })),
      stages: [
        {
          id: 'h',
          kind: 'heading',
          params: { declinationDeg: 0, mountingDeg: 0 },
          uncertainty: {},
          off: false,
        },
      ],
    };
    for (const [spec, input, expected] of [
      [base, '512\n0\n600\n', /^\d+\.\d+\nbad\n\d+\.\d+\n$/],
      [heading, '0 20 -40 0 0 1\n', /^90 0 0\n$/],
    ] as const) {
      const line = compileLine(spec as LineSpec, CONTEXT);
      const options = { name: 'Vane 1', remarks: ['a test */ int evil;'] };
      const out = compileAndRun(
        {
          files: {
            'vane.h': emitLineHeader(line, options),
            'example.c': emitLineExample(line, options, 'vane.h'),
          },
          main: 'example.c',
        },
        input,
      );
      expect(out).toMatch(expected);
    }
  });
});
