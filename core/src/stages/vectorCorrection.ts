import { Type } from 'typebox';
import { numbers, unitChoice } from '../stage/params.ts';
import { vectorStage } from '../stage/vectorStage.ts';
import type { UnitId } from '../units/index.ts';

/**
 * Three axes corrected together: out = matrix (in - offset). Holds rest offset and scale of an accelerometer, hard and soft
 * iron of a magnetometer, and the turning of axes by mounting (a matrix of 0 and +-1). Of six columns the first three are
 * corrected and the others pass, so that a magnetic field can be put right beside the gravity that it is read with.
 */
export const vectorCorrection = vectorStage<{ offset: number[]; matrix: number[]; to: string }>({
  kind: 'vector-correction',
  title: 'Three-axis correction',
  summary: 'Offset and matrix for three axes',
  role: 'calibration',
  params: Type.Object({
    offset: numbers('Offset x, y, z', 3, 3),
    matrix: numbers('Matrix, row by row', 9, 9),
    to: unitChoice(),
  }),
  defaults: { offset: [0, 0, 0], matrix: [1, 0, 0, 0, 1, 0, 0, 0, 1], to: 'gn' },
  defaultsFor: ([unit]) => ({ offset: [0, 0, 0], matrix: [1, 0, 0, 0, 1, 0, 0, 0, 1], to: unit ?? 'gn' }),
  takes: 'three columns in one unit, or six columns with the first three in one unit',
  gives({ to }, inputs) {
    const count = inputs.length === 3 || inputs.length === 6;
    const same = inputs.slice(0, 3).every((unit) => unit === inputs[0]);
    return count && same ? [to as UnitId, to as UnitId, to as UnitId, ...inputs.slice(3)] : null;
  },
  vector({ offset, matrix: m }) {
    const [ox, oy, oz] = offset as [number, number, number];
    const size = Math.max(...m.map(Math.abs));
    // Cofactors: the matrix turned round is their transpose over the determinant.
    const cofactor = (r: number, c: number) => {
      const [r1, r2, c1, c2] = [(r + 1) % 3, (r + 2) % 3, (c + 1) % 3, (c + 2) % 3];
      return m[3 * r1 + c1]! * m[3 * r2 + c2]! - m[3 * r1 + c2]! * m[3 * r2 + c1]!;
    };
    const determinant = m[0]! * cofactor(0, 0) + m[1]! * cofactor(0, 1) + m[2]! * cofactor(0, 2);
    if (!(Math.abs(determinant) > 1e-9 * size ** 3))
      throw new RangeError(
        'Three-axis correction: the matrix cannot be inverted (its determinant is 0), so directions would be lost. Calibrate again, or start from the identity matrix.',
      );
    return {
      forward([x, y, z, ...others]) {
        const [a, b, c] = [x! - ox, y! - oy, z! - oz];
        return [
          m[0]! * a + m[1]! * b + m[2]! * c,
          m[3]! * a + m[4]! * b + m[5]! * c,
          m[6]! * a + m[7]! * b + m[8]! * c,
          ...others,
        ];
      },
      inverse(out) {
        const axes = [0, 1, 2].map(
          (c) =>
            offset[c]! +
            (cofactor(0, c) * out[0]! + cofactor(1, c) * out[1]! + cofactor(2, c) * out[2]!) / determinant,
        );
        return [...axes, ...out.slice(3)];
      },
    };
  },
  emitC({ offset, matrix }, c) {
    const o = c.table('OFFSET', offset);
    const m = c.table('MATRIX', matrix);
    c.line(`LN_REAL d0 = x[0] - ${o}[0], d1 = x[1] - ${o}[1], d2 = x[2] - ${o}[2];`);
    for (const r of [0, 1, 2])
      c.line(`x[${r}] = ${m}[${3 * r}] * d0 + ${m}[${3 * r + 1}] * d1 + ${m}[${3 * r + 2}] * d2;`);
  },
});
