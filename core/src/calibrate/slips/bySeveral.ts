import { printSignificant, UNITS, type UnitId } from '../../units/index.ts';
import type { Slip, SlipObservation } from './slip.ts';

/** What only several observations can tell: any factor, any straight line, a power, an end, a rate that is not kept up with. */
export function slipsOfSeveral(unit: UnitId, observations: readonly SlipObservation[]): Slip[] {
  const { symbol } = UNITS[unit];
  const sorted = observations.toSorted((a, b) => Math.abs(a.expected) - Math.abs(b.expected));
  const [least, most] = [sorted[0]!, sorted.at(-1)!];
  if (observations.length < 2 || Math.abs(most.expected - least.expected) < 0.05 * Math.abs(most.expected))
    return [];
  const found: Slip[] = [];
  const factor = most.shown / most.expected;
  if (Number.isFinite(factor) && factor !== 0)
    found.push({
      ids: ['factor'],
      title: `Wrong scale factor: every reading is ${printSignificant(factor, 3)} times the expected value`,
      test: 'Calibrate at two points; one constant then corrects everything.',
      cost: 1.2,
      edit: null,
      correct: (o) => o.shown / factor,
    });
  const spread =
    Math.max(...observations.map((o) => o.shown)) - Math.min(...observations.map((o) => o.shown));
  if (spread < 0.03 * Math.abs(most.expected - least.expected)) {
    const held = most.shown;
    found.push({
      ids: ['saturation'],
      title: `The reading is stuck at ${printSignificant(held, 3)} ${symbol}: end of range, or no change at all`,
      test: 'Reduce the load. If the reading does not change, check whether the raw counts are at the ADC’s maximum.',
      cost: 0,
      edit: null,
      correct: (o) => o.expected,
    });
  } else if (Math.abs(least.shown / least.expected - 1) < 0.06) {
    // Right where there is little, too little where there is much.
    const end = most.shown;
    if (Math.abs(most.shown) < 0.94 * Math.abs(most.expected))
      found.push({
        ids: [RATE.has(UNITS[unit].dimension) ? 'rate' : 'saturation'],
        title: RATE.has(UNITS[unit].dimension)
          ? 'Fast events are missed: the sensor or the sampling is too slow'
          : `Correct at low values, but limited to about ${printSignificant(end, 3)} ${symbol}`,
        test: RATE.has(UNITS[unit].dimension)
          ? 'Slow down: the reading should become correct. Then check how often the board samples the sensor.'
          : 'Check the raw counts there: the ADC may be at its maximum, or an amplifier at its supply voltage.',
        cost: 0,
        edit: null,
        correct: (o) => (Math.abs(o.shown / o.expected - 1) < 0.06 ? o.shown : o.expected),
      });
  }
  if (observations.every((o) => o.shown > 0 && o.expected > 0)) {
    const power = Math.log(most.shown / least.shown) / Math.log(most.expected / least.expected);
    for (const [p, title] of [
      [2, 'Reading follows the square: a square root is missing'],
      [0.5, 'Reading follows the square root: a square is missing'],
      [-1, 'Reading is inverted: 1/x instead of x'],
    ] as const)
      if (Math.abs(power / p - 1) < 0.1) {
        const at = most.shown / most.expected ** p;
        found.push({
          ids: [p === -1 ? 'reciprocal' : `power-${p}`],
          title,
          test: 'Double the measured quantity. Does the reading double, go up 4 times or 1.4 times, or halve?',
          cost: 0.2,
          edit: null,
          correct: (o) => (o.shown / at) ** (1 / p),
        });
      }
  }
  return found;
}

const RATE = new Set(['frequency', 'count', 'count rate', 'speed', 'turning rate', 'length']);
