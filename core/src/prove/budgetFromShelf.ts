import { filterTotals } from '../line/filterTraits.ts';
import { isUncertaintyKnown } from '../calibrate/isUncertaintyKnown.ts';
import { convertDifference, printNumber, printSignificant } from '../units/index.ts';
import { lineOf, type BudgetInput } from './budgetInput.ts';
import type { BudgetLine } from './errorBudget.ts';
import { keptOfEvent } from './keptOfEvent.ts';
import { boughtHalf, leftHalf, WARMER_BY_K, warmthHalf } from './sensorOwn.ts';

/** What the sensor is good to as bought at a reading, by the shelf; NaN where it says nothing. */
export const boughtAt = ({ line, sensor }: BudgetInput, reading: number) =>
  boughtHalf(sensor, reading, line.outputs[0]!.unit);

/** What the sensor is good to by itself: all of it as bought, or what a true-up leaves; beyond the points all of it again. */
export function fromSensor(input: BudgetInput, reading: number, isBeyond: boolean): BudgetLine[] {
  const { line, calibration, sensor } = input;
  const rectangular = { distribution: 'rectangular' } as const;
  const bought = boughtAt(input, reading);
  const seen = input.hysteresis > 0 ? [fromHysteresis(input)] : [];
  const nobody = sensor
    ? `the shelf says nothing of it for ${sensor.title}`
    : 'no sensor is picked, so that nobody says';
  if (!calibration)
    return Number.isFinite(bought)
      ? [lineOf(input, 'Sensor as bought', bought, `${sensor!.title}, by the shelf`, rectangular), ...seen]
      : seen;
  const left = leftHalf(sensor, line.outputs[0]!.unit);
  const warmth = warmthHalf(sensor, reading, line.outputs[0]!.unit);
  return [
    lineOf(
      input,
      'Bends, drift and hysteresis that stay',
      left,
      Number.isFinite(left) ? `what a true-up leaves of ${sensor!.title}, by the shelf` : nobody,
      rectangular,
    ),
    ...seen,
    ...(warmth > 0
      ? [
          lineOf(
            input,
            'Warmer or colder than at the true-up',
            warmth,
            `${printSignificant(100 * sensor!.temperatureShare!, 1)} % of the reading a kelvin of ${sensor!.title}, by the shelf, over ${WARMER_BY_K} K either way`,
            rectangular,
          ),
        ]
      : []),
    // Constants that the line states are good to what they are as bought out there; a straight line may bend as well.
    ...(isBeyond && !isUncertaintyKnown(line.spec, null)
      ? [
          lineOf(
            input,
            'Beyond the points',
            bought,
            Number.isFinite(bought)
              ? `${sensor!.title} as bought, by the shelf: no point lies out there`
              : nobody,
            rectangular,
          ),
        ]
      : []),
  ];
}

const fromHysteresis = (input: BudgetInput) =>
  lineOf(
    input,
    'Hysteresis seen',
    input.hysteresis,
    'half of what points differ by that were come to from below and from above',
    { distribution: 'rectangular' },
  );

/** What the brief's fastest event loses on its way through sensor, sampling and filters. */
export function fromEvent(input: BudgetInput, reading: number): BudgetLine[] {
  const { line, brief, sensor, achievedHz } = input;
  const unit = line.outputs[0]!.unit;
  const { fastest } = brief;
  const responseS = sensor ? sensor.responseS : Number.NaN;
  const rectangular = { distribution: 'rectangular' } as const;
  if (fastest.kind === 'ramp') {
    const { delayS } = filterTotals(line);
    const rate = convertDifference(fastest.ratePerS, brief.unit, unit);
    return [
      lineOf(
        input,
        'Lag on the fastest change',
        rate * (delayS + responseS),
        sensor
          ? `${seconds(delayS)} of filters and ${seconds(responseS)} of ${sensor.title} itself, by the shelf`
          : `${seconds(delayS)} of filters; how far the sensor itself trails nobody says, since none is picked`,
        rectangular,
      ),
    ];
  }
  const kept = keptOfEvent(line, fastest, responseS, achievedHz ?? line.context.sampleRateHz);
  if (!kept) return [];
  const percent = (share: number) => `${printNumber(100 * share, 1)} %`;
  return [
    lineOf(
      input,
      fastest.kind === 'pulse' ? 'Peak lost on the way' : 'Swing lost on the way',
      Math.abs(reading) * (1 - kept.all),
      `kept by the sensor ${sensor ? percent(kept.sensor) : 'not known, since none is picked'}, ${fastest.kind === 'pulse' ? `by sampling ${percent(kept.sampling)}, ` : ''}by the filters ${percent(kept.filters)}`,
      rectangular,
    ),
  ];
}

const seconds = (s: number) => `${printSignificant(s, 2)} s`;
