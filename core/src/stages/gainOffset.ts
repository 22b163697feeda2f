import { Type } from 'typebox';
import { scalarStage } from '../stage/scalarStage.ts';

/** Reading corrected by a straight line, y = offset + gain x, in whatever unit the reading has. */
export const gainOffset = scalarStage<{ gain: number; offset: number }>({
  kind: 'gain-offset',
  title: 'Gain and offset',
  summary: 'Corrects the reading with a gain and an offset',
  role: 'calibration',
  params: Type.Object({
    gain: Type.Number({ minimum: -1e9, maximum: 1e9, title: 'Gain' }),
    offset: Type.Number({
      minimum: -1e12,
      maximum: 1e12,
      title: 'Offset',
      unit: 'in the unit of the reading',
    }),
  }),
  defaults: { gain: 1, offset: 0 },
  takes: 'any',
  gives: (_params, input) => input,
  scalar({ gain, offset }) {
    if (gain === 0) {
      throw new RangeError(
        'Gain and offset: enter a gain other than 0; at 0 every reading would be the same. Use 1 for no change.',
      );
    }
    return {
      forward: (x) => offset + gain * x,
      inverse: (y) => (y - offset) / gain,
      derivative: () => gain,
    };
  },
  emitC({ gain, offset }, c) {
    c.line(
      `x = ${c.constant('OFFSET', offset, 'in the unit of the reading')} + ${c.constant('GAIN', gain, '')} * x;`,
    );
  },
});
