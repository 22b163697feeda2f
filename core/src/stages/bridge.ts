import { Type } from 'typebox';
import { number } from '../stage/params.ts';
import { scalarStage } from '../stage/scalarStage.ts';
import { REASON } from '../stage/contract.ts';

/**
 * Counts of a bridge amplifier to the load on a load cell, kg:
 * kg = (counts - zero) / full-scale code * range / gain * 1000 / rated mV/V * capacity,
 * where range is the converter's full scale as a fraction of the excitation (0.5 when it spans plus and minus half of it).
 */
export const bridge = scalarStage<{
  zero: number;
  fullScaleCode: number;
  range: number;
  gain: number;
  ratedMvPerV: number;
  capacityKg: number;
}>({
  kind: 'bridge',
  title: 'Load cell',
  summary: 'Converts bridge amplifier counts to mass',
  params: Type.Object({
    zero: number('Counts at no load (tare)', { unit: 'counts' }),
    fullScaleCode: number('Full-scale count', { above: 0, unit: 'counts' }),
    range: number('Full scale, as a fraction of the excitation voltage', { above: 0, max: 2 }),
    gain: number('Amplifier gain', { above: 0, max: 10000 }),
    ratedMvPerV: number('Rated output', { above: 0, max: 100, unit: 'mVperV' }),
    capacityKg: number('Capacity', { above: 0, unit: 'kg' }),
  }),
  defaults: { zero: 0, fullScaleCode: 8388607, range: 0.5, gain: 128, ratedMvPerV: 2, capacityKg: 50 },
  takes: ['count'],
  gives: () => 'kg',
  scalar(params) {
    const scale = kgPerCount(params);
    const limit = params.fullScaleCode;
    return {
      forward: (counts) => (Math.abs(counts) < limit ? (counts - params.zero) * scale : Number.NaN),
      inverse: (kg) => kg / scale + params.zero,
      derivative: () => scale,
      reasonAt: (counts) => (counts < 0 ? REASON.saturatedLow : REASON.saturatedHigh),
    };
  },
  emitC(params, c) {
    const full = c.constant('FULL_SCALE', params.fullScaleCode, 'counts');
    c.line(`if (!(x > -${full} && x < ${full})) return LN_BAD;`);
    c.line(
      `x = (x - ${c.constant('ZERO', params.zero, 'counts')}) * ${c.constant('KG_PER_COUNT', kgPerCount(params), 'kg')};`,
    );
  },
});

function kgPerCount(p: {
  fullScaleCode: number;
  range: number;
  gain: number;
  ratedMvPerV: number;
  capacityKg: number;
}): number {
  return (((p.range / p.gain) * 1000) / p.fullScaleCode / p.ratedMvPerV) * p.capacityKg;
}
