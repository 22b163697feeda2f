import { describe, expect, it } from 'vitest';
import { emitLineHeader } from '../src/line/index.ts';
import type { Gadget } from '../src/model/gadget.ts';
import { readoutSpec, TEMPLATES } from '../src/plan/index.ts';
import { createReadout } from '../src/reading/index.ts';
import { createWorld, FAMILIES } from '../src/simulate/index.ts';
import { compileAndRun } from './support/runInC.ts';

/** A simulated gadget of a template, through all it can do, as rows of its raw columns. */
function rowsOf(template: string, family: number, seconds: number) {
  const gadget = { ...TEMPLATES.find((t) => t.id === template)!.make(), template } as unknown as Gadget;
  const { sampleRateHz } = gadget;
  const world = createWorld(FAMILIES.find((f) => f.family === family)!.draw(5));
  const spec = readoutSpec(gadget, [], [], sampleRateHz);
  const rows: number[][] = [];
  for (const { id } of world.conditions) {
    world.setCondition(id);
    for (let i = 0; i < seconds * sampleRateHz; i++) {
      const row = world.step(1 / sampleRateHz);
      rows.push(spec.columns.map((name) => row[world.columns.indexOf(name)]!));
    }
  }
  return { spec, rows };
}

describe.each([
  ['rotation', 10, 60],
  ['beat-rate', 5, 60],
  ['several-temperatures', 14, 20],
  ['impact-peak', 6, 2],
  ['displacement', 13, 10],
])('the first channel of %s', (template, family, seconds) => {
  it('reads in C what the bench reads, sample by sample', () => {
    const { spec, rows } = rowsOf(template, family, seconds);
    const readout = createReadout({ ...spec, channels: spec.channels.slice(0, 1) });
    const line = readout.lines[0]!.line!;
    const n = rows.length;
    const times = Float64Array.from({ length: n }, (_, i) => i / spec.sampleRateHz);
    const shown = new Float64Array(n).fill(Number.NaN);
    readout.feed(
      { length: n, times, columns: spec.columns.map((_, k) => Float64Array.from(rows, (row) => row[k]!)) },
      (_channel, stages) => {
        const { length, times: t, lanes } = stages.at(-1)!;
        for (let i = 0; i < length; i++) shown[Math.round(t[i]! * spec.sampleRateHz)] = lanes[0]!.values[i]!;
      },
    );
    const ins = line.sources.length;
    const from = line.sources.map((s) => spec.columns.indexOf(s.name));
    const call =
      ins === 1 && line.outputs.length === 1
        ? 'shown[0] = g_convert(&line, raw[0]);'
        : 'g_convert(&line, raw, shown);';
    const main = `#include <stdio.h>
#include "g.h"
int main(void) {
  g_line line; double v; LN_REAL raw[${ins}], shown[${line.outputs.length}];
  g_start(&line);
  for (;;) {
    for (int k = 0; k < ${ins}; k++) { if (scanf("%lf", &v) != 1) return 0; raw[k] = (LN_REAL)v; }
    ${call}
    printf("%.17g\\n", (double)shown[0]);
  }
}
`;
    const header = emitLineHeader(line, { name: 'g', remarks: [] });
    const out = compileAndRun(
      { files: { 'g.h': header, 'main.c': main }, main: 'main.c' },
      rows.map((row) => from.map((k) => row[k]).join(' ')).join('\n'),
    )
      .trim()
      .split('\n')
      .map((t) => (/nan/i.test(t) ? Number.NaN : Number(t)));
    expect(out).toHaveLength(n);
    let compared = 0;
    out.forEach((value, i) => {
      if (Number.isNaN(shown[i]!)) return expect(value).toBeNaN();
      compared++;
      expect(Math.abs(value - shown[i]!)).toBeLessThanOrEqual(1e-9 * Math.max(1, Math.abs(shown[i]!)));
    });
    expect(compared).toBeGreaterThan(20);
  });
});

it('the header says how often it is called, with what, and when a reading comes', () => {
  const header = (template: string) => {
    const gadget = { ...TEMPLATES.find((t) => t.id === template)!.make(), template } as unknown as Gadget;
    const { line } = createReadout(readoutSpec(gadget, [], [], gadget.sampleRateHz)).lines[0]!;
    return emitLineHeader(line!, { name: 'x', remarks: ['a name with \\\n a line break and ??/ */ more'] });
  };
  expect(header('rotation')).toMatch(
    /Call for every sample of edges, edge_us, 50 times per second\. A reading comes with each detected edge/,
  );
  expect(header('ac-power')).toMatch(
    /A reading comes every 10 whole cycles;\n \* calls in between return NAN/,
  );
  expect(header('several-temperatures')).not.toMatch(/A reading comes/);
  // What a maker calls a thing cannot leave the comment that it stands in.
  expect(header('rotation').split('\n')[1]).toBe(' * a name with    a line break and  / * / more');
});
