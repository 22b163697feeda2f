import { interpolant, seededRandom } from '../numerics/index.ts';
import { fullScale } from '../stages/adc.ts';
import { makeWorld, toCode } from './makeWorld.ts';
import type { World } from './world.ts';

export interface CellBenchTruth {
  readonly kind: 'cell-bench';
  readonly seed: number;
  readonly adcBits: number;
  readonly referenceV: number;
  /** Divider before the converter: volts in over volts out. */
  readonly dividerRatio: number;
  /** What the divider stands on, V at the converter: 0 V is then no end of it, and a cell put in backwards is cut off. */
  readonly liftV: number;
  readonly shuntOhm: number;
  readonly shuntGain: number;
  readonly capacityMah: number;
  readonly internalOhm: number;
  readonly loadOhm: number;
  readonly chargeA: number;
  readonly noiseCounts: number;
}

export function drawCellBench(seed: number): CellBenchTruth {
  const random = seededRandom(seed);
  const near = (v: number, share: number) => v * (1 + share * random.normal());
  return {
    kind: 'cell-bench',
    seed,
    adcBits: 12,
    referenceV: 2.5,
    dividerRatio: near(2, 0.01),
    shuntOhm: near(0.1, 0.02),
    shuntGain: 10,
    capacityMah: near(1900, 0.08),
    internalOhm: near(0.085, 0.15),
    loadOhm: near(4.7, 0.01),
    liftV: near(0.25, 0.01),
    chargeA: 0.5,
    noiseCounts: 1,
  };
}

/** Open-circuit volts of a lithium cell by share of charge; emptied further it breaks down. */
export const OPEN = interpolant(
  'pchip',
  [-0.05, -0.02, 0, 0.05, 0.2, 0.5, 0.8, 1],
  [0, 1.5, 2.7, 3.3, 3.55, 3.7, 3.95, 4.18],
);
/** What is left when nothing is. */
const FLAT = -0.05;

/** A lantern cell on the bench: rest, discharge into a resistor, charge; an empty slot; a cell put in backwards. */
export function cellBench(truth: CellBenchTruth): World {
  const random = seededRandom(truth.seed);
  const full = fullScale(truth.adcBits);
  let charge = 0.98;
  let roomC = 20;
  const now = (condition: string): { v: number; i: number } => {
    if (condition === 'empty') return { v: 0, i: 0 };
    const open = OPEN.at(Math.min(1, Math.max(FLAT, charge)));
    if (condition === 'reversed') return { v: -open, i: 0 };
    if (condition === 'discharge') {
      const i = open / (truth.internalOhm + truth.loadOhm);
      return { v: i * truth.loadOhm, i };
    }
    if (condition === 'charge' && charge < 1)
      return { v: open + truth.chargeA * truth.internalOhm, i: -truth.chargeA };
    return { v: open, i: 0 };
  };
  return makeWorld({
    columns: ['cell_v', 'cell_i', 'cell_t'],
    conditions: [
      { id: 'rest', title: 'Cell inserted, nothing connected' },
      { id: 'discharge', title: 'Discharging into the load resistor' },
      { id: 'charge', title: 'Charging' },
      { id: 'empty', title: 'Empty slot' },
      { id: 'reversed', title: 'Cell inserted backwards' },
    ],
    step(dtS, condition) {
      // What flows until the moment at which it is read, and what is read then.
      const { i: flows } = now(condition);
      if (condition !== 'empty' && condition !== 'reversed')
        charge = Math.min(1, Math.max(FLAT, charge - (flows * dtS) / 3.6 / truth.capacityMah));
      const { v, i } = now(condition);
      roomC += (20 + 30 * i * i * truth.internalOhm - roomC) * (1 - Math.exp(-dtS / 300));
      const code = (volt: number) =>
        toCode((volt / truth.referenceV) * full + truth.noiseCounts * random.normal(), 0, full);
      // The current channel sits in the middle, so that charge and discharge both fit; the thermometer gives 10 mV a degree.
      return [
        code(truth.liftV + v / truth.dividerRatio),
        code(truth.referenceV / 2 + i * truth.shuntOhm * truth.shuntGain),
        code(0.01 * roomC + 0.5),
      ];
    },
    instruments(condition) {
      const { v, i } = now(condition);
      return [
        { title: 'Reference meter, voltage', value: Number(v.toFixed(3)), unit: 'V', uncertainty: 0.01 },
        { title: 'Reference meter, current', value: Number(i.toFixed(3)), unit: 'A', uncertainty: 0.005 },
      ];
    },
  });
}
