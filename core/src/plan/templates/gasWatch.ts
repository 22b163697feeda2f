import type { Channel } from '../../model/gadget.ts';
import { BOARDS, SENSORS } from '../shelf/index.ts';
import { lineForSensor } from '../sensorLine.ts';
import { sections, type GadgetTemplate } from './template.ts';

const GASES = [
  ['ferment', 'Ferment vapour', 'ferment vapour', 'heated-ferment', 5, 400, 12, 2],
  ['ammonia', 'Ammonia', 'ammonia', 'heated-ammonia', 2, 50, 3, 0.5],
  ['solvent', 'Solvent vapour', 'solvent vapour', 'heated-solvent', 5, 200, 10, 2],
] as const;

/** Several heated elements, each a log-log curve over its clean-air resistance. */
export const gasWatch: GadgetTemplate = {
  id: 'gas-watch',
  family: 1,
  title: 'Gas level, several heated elements',
  summary: 'Levels of up to three vapours from heated elements, with caution and limit',
  reasons: {
    'ferment.range': 'From a little above clean air to where a cellar must be left.',
    'ammonia.range': 'Stings from a few ppm; most countries let people work in 20 to 25.',
    'solvent.range': 'From a smell to a headache.',
    'ferment.tolerance': 'A heated element is good to some tenths of its reading at best.',
    'ammonia.tolerance': 'Fine enough to tell a warning from a limit.',
    'solvent.tolerance': 'A heated element is good to some tenths of its reading at best.',
    'ferment.fastest': 'A cellar fills within minutes, not seconds.',
    'ammonia.fastest': 'An opened bottle is told within half a minute.',
    'solvent.fastest': 'A cellar fills within minutes, not seconds.',
    power: 'Heaters draw half an ampere day and night: no small battery bears that.',
    surroundings: 'Cellars are dusty where grain is moved.',
  },
  make: () =>
    sections(
      GASES.map(([id, quantity, measurand, , low, high, tolerance, ratePerS]) => ({
        id,
        quantity,
        unit: 'ppm',
        low,
        high,
        tolerance,
        fastest: { kind: 'ramp', ratePerS: ratePerS / 10 },
        measurand,
        sensed: null,
      })),
      { power: 'wall', surroundings: ['dust'] },
      GASES.map(([id, name, , partId], i): Channel => {
        const part = SENSORS.find((s) => s.id === partId)!;
        const board = BOARDS.find((b) => b.id === 'radio-32-bit')!;
        return { id, askId: id, name, line: lineForSensor(part, board, null, `gas${i + 1}`) };
      }),
      2,
    ),
};
