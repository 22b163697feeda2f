import type { ChannelBrief } from '../../model/gadget.ts';
import type { SensorPart } from '../../model/part.ts';
import { convertUnit, UNITS } from '../../units/index.ts';
import { atLeast, p, type FitState, type PartVerdict } from '../verdict.ts';

/** Ends of the brief's range in the part's unit. */
export function endsIn(part: SensorPart, brief: ChannelBrief): [number, number] {
  return [convertUnit(brief.low, brief.unit, part.unit), convertUnit(brief.high, brief.unit, part.unit)];
}

/** Covers low to high with 10 % of the span to spare; a span under 20 % of the sensor's range is a waste of its fineness. */
export function rangeCheck(part: SensorPart, brief: ChannelBrief): PartVerdict {
  const ends = endsIn(part, brief);
  const symbol = UNITS[part.unit].symbol;
  const span = ends[1] - ends[0];
  // What differs by the rounding of a conversion is the same.
  const [low, high] = [snap(ends[0], part.low, span), snap(ends[1], part.high, span)];
  // A full circle and a zero that is the end of the world have nothing beyond them.
  const spares = [
    ...((low === part.low && isEnd(part, part.low)) || farEnough(part, low) ? [] : [low - part.low]),
    ...(high === part.high && isEnd(part, part.high) ? [] : [part.high - high]),
  ];
  const spare = spares.length > 0 ? Math.min(...spares) : span * 0.1;
  const share = span / (part.high - part.low);
  const state: FitState = spare < 0 ? 'fail' : spare < span * 0.0999 || share < 0.2 ? 'tight' : 'pass';
  const sentence =
    spare < 0
      ? `Falls ${p(-spare)} ${symbol} short of the brief’s range.`
      : spare < span * 0.0999
        ? `Covers the brief’s range with only ${p(spare)} ${symbol} to spare.`
        : share < 0.2
          ? `The brief uses only ${p(share * 100, 2)} % of the sensor’s range.`
          : `Covers the brief’s range with ${p(spare)} ${symbol} to spare.`;
  const short = low < part.low ? `from ${p(part.low)}` : `to ${p(part.high)}`;
  return atLeast({
    check: 'range',
    title: 'Range',
    state,
    value: spare,
    limit: span * 0.1,
    unit: symbol,
    sentence,
    arithmetic: `Sensor ${p(part.low)} to ${p(part.high)} ${symbol}, brief ${p(low)} to ${p(high)} ${symbol}; the target is a margin of 10 % of the span (${p(span * 0.1)} ${symbol}) at both ends.`,
    change:
      spare < 0
        ? `Limit the brief’s range (${short} ${symbol}), or choose a part with a wider range.`
        : share < 0.2
          ? `Choose a part with a range closer to ${p(span)} ${symbol}.`
          : 'Choose a part with a little more range beyond the brief’s limits.',
  });
}

const snap = (v: number, to: number, span: number) => (Math.abs(v - to) <= 1e-9 * span ? to : v);

function isEnd(part: SensorPart, at: number): boolean {
  return at === 0 ? part.low === 0 : part.unit === 'deg' && at === 360;
}

/** A curve on log-log paper has half a decade to spare where its lower end is half the brief's. */
const farEnough = (part: SensorPart, low: number) => part.low > 0 && part.low <= low / 2;
