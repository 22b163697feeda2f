import { Type } from 'typebox';
import { number } from '../stage/params.ts';
import { vectorStage } from '../stage/vectorStage.ts';

const DEGREE = Math.PI / 180;

/**
 * Heading of the x axis from a corrected magnetic vector and an acceleration at rest, both in the gadget's axes: x forward,
 * y left, z up, so that a level gadget at rest reads +1 g along z. East = down x field, north = east x down; the heading is
 * the angle of x towards east from north, plus declination and the mounting angle, 0 to 360.
 * Tilt does not matter, motion does: the acceleration must be gravity alone.
 * Source: Caruso, "Applications of magnetic sensors for low cost compass systems", IEEE PLANS 2000, put in vectors.
 */
export const heading = vectorStage<{ declinationDeg: number; mountingDeg: number }>({
  kind: 'heading',
  title: 'Heading',
  summary: 'Calculates tilt-compensated heading, pitch and roll from magnetic field and gravity',
  params: Type.Object({
    declinationDeg: number('Magnetic declination (east positive)', { min: -180, max: 180, unit: 'deg' }),
    mountingDeg: number('Mounting angle', { min: -360, max: 360, unit: 'deg' }),
  }),
  defaults: { declinationDeg: 0, mountingDeg: 0 },
  takes: 'six columns: magnetic x, y, z in one unit and acceleration x, y, z in one unit',
  gives(_params, inputs) {
    const same = (from: number) => inputs.slice(from, from + 3).every((unit) => unit === inputs[from]);
    return inputs.length === 6 && same(0) && same(3) ? ['deg', 'deg', 'deg'] : null;
  },
  names: () => ['heading', 'pitch', 'roll'],
  vector({ declinationDeg, mountingDeg }) {
    return {
      forward([mx, my, mz, ax, ay, az]) {
        const g = Math.sqrt(ax! * ax! + ay! * ay! + az! * az!);
        if (!(g > 0)) return [Number.NaN, Number.NaN, Number.NaN];
        const [dx, dy, dz] = [-ax! / g, -ay! / g, -az! / g];
        const east = dy * mz! - dz * my!;
        const north = mx! - dx * (dx * mx! + dy * my! + dz * mz!);
        // East and north are the x components; both vectors have the length of the level part of the field.
        if (east === 0 && north === 0) return [Number.NaN, Number.NaN, Number.NaN];
        const angle = Math.atan2(east, north) / DEGREE + declinationDeg + mountingDeg;
        return [
          wrapDegrees(angle),
          Math.asin(Math.max(-1, Math.min(1, ax! / g))) / DEGREE,
          Math.atan2(ay!, az!) / DEGREE,
        ];
      },
    };
  },
  emitC({ declinationDeg, mountingDeg }, c) {
    const degree = c.constant('DEGREE', DEGREE, 'rad', true);
    const turn = c.constant(
      'TURN',
      declinationDeg + mountingDeg,
      'declination and mounting angle, degrees',
      true,
    );
    c.line('LN_WIDE g = sqrt((LN_WIDE)x[3] * x[3] + (LN_WIDE)x[4] * x[4] + (LN_WIDE)x[5] * x[5]);');
    c.line('if (!(g > 0)) { x[0] = x[1] = x[2] = LN_BAD; return; }');
    c.line('LN_WIDE dx = -x[3] / g, dy = -x[4] / g, dz = -x[5] / g;');
    c.line('LN_WIDE east = dy * x[2] - dz * x[1];');
    c.line('LN_WIDE north = x[0] - dx * (dx * x[0] + dy * x[1] + dz * x[2]);');
    c.line('if (!(east != 0 || north != 0)) { x[0] = x[1] = x[2] = LN_BAD; return; }');
    c.line(`LN_WIDE a = fmod(atan2(east, north) / ${degree} + ${turn}, 360.0);`);
    c.line('LN_WIDE up = x[5], side = x[4], pitch = x[3] / g;');
    c.line('x[0] = (LN_REAL)(a < 0 ? a + 360 : a);');
    c.line(`x[1] = (LN_REAL)(asin(pitch > 1 ? 1 : pitch < -1 ? -1 : pitch) / ${degree});`);
    c.line(`x[2] = (LN_REAL)(atan2(side, up) / ${degree});`);
  },
});

/** An angle in [0, 360). */
export function wrapDegrees(angle: number): number {
  const wrapped = angle % 360;
  // A tiny negative angle plus 360 rounds to 360 itself.
  const positive = wrapped < 0 ? wrapped + 360 : wrapped;
  return positive >= 360 ? 0 : positive + 0;
}
