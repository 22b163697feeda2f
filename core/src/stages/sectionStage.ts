import { sectionFilter, sectionResponse, zeroPhaseSections, type Section } from '../filters/index.ts';
import type { CWriter, PrepareContext, StageParams } from '../stage/contract.ts';

/** The parts that every filter made of second-order sections shares. */
export function sectionParts<P extends StageParams>(
  design: (params: P, context: PrepareContext) => readonly Section[],
) {
  return {
    start: (params: P, context: PrepareContext) => sectionFilter(design(params, context), true),
    response: (params: P, context: PrepareContext, frequencyHz: number) =>
      sectionResponse(design(params, context), frequencyHz, context.sampleRateHz),
    zeroPhase: (params: P, context: PrepareContext, x: Float64Array) =>
      zeroPhaseSections(design(params, context), x),
    emitC: (params: P, c: CWriter, context: PrepareContext) => emitSections(design(params, context), c),
  };
}

/** Sections in C: transposed form II in LN_WIDE, started as if the first sample had always been there. */
function emitSections(sections: readonly Section[], c: CWriter): void {
  const started = c.state('started', '0');
  c.line('LN_WIDE v = x;');
  sections.forEach((s, i) => {
    const k = (name: keyof Section) => c.constant(`${name.toUpperCase()}_${i}`, s[name], '', true);
    const [b0, b1, b2, a1, a2] = [k('b0'), k('b1'), k('b2'), k('a1'), k('a2')];
    const z1 = c.state(`z1_${i}`, '0');
    const z2 = c.state(`z2_${i}`, '0');
    c.line(
      `if (!(${started} > 0)) { LN_WIDE r = v * (${b0} + ${b1} + ${b2}) / (1 + ${a1} + ${a2}); ${z1} = r - ${b0} * v; ${z2} = ${b2} * v - ${a2} * r; }`,
    );
    c.line(
      `{ LN_WIDE y = ${b0} * v + ${z1}; ${z1} = ${b1} * v - ${a1} * y + ${z2}; ${z2} = ${b2} * v - ${a2} * y; v = y; }`,
    );
  });
  c.line(`${started} = 1;`);
  c.line('x = (LN_REAL)v;');
}
