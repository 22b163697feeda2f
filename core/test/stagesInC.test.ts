import { beforeAll, describe, expect, it } from 'vitest';
import { compileLine, emitLineHeader, stageKind } from '../src/line/index.ts';
import { createReadout } from '../src/reading/index.ts';
import { compileAndRun } from './support/runInC.ts';
import { caseName, columnsOf, contextOf, lineOf, samplesOf, STAGE_CASES } from './support/stageCases.ts';

const N = 400;
const CONTEXT = { sampleRateHz: 20 };
const isExportable = ({ kind }: (typeof STAGE_CASES)[number]) =>
  stageKind(kind)!.emitC !== undefined || stageKind(kind)!.over !== undefined;
const EXPORTABLE = STAGE_CASES.filter(isExportable);

/** One program with every exportable stage in it, since starting the compiler is what takes time. */
function program(real: 'double' | 'float'): Map<string, number[][]> {
  const files: Record<string, string> = {};
  const body: string[] = [];
  const input: number[] = [];
  EXPORTABLE.forEach((c, at) => {
    const line = compileLine(lineOf(c), contextOf(c, CONTEXT.sampleRateHz));
    files[`s${at}.h`] = emitLineHeader(line, { name: `s${at}`, remarks: ['a test'] });
    const [ins, outs] = [line.columns.length, line.outputs.length];
    const call =
      ins === 1 && outs === 1
        ? `shown[0] = s${at}_convert(&line, raw[0]);`
        : `s${at}_convert(&line, raw, shown);`;
    body.push(`static void run${at}(void) {
  s${at}_line line;
  LN_REAL raw[${ins}], shown[${outs}];
  s${at}_start(&line);
  for (int i = 0; i < ${N}; i++) {
    for (int k = 0; k < ${ins}; k++) raw[k] = (LN_REAL)next();
    ${call}
    for (int k = 0; k < ${outs}; k++) printf("%.17g ", (double)shown[k]);
    printf("\\n");
  }
}`);
    const samples = samplesOf(c, N);
    const columns = line.columns.map((l) => samples[columnsOf(c).indexOf(l.name)]!);
    for (let i = 0; i < N; i++) for (const column of columns) input.push(column[i]!);
  });
  files['main.c'] = `#include <stdio.h>
#include <stdlib.h>
${EXPORTABLE.map((_, at) => `#include "s${at}.h"`).join('\n')}
static double next(void) { char text[64]; if (scanf("%63s", text) != 1) exit(2); return atof(text); }
${body.join('\n')}
int main(void) {
${EXPORTABLE.map((_, at) => `  run${at}();`).join('\n')}
  return 0;
}
`;
  const out = compileAndRun(
    { files, main: 'main.c', flags: [`-DLN_REAL=${real}`] },
    input.map(String).join('\n'),
  );
  const rows = out
    .trim()
    .split('\n')
    .map((row) =>
      row
        .trim()
        .split(' ')
        .map((t) => (/nan/i.test(t) ? Number.NaN : Number(t))),
    );
  return new Map(EXPORTABLE.map((c, at) => [caseName(c), rows.slice(at * N, (at + 1) * N)]));
}

/** What the core gives, instant by instant; NaN where a stage gives nothing. */
function core(c: (typeof STAGE_CASES)[number]): number[][] {
  const times = Float64Array.from({ length: N }, (_, i) => i / CONTEXT.sampleRateHz);
  const line = lineOf(c);
  const { sampleRateHz, slowestHz } = contextOf(c, CONTEXT.sampleRateHz);
  const outputs = compileLine(line, { sampleRateHz, slowestHz }).outputs;
  const rows = Array.from({ length: N }, () => outputs.map(() => Number.NaN));
  const readout = createReadout({
    columns: columnsOf(c),
    sampleRateHz,
    channels: [{ id: 'c', line, slowestHz }],
  });
  readout.feed({ length: N, times, columns: samplesOf(c, N) }, (_channel, stages) => {
    const { length, times: at, lanes } = stages.at(-1)!;
    for (let i = 0; i < length; i++)
      rows[Math.round(at[i]! * sampleRateHz)] = lanes.map((lane) => lane.values[i]!);
  });
  return rows;
}

describe.each(['double', 'float'] as const)('every exportable stage in C, %s', (real) => {
  let made: Map<string, number[][]>;
  beforeAll(() => {
    made = program(real);
  }, 120_000);

  it.each(EXPORTABLE.map(caseName))('%s', (name) => {
    const c = EXPORTABLE.find((candidate) => caseName(candidate) === name)!;
    // Where readings belong to instants before the call that gives them, those that come are compared in turn.
    const inTurn = (rows: number[][]) => (c.late ? rows.filter((row) => !Number.isNaN(row[0])) : rows);
    const expected = inTurn(core(c));
    const ours = inTurn(made.get(name)!);
    expect(ours).toHaveLength(expected.length);
    const bound = real === 'double' ? 1e-9 : 1e-4;
    for (let k = 0; k < expected[0]!.length; k++) {
      const good = expected.map((row) => row[k]!).filter((v) => !Number.isNaN(v));
      expect(good.length).toBeGreaterThan(40);
      const span = Math.max(...good) - Math.min(...good);
      let misplaced = 0;
      let worst = 0;
      expected.forEach((row, i) => {
        const [a, b] = [row[k]!, ours[i]![k]!];
        if (Number.isNaN(a) !== Number.isNaN(b)) misplaced++;
        else if (!Number.isNaN(a)) worst = Math.max(worst, Math.abs(a - b) / Math.max(span, Math.abs(a)));
      });
      // A value within rounding of the edge of a stage's domain may fall on either side in single precision.
      expect(misplaced).toBeLessThanOrEqual(real === 'double' ? 0 : 1);
      expect(worst).toBeLessThan(bound);
    }
  });
});

describe('what cannot be written in C', () => {
  it.each(STAGE_CASES.filter((c) => !isExportable(c)).map((c) => [caseName(c), c] as const))(
    '%s says so',
    (_name, c) => {
      expect(() =>
        emitLineHeader(compileLine(lineOf(c), contextOf(c, CONTEXT.sampleRateHz)), {
          name: 'x',
          remarks: [],
        }),
      ).toThrow(/cannot be exported as C. Remove it/);
    },
  );
});
