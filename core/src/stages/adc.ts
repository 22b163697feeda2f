import { Type } from 'typebox';
import { choice, number, whole } from '../stage/params.ts';
import { scalarStage } from '../stage/scalarStage.ts';
import { REASON } from '../stage/contract.ts';

/** Full-scale code of an unsigned converter: 2^bits - 1. */
export const fullScale = (bits: number) => 2 ** bits - 1;

/**
 * Converter counts to the fraction of the reference, or to volts. Full scale is the code 2^bits - 1, or 2^(bits-1) - 1 for
 * a signed converter, unless another full-scale code is given.
 * A code at either end says only "at least" or "at most", so it gives no number but a reason.
 */
export const adc = scalarStage<{
  bits: number;
  referenceV: number;
  gives: string;
  coding?: string;
  fullScaleCode?: number;
}>({
  kind: 'adc',
  title: 'ADC',
  summary: 'Converts counts to a fraction of the reference voltage, or to volts',
  params: Type.Object({
    bits: whole('Bits', { min: 1, max: 32, unit: 'bit' }),
    referenceV: number('Reference voltage', { above: 0, max: 100, unit: 'V' }),
    gives: choice('Output', ['ratio', 'volt']),
    coding: Type.Optional(choice('Coding', ['unsigned', 'signed'])),
    fullScaleCode: Type.Optional(number('Full-scale count', { above: 0, max: 2 ** 32, unit: 'counts' })),
  }),
  defaults: { bits: 10, referenceV: 5, gives: 'ratio' },
  takes: ['count'],
  gives: (params) => (params.gives === 'volt' ? 'V' : '1'),
  codes: (params) => ends(params),
  scalar(params) {
    const [low, high] = ends(params);
    const scale = (params.gives === 'volt' ? params.referenceV : 1) / fullCode(params);
    return {
      forward: (counts) => (counts > low && counts < high ? counts * scale : Number.NaN),
      inverse: (value) => value / scale,
      derivative: () => scale,
      reasonAt: (counts) => (counts <= low ? REASON.saturatedLow : REASON.saturatedHigh),
    };
  },
  emitC(params, c) {
    const [low, high] = ends(params);
    const full = c.constant('FULL_SCALE', fullCode(params), 'counts');
    const highest = high === fullCode(params) ? full : c.constant('HIGHEST', high, 'counts');
    const lowest = low === 0 ? '0' : c.constant('LOWEST', low, 'counts');
    c.line(`if (!(x > ${lowest} && x < ${highest})) return LN_BAD;`);
    if (params.gives === 'volt')
      c.line(`x = x * ${c.constant('REFERENCE', params.referenceV, 'V')} / ${full};`);
    else c.line(`x = x / ${full};`);
  },
});

interface Coding {
  bits: number;
  coding?: string;
  fullScaleCode?: number;
}

function ends({ bits, coding }: Coding): readonly [number, number] {
  return coding === 'signed' ? [-(2 ** (bits - 1)), 2 ** (bits - 1) - 1] : [0, fullScale(bits)];
}

function fullCode(params: Coding): number {
  return params.fullScaleCode ?? ends(params)[1];
}
