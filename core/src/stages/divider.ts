import { Type } from 'typebox';
import { scalarStage } from '../stage/scalarStage.ts';

/**
 * Fraction of the supply at the middle of a two-resistor divider to the sensor's resistance. Side "top": the fixed
 * resistor goes to the supply and the sensor to ground, R = Rs r / (1 - r); "bottom": the other way round.
 * The converter's reference must be the divider's own supply, so that the supply voltage cancels.
 */
export const divider = scalarStage<{ seriesOhm: number; side: string }>({
  kind: 'divider',
  title: 'Voltage divider',
  summary: 'Converts a fraction of the supply voltage to the sensor’s resistance',
  params: Type.Object({
    seriesOhm: Type.Number({ exclusiveMinimum: 0, maximum: 1e9, title: 'Series resistor', unit: 'ohm' }),
    side: Type.String({ enum: ['top', 'bottom'], title: 'Series resistor connected to' }),
  }),
  defaults: { seriesOhm: 10000, side: 'top' },
  takes: ['1'],
  gives: () => 'ohm',
  scalar({ seriesOhm, side }) {
    const inside = (r: number) => r > 0 && r < 1;
    if (side === 'top') {
      return {
        forward: (r) => (inside(r) ? (seriesOhm * r) / (1 - r) : Number.NaN),
        inverse: (ohm) => ohm / (ohm + seriesOhm),
        derivative: (r) => seriesOhm / (1 - r) ** 2,
      };
    }
    return {
      forward: (r) => (inside(r) ? (seriesOhm * (1 - r)) / r : Number.NaN),
      inverse: (ohm) => seriesOhm / (ohm + seriesOhm),
      derivative: (r) => -seriesOhm / r ** 2,
    };
  },
  emitC({ seriesOhm, side }, c) {
    const series = c.constant('SERIES', seriesOhm, 'ohm');
    c.line('if (!(x > 0 && x < 1)) return LN_BAD;');
    c.line(side === 'top' ? `x = ${series} * x / (1 - x);` : `x = ${series} * (1 - x) / x;`);
  },
});
