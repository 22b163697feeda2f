import { acMiddle } from '../acMiddle.ts';
import { acRms } from '../acRms.ts';
import { fitPhaseTrim } from '../phaseTrim.ts';
import type { Found, GuidedFit } from './guidedFit.ts';

type Parameter = Found['parameters'][number] & { readonly u: number };

/** Constants that vary each by itself. */
function apart(
  parameters: readonly Parameter[],
  rest: Pick<Found, 'reason' | 'degreesOfFreedom' | 'uDegreesOfFreedom'>,
): Found {
  return {
    ...rest,
    params: Object.fromEntries(parameters.map((p) => [p.param, p.value])),
    parameters: parameters.map(({ u: _u, ...p }) => p),
    covariance: parameters.map((p, i) => parameters.map((_, j) => (i === j ? p.u ** 2 : 0))),
    birge: 1,
    converged: true,
    residuals: [],
    validRaw: [0, 0],
    validReading: [0, 0],
  };
}

const NONE = 'Nothing captured yet.';

/** What both columns read in the middle of their swing, with the load off. */
export const acMiddleFit: GuidedFit<'ac-middle'> = {
  id: 'ac-middle',
  title: 'Midpoints of voltage and current',
  assumes: 'No direct current flows, so the mean over whole cycles is zero.',
  takes: 'ac-middle',
  stage: 'ac-power',
  solve(pieces) {
    const newest = pieces.at(-1)?.evidence;
    if (!newest) return NONE;
    const found = acMiddle(Float64Array.from(newest.voltage), Float64Array.from(newest.current));
    if (typeof found === 'string') return found;
    return apart(
      [
        {
          param: 'voltageBias',
          title: 'Voltage midpoint',
          unit: 'counts',
          value: found.voltage,
          u: found.uVoltage,
        },
        {
          param: 'currentBias',
          title: 'Current midpoint',
          unit: 'counts',
          value: found.current,
          u: found.uCurrent,
        },
      ],
      {
        reason: `mean over ${found.cycles} whole cycles`,
        degreesOfFreedom: found.cycles - 1,
        uDegreesOfFreedom: found.cycles - 1,
      },
    );
  },
};

/** How far the current sensor lags, with a load that has no lag of its own. */
export const acLag: GuidedFit<'ac-lag'> = {
  id: 'ac-lag',
  title: 'Phase lag of the current sensor',
  assumes: 'The load is purely resistive: incandescent lamps or a heater, no motor or switching supply.',
  takes: 'ac-lag',
  stage: 'ac-power',
  solve(pieces, _stage, { sampleRateHz }) {
    const newest = pieces.at(-1)?.evidence;
    if (!newest) return NONE;
    const found = fitPhaseTrim(
      Float64Array.from(newest.voltage),
      Float64Array.from(newest.current),
      sampleRateHz,
    );
    if (typeof found === 'string') return found;
    return apart(
      [
        {
          param: 'currentDelayUs',
          title: 'Current lag',
          unit: 'µs',
          value: found.currentDelayUs,
          u: found.u,
        },
      ],
      {
        reason: `mean of ${found.stretches} sections`,
        degreesOfFreedom: found.stretches - 1,
        uDegreesOfFreedom: found.stretches - 1,
      },
    );
  },
};

/** Volts and amperes a count, from a meter that stands beside. */
export const acScale: GuidedFit<'ac-scale'> = {
  id: 'ac-scale',
  title: 'Scale from a meter',
  assumes: 'The meter is true RMS at this frequency, and the load stayed constant during the comparison.',
  takes: 'ac-scale',
  stage: 'ac-power',
  solve(pieces) {
    const newest = pieces.at(-1)?.evidence;
    if (!newest) return NONE;
    const found = acRms(Float64Array.from(newest.voltage), Float64Array.from(newest.current));
    if (typeof found === 'string') return found;
    const scale = (of: 'voltage' | 'current', shown: { value: number; uncertainty: number }) => {
      const value = shown.value / found[of].rms;
      return {
        value,
        u: value * Math.hypot(shown.uncertainty / 2 / shown.value, found[of].u / found[of].rms),
      };
    };
    return apart(
      [
        { param: 'voltsPerUnit', title: 'Volts per count', unit: 'V', ...scale('voltage', newest.volts) },
        {
          param: 'amperesPerUnit',
          title: 'Amperes per count',
          unit: 'A',
          ...scale('current', newest.amperes),
        },
      ],
      {
        reason: `comparison with the meter over ${found.cycles} whole cycles`,
        degreesOfFreedom: found.cycles - 1,
      },
    );
  },
};
