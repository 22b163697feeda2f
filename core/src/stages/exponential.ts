import { Type } from 'typebox';
import { filterStage } from '../stage/filterStage.ts';

/** Weight of the newest sample so that a step reaches 1 - 1/e after the time constant. */
const weight = (timeConstantS: number, sampleRateHz: number) =>
  1 - Math.exp(-1 / (timeConstantS * sampleRateHz));

/** Exponential smoothing, y += a (x - y) with a = 1 - exp(-1 / (tau f_s)); starts at the first sample. */
export const exponential = filterStage<{ timeConstantS: number }>({
  kind: 'exponential',
  title: 'Exponential smoothing',
  summary: 'Moves the output part of the way towards each new reading',
  params: Type.Object({
    timeConstantS: Type.Number({ exclusiveMinimum: 0, maximum: 1e6, title: 'Time constant', unit: 's' }),
  }),
  defaults: { timeConstantS: 1 },
  start({ timeConstantS }, { sampleRateHz }) {
    const a = weight(timeConstantS, sampleRateHz);
    const m = { y: Number.NaN };
    return { memory: m, next: (x) => (m.y = Number.isNaN(m.y) ? x : m.y + a * (x - m.y)) };
  },
  emitC({ timeConstantS }, c, { sampleRateHz }) {
    const a = c.constant('WEIGHT', weight(timeConstantS, sampleRateHz), `per sample at ${sampleRateHz} Hz`);
    const y = c.state('y', 'LN_BAD');
    c.line(`if (isnan(${y})) ${y} = x; else ${y} += ${a} * (x - ${y});`);
    c.line(`x = ${y};`);
  },
});
