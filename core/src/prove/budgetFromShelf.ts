import { filterTotals } from '../line/filterTraits.ts';
import { isUncertaintyKnown } from '../calibrate/isUncertaintyKnown.ts';
import { convertDifference, printNumber, printSignificant } from '../units/index.ts';
import { lineOf, type BudgetInput, type SourceLine } from './budgetInput.ts';
import { keptOfEvent } from './keptOfEvent.ts';
import { boughtHalf, leftHalf, WARMER_BY_K, warmthHalf } from './sensorOwn.ts';

/** What the sensor is good to as bought at a reading, by the shelf; NaN where it says nothing. */
export const boughtAt = ({ line, sensor }: BudgetInput, reading: number) =>
  boughtHalf(sensor, reading, line.outputs[0]!.unit);

/** What the sensor is good to by itself: all of it as bought, or what a true-up leaves; beyond the points all of it again. */
export function fromSensor(input: BudgetInput, reading: number, isBeyond: boolean): SourceLine[] {
  const { line, calibration, sensor } = input;
  const rectangular = { distribution: 'rectangular' } as const;
  const bought = boughtAt(input, reading);
  const seen = input.hysteresis > 0 ? [fromHysteresis(input)] : [];
  const nobody = sensor ? `no shelf data for ${sensor.title}` : 'unknown, because no sensor is picked';
  if (!calibration)
    return Number.isFinite(bought)
      ? [lineOf(input, 'sensorAccuracy', bought, `${sensor!.title}, shelf data`, rectangular), ...seen]
      : seen;
  const left = leftHalf(sensor, line.outputs[0]!.unit);
  const warmth = warmthHalf(sensor, reading, line.outputs[0]!.unit);
  return [
    lineOf(
      input,
      'afterCalibration',
      left,
      Number.isFinite(left) ? `remaining error of ${sensor!.title} after calibration, shelf data` : nobody,
      rectangular,
    ),
    ...seen,
    ...(warmth > 0
      ? [
          lineOf(
            input,
            'temperature',
            warmth,
            `${printSignificant(100 * sensor!.temperatureShare!, 1)} % of the reading per kelvin for ${sensor!.title} (shelf data), over ±${WARMER_BY_K} K`,
            rectangular,
          ),
        ]
      : []),
    // Constants that the line states are good to what they are as bought out there; a straight line may bend as well.
    ...(isBeyond && !isUncertaintyKnown(line.spec, null)
      ? [
          lineOf(
            input,
            'outsidePoints',
            bought,
            Number.isFinite(bought)
              ? `datasheet accuracy of ${sensor!.title} (shelf data), as there are no calibration points there`
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
    'hysteresis',
    input.hysteresis,
    'half the difference between points approached from below and from above',
    { distribution: 'rectangular' },
  );

/** What the brief's fastest event loses on its way through sensor, sampling and filters. */
export function fromEvent(input: BudgetInput, reading: number): SourceLine[] {
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
        'lag',
        rate * (delayS + responseS),
        sensor
          ? `${seconds(delayS)} from filters and ${seconds(responseS)} from ${sensor.title} (shelf data)`
          : `${seconds(delayS)} from filters; response time of the sensor unknown, because none is picked`,
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
      fastest.kind === 'pulse' ? 'peakLoss' : 'amplitudeLoss',
      Math.abs(reading) * (1 - kept.all),
      `share kept: sensor ${sensor ? percent(kept.sensor) : 'unknown (none picked)'}, ${fastest.kind === 'pulse' ? `sampling ${percent(kept.sampling)}, ` : ''}filters ${percent(kept.filters)}`,
      rectangular,
    ),
  ];
}

const seconds = (s: number) => `${printSignificant(s, 2)} s`;
