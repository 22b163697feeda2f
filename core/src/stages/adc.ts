import { Type } from 'typebox';
import { scalarStage } from '../line/scalarStage.ts';
import { REASON } from '../line/stage.ts';

/** Full-scale code of an unsigned converter: 2^bits - 1. */
export const fullScale = (bits: number) => 2 ** bits - 1;

/**
 * Converter counts to the fraction of the reference, or to volts. Full scale is the code 2^bits - 1.
 * A code at either end says only "at least" or "at most", so it gives no number but a reason.
 */
export const adc = scalarStage<{ bits: number; referenceV: number; gives: string }>({
  kind: 'adc',
  title: 'Converter',
  summary: 'Counts to the fraction of the reference voltage, or to volts',
  params: Type.Object({
    bits: Type.Integer({ minimum: 1, maximum: 32, title: 'Bits', unit: 'bit' }),
    referenceV: Type.Number({ exclusiveMinimum: 0, maximum: 100, title: 'Reference', unit: 'V' }),
    gives: Type.String({ enum: ['ratio', 'volt'], title: 'Gives' }),
  }),
  defaults: { bits: 10, referenceV: 5, gives: 'ratio' },
  takes: ['count'],
  gives: (params) => (params.gives === 'volt' ? 'V' : '1'),
  scalar({ bits, referenceV, gives }) {
    const full = fullScale(bits);
    const scale = (gives === 'volt' ? referenceV : 1) / full;
    return {
      forward: (counts) => (counts > 0 && counts < full ? counts * scale : Number.NaN),
      inverse: (value) => value / scale,
      derivative: () => scale,
      reasonAt: (counts) => (counts <= 0 ? REASON.saturatedLow : REASON.saturatedHigh),
    };
  },
  emitC({ bits, referenceV, gives }, c) {
    const full = c.constant('FULL_SCALE', fullScale(bits), 'counts');
    c.line(`if (!(x > 0 && x < ${full})) return LN_BAD;`);
    if (gives === 'volt') c.line(`x = x * ${c.constant('REFERENCE', referenceV, 'V')} / ${full};`);
    else c.line(`x = x / ${full};`);
  },
});
