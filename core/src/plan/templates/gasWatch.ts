import type { Ask, Channel } from '../../model/gadget.ts';
import { BOARDS, SENSORS } from '../shelf/index.ts';
import { lineForSensor } from '../sensorLine.ts';
import { counting, made, watch, workedOut } from './counted.ts';
import { sections, type GadgetTemplate } from './template.ts';

const GASES = [
  ['ferment', 'Fermentation vapour', 'ferment vapour', 'heated-ferment', 5, 400, 12, 2],
  ['ammonia', 'Ammonia', 'ammonia', 'heated-ammonia', 2, 50, 3, 0.5],
  ['solvent', 'Solvent vapour', 'solvent vapour', 'heated-solvent', 5, 200, 10, 2],
] as const;

/** Levels above which time is counted, ppm: examples, for the law of the place to replace. */
const LIMITS: Readonly<Record<string, number>> = { ferment: 100, ammonia: 20, solvent: 50 };

/** Several heated elements, each a log-log curve over its clean-air resistance. */
export const gasWatch: GadgetTemplate = {
  id: 'gas-watch',
  family: 1,
  title: 'Gas levels, several heated sensors',
  summary: 'Levels of up to three vapours from heated gas sensors, with caution and limit',
  reasons: {
    'ferment.range': 'From just above clean air to the level at which a cellar must be left.',
    'ammonia.range':
      'Stings from a few ppm. What is allowed at work is set by local law; the levels here are an example.',
    'solvent.range': 'From a noticeable smell to a headache.',
    'ferment.tolerance': 'At best, a heated gas sensor is accurate to a few tenths of its reading.',
    'ammonia.tolerance': 'Fine enough to tell a caution from a limit.',
    'solvent.tolerance': 'At best, a heated gas sensor is accurate to a few tenths of its reading.',
    'ferment.fastest': 'A cellar fills within minutes, not seconds.',
    'ammonia.fastest': 'An opened bottle is detected within half a minute.',
    'solvent.fastest': 'A cellar fills within minutes, not seconds.',
    'ferment-over.range': 'A shift.',
    'ferment-over.tolerance': 'A minute.',
    'ferment-over.fastest': 'It accumulates while the level is high.',
    power: 'Heaters draw half an ampere day and night, too much for small batteries.',
    surroundings: 'Cellars are dusty where grain is handled.',
  },
  make: () =>
    sections(
      [
        ...GASES.map(([id, quantity, measurand, , low, high, tolerance, ratePerS]): Ask => ({
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
        ...GASES.map(([id, quantity]) =>
          workedOut(`${id}-over`, `${quantity} above ${LIMITS[id]} ppm`, 'min', 0, 480, 1),
        ),
      ],
      { power: 'wall', surroundings: ['dust'] },
      GASES.map(([id, name, , partId], i): Channel => {
        const part = SENSORS.find((s) => s.id === partId)!;
        const board = BOARDS.find((b) => b.id === 'radio-32-bit')!;
        const line = lineForSensor(part, board, null, `gas${i + 1}`);
        const level = LIMITS[id]!;
        return counting(
          { id, askId: id, name, line },
          [watch('over', `Above ${level} ppm`, 'beyond', { side: 'above', level, hysteresis: level / 10 })],
          [
            made(
              'over',
              `Time above ${level} ppm`,
              'time-beyond',
              { of: 'over' },
              { to: 'min' },
              { askId: `${id}-over` },
            ),
            made('highest', 'Highest reading', 'extreme', {}, { which: 'highest' }),
          ],
        );
      }),
      2,
    ),
};
