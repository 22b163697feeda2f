import type { ThermistorBankTruth } from '../model/link.ts';
import { blowMeter, drawBlowMeter, type BlowMeterTruth } from './blowMeter.ts';
import { cellBench, drawCellBench, type CellBenchTruth } from './cellBench.ts';
import { clothRoller, drawClothRoller, type ClothRollerTruth } from './clothRoller.ts';
import { drawDyeChecker, dyeChecker, type DyeCheckerTruth } from './dyeChecker.ts';
import { drawFinishGate, finishGate, type FinishGateTruth } from './finishGate.ts';
import { drawGasWatch, gasWatch, type GasWatchTruth } from './gasWatch.ts';
import { drawGenerator, generator, type GeneratorTruth } from './generator.ts';
import { drawPendulum, pendulum, type PendulumTruth } from './pendulum.ts';
import { drawPuntSprint, puntSprint, type PuntSprintTruth } from './puntSprint.ts';
import { randomThermistorTruth } from './randomThermistorTruth.ts';
import { drawSpindle, spindle, type SpindleTruth } from './spindle.ts';
import { thermistorBank } from './thermistorBank.ts';
import { drawThreeAxes, threeAxes, type ThreeAxesTruth } from './threeAxes.ts';
import { drawWindVane, windVane, type WindVaneTruth } from './windVane.ts';
import type { World } from './world.ts';

export type WorldTruth =
  | ThermistorBankTruth
  | GasWatchTruth
  | FinishGateTruth
  | ThreeAxesTruth
  | GeneratorTruth
  | PendulumTruth
  | BlowMeterTruth
  | DyeCheckerTruth
  | CellBenchTruth
  | SpindleTruth
  | PuntSprintTruth
  | WindVaneTruth
  | ClothRollerTruth;

/** The world for a stored hidden truth. A new family is one file, one case here and one line below. */
export function createWorld(truth: WorldTruth): World {
  switch (truth.kind) {
    case 'thermistor-bank':
      return thermistorBank(truth);
    case 'gas-watch':
      return gasWatch(truth);
    case 'finish-gate':
      return finishGate(truth);
    case 'three-axes':
      return threeAxes(truth);
    case 'generator':
      return generator(truth);
    case 'pendulum':
      return pendulum(truth);
    case 'blow-meter':
      return blowMeter(truth);
    case 'dye-checker':
      return dyeChecker(truth);
    case 'cell-bench':
      return cellBench(truth);
    case 'spindle':
      return spindle(truth);
    case 'punt-sprint':
      return puntSprint(truth);
    case 'wind-vane':
      return windVane(truth);
    case 'cloth-roller':
      return clothRoller(truth);
  }
}

export interface SimulatedFamily {
  readonly family: number;
  readonly title: string;
  /** Readings a second that suit it. */
  readonly sampleRateHz: number;
  /** Hidden constants as a bag of cheap parts would have them. */
  draw(seed: number): WorldTruth;
}

/** The fourteen measuring families, in the order of the trade. */
export const FAMILIES: readonly SimulatedFamily[] = [
  { family: 1, title: 'Gas levels, several heated sensors', sampleRateHz: 2, draw: drawGasWatch },
  { family: 2, title: 'Crossing timer', sampleRateHz: 25, draw: drawFinishGate },
  {
    family: 3,
    title: 'Repeated-motion counter',
    sampleRateHz: 50,
    draw: (seed) => drawThreeAxes(seed, 'shaker'),
  },
  { family: 4, title: 'AC power', sampleRateHz: 2000, draw: drawGenerator },
  { family: 5, title: 'Optical beat rate', sampleRateHz: 100, draw: drawPendulum },
  { family: 6, title: 'Impact peak', sampleRateHz: 2000, draw: drawBlowMeter },
  { family: 7, title: 'Absorbance', sampleRateHz: 2, draw: drawDyeChecker },
  {
    family: 8,
    title: 'Acceleration recorder',
    sampleRateHz: 500,
    draw: (seed) => drawThreeAxes(seed, 'hoist'),
  },
  { family: 9, title: 'Cell test bench', sampleRateHz: 1, draw: drawCellBench },
  { family: 10, title: 'Rotation', sampleRateHz: 50, draw: drawSpindle },
  { family: 11, title: 'Sprint timer (satellite)', sampleRateHz: 5, draw: drawPuntSprint },
  { family: 12, title: 'Heading', sampleRateHz: 20, draw: drawWindVane },
  { family: 13, title: 'Optical displacement', sampleRateHz: 100, draw: drawClothRoller },
  {
    family: 14,
    title: 'Several temperatures',
    sampleRateHz: 10,
    draw: (seed) =>
      randomThermistorTruth(
        {
          columns: ['p1', 'p2', 'p3', 'p4'],
          r0Ohm: 10000,
          betaK: 3950,
          seriesOhm: 3300,
          seriesSide: 'top',
          adcBits: 10,
          elevationM: 640,
        },
        seed,
      ),
  },
];
