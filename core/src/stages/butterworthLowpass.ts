import { Type } from 'typebox';
import { filterStage } from '../line/filterStage.ts';

/** One second-order section: y = b0 x + b1 x1 + b2 x2 - a1 y1 - a2 y2. A first-order section has b2 = a2 = 0. */
interface Section {
  b0: number;
  b1: number;
  b2: number;
  a1: number;
  a2: number;
}

/**
 * Low-pass Butterworth as second-order sections by the bilinear transform with prewarping, -3 dB at the cut-off,
 * unit gain at rest. Sections, not one long polynomial, because high orders lose their digits in that form.
 * Source: Oppenheim and Schafer, Discrete-Time Signal Processing, 3rd edition, 7.1.3.
 * @throws {RangeError} when the cut-off is not below half the sample rate
 */
function designSections(order: number, cutoffHz: number, sampleRateHz: number): Section[] {
  if (cutoffHz >= sampleRateHz / 2) {
    throw new RangeError(
      `Butterworth low-pass, Cut-off must be below half the sample rate, ${sampleRateHz / 2} Hz; received ${cutoffHz} Hz. Lower the cut-off or sample faster.`,
    );
  }
  const w = Math.tan((Math.PI * cutoffHz) / sampleRateHz);
  const sections: Section[] = [];
  for (let k = 0; k < Math.floor(order / 2); k++) {
    const damping = 2 * Math.sin((Math.PI * (2 * k + 1)) / (2 * order));
    const norm = 1 + damping * w + w * w;
    const b = (w * w) / norm;
    sections.push({
      b0: b,
      b1: 2 * b,
      b2: b,
      a1: (2 * (w * w - 1)) / norm,
      a2: (1 - damping * w + w * w) / norm,
    });
  }
  if (order % 2 === 1) {
    const b = w / (1 + w);
    sections.push({ b0: b, b1: b, b2: 0, a1: (w - 1) / (1 + w), a2: 0 });
  }
  return sections;
}

export const butterworthLowpass = filterStage<{ order: number; cutoffHz: number }>({
  kind: 'butterworth-lowpass',
  title: 'Butterworth low-pass',
  summary: 'Keeps slow changes, cuts what is faster than the cut-off',
  params: Type.Object({
    order: Type.Integer({ minimum: 1, maximum: 12, title: 'Order' }),
    cutoffHz: Type.Number({ exclusiveMinimum: 0, maximum: 1e6, title: 'Cut-off (−3 dB)', unit: 'Hz' }),
  }),
  defaults: { order: 2, cutoffHz: 0.5 },
  start({ order, cutoffHz }, { sampleRateHz }) {
    const sections = designSections(order, cutoffHz, sampleRateHz);
    // Transposed direct form II: two numbers of state a section.
    const z1 = new Float64Array(sections.length);
    const z2 = new Float64Array(sections.length);
    let started = false;
    return (x) => {
      if (!started) {
        started = true;
        sections.forEach((s, i) => {
          z1[i] = x * (1 - s.b0);
          z2[i] = x * (s.b2 - s.a2);
        });
      }
      let value = x;
      for (let i = 0; i < sections.length; i++) {
        const s = sections[i]!;
        const y = s.b0 * value + z1[i]!;
        z1[i] = s.b1 * value - s.a1 * y + z2[i]!;
        z2[i] = s.b2 * value - s.a2 * y;
        value = y;
      }
      return value;
    };
  },
  emitC({ order, cutoffHz }, c, { sampleRateHz }) {
    const started = c.state('started', '0');
    designSections(order, cutoffHz, sampleRateHz).forEach((s, i) => {
      const k = (name: keyof Section) => c.constant(`${name.toUpperCase()}_${i}`, s[name], '');
      const names = { b0: k('b0'), b1: k('b1'), b2: k('b2'), a1: k('a1'), a2: k('a2') };
      const z1 = c.state(`z1_${i}`, '0');
      const z2 = c.state(`z2_${i}`, '0');
      c.line(
        `if (!(${started} > 0)) { ${z1} = x * (1 - ${names.b0}); ${z2} = x * (${names.b2} - ${names.a2}); }`,
      );
      c.line(
        `{ LN_REAL y = ${names.b0} * x + ${z1}; ${z1} = ${names.b1} * x - ${names.a1} * y + ${z2}; ${z2} = ${names.b2} * x - ${names.a2} * y; x = y; }`,
      );
    });
    c.line(`${started} = 1;`);
  },
});
