import { seededRandom, type Random } from '../numerics/index.ts';
import { makeWorld, toCode } from './makeWorld.ts';
import type { World } from './world.ts';

export interface WindVaneTruth {
  readonly kind: 'wind-vane';
  readonly seed: number;
  /** raw = soft field + hard, counts; soft row by row. */
  readonly soft: readonly number[];
  readonly hard: readonly number[];
  readonly accelerationOffset: readonly number[];
  readonly fieldUt: number;
  readonly inclinationDeg: number;
  readonly declinationDeg: number;
  readonly noiseCounts: number;
}

/** Counts a microtesla and a g. */
export const VANE_COUNTS = { uT: 15, g: 4096 } as const;

export function drawWindVane(seed: number): WindVaneTruth {
  const random = seededRandom(seed);
  const small = () => 0.04 * random.normal();
  const [xy, xz, yz] = [small(), small(), small()];
  return {
    kind: 'wind-vane',
    seed,
    soft: [1 + small(), xy, xz, xy, 1 + small(), yz, xz, yz, 1 + small()],
    hard: [0, 1, 2].map(() => 220 * random.normal()),
    accelerationOffset: [0, 1, 2].map(() => 25 * random.normal()),
    fieldUt: 48.2,
    inclinationDeg: 64,
    declinationDeg: 3.4,
    noiseCounts: 2.5,
  };
}

const COURSES: Readonly<Record<string, number>> = { north: 0, east: 90, south: 180, west: 270 };

/** A compass in the wind vane: turned through all directions, laid on landmarks, swinging, near the motor. */
export function windVane(truth: WindVaneTruth): World {
  const random = seededRandom(truth.seed);
  const dip = (truth.inclinationDeg * Math.PI) / 180;
  const turnedBy = gusts(seededRandom(truth.seed + 1));
  return makeWorld({
    columns: ['mx', 'my', 'mz', 'ax', 'ay', 'az'],
    conditions: [
      ...Object.keys(COURSES).map((id) => ({ id, title: `Vane pointing ${id} (landmark)` })),
      { id: 'rotate', title: 'Rotated through all directions' },
      { id: 'half', title: 'Rotated on the table only' },
      { id: 'swinging', title: 'Swinging about north, tilted' },
      { id: 'motor', title: 'Pointing north, motor running nearby' },
    ],
    step(dtS, condition, sinceS) {
      const [yaw, pitch, roll] = attitude(condition, sinceS, random, turnedBy(dtS));
      const magnetic = yaw - (truth.declinationDeg * Math.PI) / 180;
      const north = truth.fieldUt * Math.cos(dip);
      const down = truth.fieldUt * Math.sin(dip);
      // Heading of x towards east: north lies at (cos, +sin) of (x forward, y left).
      const field = turned([north * Math.cos(magnetic), north * Math.sin(magnetic), -down], pitch, roll);
      const up = turned([0, 0, 1], pitch, roll);
      const extra = condition === 'motor' ? [180, -90, 60] : [0, 0, 0];
      const m = [0, 1, 2].map(
        (r) =>
          truth.hard[r]! +
          extra[r]! +
          VANE_COUNTS.uT * [0, 1, 2].reduce((s, c) => s + truth.soft[3 * r + c]! * field[c]!, 0),
      );
      const a = up.map((v, k) => VANE_COUNTS.g * v + truth.accelerationOffset[k]!);
      return [
        ...m.map((v) => toCode(v + truth.noiseCounts * random.normal(), -32768, 32767)),
        ...a.map((v) => toCode(v + 4 * random.normal(), -32768, 32767)),
      ];
    },
    instruments: (condition) => [
      { title: 'Bearing to the landmark', value: COURSES[condition] ?? 0, unit: 'deg', uncertainty: 1 },
    ],
  });
}

/** Standard deviation of a vane in the wind, rad: what a swing by a quarter has. */
export const SWING = 0.25 / Math.SQRT2;
/** So fast a gust comes, and so fast the vane follows it, s. */
const GUST_S = 0.5;

/** How far gusts turn a vane, rad: they come at random, and it follows each in its own time. */
function gusts(random: Random): (dtS: number) => number {
  let [gust, vane] = [0, 0];
  return (dtS) => {
    const kept = Math.exp(-dtS / GUST_S);
    gust = kept * gust + Math.SQRT2 * SWING * Math.sqrt(1 - kept ** 2) * random.normal();
    vane += (gust - vane) * (1 - kept);
    return vane;
  };
}

/** Yaw (towards east), pitch and roll, rad. */
function attitude(condition: string, t: number, random: Random, gust: number): [number, number, number] {
  const course = COURSES[condition];
  if (course !== undefined) return [(course * Math.PI) / 180, 0.03, -0.02];
  if (condition === 'rotate') return [2.1 * t, Math.asin(2 * random.uniform() - 1), 1.3 * t];
  if (condition === 'half') return [2.1 * t, 0.1 * Math.sin(t), 0.1 * Math.cos(t)];
  if (condition === 'swinging') return [gust, 0.12 * Math.sin(2.3 * t), 0.1 * Math.cos(1.9 * t)];
  return [0, 0, 0];
}

/** A vector of the level frame as seen from the gadget after pitching about y and rolling about x. */
function turned(
  [x, y, z]: readonly [number, number, number],
  pitch: number,
  roll: number,
): [number, number, number] {
  const [cp, sp, cr, sr] = [Math.cos(pitch), Math.sin(pitch), Math.cos(roll), Math.sin(roll)];
  const [x1, z1] = [cp * x + sp * z, -sp * x + cp * z];
  return [x1, cr * y + sr * z1, -sr * y + cr * z1];
}
