import { Type } from 'typebox';
import { choice, number } from '../stage/params.ts';
import { scalarStage, unitMismatch } from '../stage/scalarStage.ts';
import { UNITS, type UnitId } from '../units/index.ts';

/** Speed of sound in dry air at a temperature in degC, m/s: 331.3 sqrt(1 + t / 273.15), the ideal-gas law. */
export const speedOfSound = (airC: number) => 331.3 * Math.sqrt(1 + airC / 273.15);

/** Echo time to distance by the speed of sound at the air's temperature. Damp air adds up to 0.4 %, not counted. */
export const timeOfFlight = scalarStage<{ airC: number; path: string; offsetM: number; from: string }>({
  kind: 'time-of-flight',
  title: 'Time of flight',
  summary: 'Converts echo time to distance with the speed of sound',
  params: Type.Object({
    airC: number('Air temperature', { min: -60, max: 80, unit: 'degC' }),
    path: choice('Path of the sound', ['there and back', 'one way']),
    offsetM: number('Distance offset', { min: -10, max: 10, unit: 'm' }),
    from: choice('Time unit', ['us', 'ms', 's']),
  }),
  defaults: { airC: 20, path: 'there and back', offsetM: 0, from: 'us' },
  takes: ['us', 'ms', 's'],
  defaultsFor: ([from]) => ({ airC: 20, path: 'there and back', offsetM: 0, from: from ?? 'us' }),
  gives({ from }, input) {
    if (input !== from) throw unitMismatch('Time of flight', [from as UnitId], [input]);
    return 'm';
  },
  scalar({ airC, path, offsetM, from }) {
    const scale = (speedOfSound(airC) / (path === 'one way' ? 1 : 2)) * UNITS[from as UnitId].scale;
    return {
      forward: (t) => (t >= 0 ? t * scale + offsetM : Number.NaN),
      inverse: (d) => (d - offsetM) / scale,
      derivative: () => scale,
    };
  },
  emitC({ airC, path, offsetM, from }, c) {
    const scale = (speedOfSound(airC) / (path === 'one way' ? 1 : 2)) * UNITS[from as UnitId].scale;
    c.line('if (!(x >= 0)) return LN_BAD;');
    c.line(`x = x * ${c.constant('M_PER_UNIT', scale, 'm')} + ${c.constant('OFFSET', offsetM, 'm')};`);
  },
});
