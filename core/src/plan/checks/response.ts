import type { ChannelBrief } from '../../model/gadget.ts';
import type { SensorPart } from '../../model/part.ts';
import { UNITS } from '../../units/index.ts';
import { laggedPeak } from '../../prove/keptOfEvent.ts';
import { edgeRateHz } from '../../prove/neededRate.ts';
import { atLeast, atMost, p, seconds, type FitState, type PartVerdict } from '../verdict.ts';

/** Whether the sensor itself follows the brief's fastest event, whatever the rate of reading. */
export function responseCheck(part: SensorPart, brief: ChannelBrief): PartVerdict {
  const { fastest } = brief;
  const lag = part.responseS;
  const title = 'Own response';
  const check = 'response' as const;
  switch (fastest.kind) {
    case 'ramp': {
      const error = fastest.ratePerS * lag;
      const limit = brief.tolerance;
      const symbol = UNITS[brief.unit].symbol;
      const state: FitState = error <= limit / 3 ? 'pass' : error <= limit ? 'tight' : 'fail';
      return atMost({
        check,
        title,
        state,
        value: error,
        limit,
        unit: symbol,
        sentence: `Trails the fastest change by ${p(error, 2)} ${symbol}; a third of ±${p(limit, 2)} ${symbol} is wanted, the whole is the most.`,
        arithmetic: `${p(fastest.ratePerS)} ${symbol}/s × a time constant of ${seconds(lag)}.`,
        change: `A time constant of ${seconds(limit / 3 / fastest.ratePerS)} or less: a thinner probe, a smaller chamber.`,
      });
    }
    case 'pulse': {
      const kept = laggedPeak(fastest.widthS, lag);
      const state: FitState = kept >= 0.95 ? 'pass' : kept >= 0.8 ? 'tight' : 'fail';
      return atLeast({
        check,
        title,
        state,
        value: 100 * kept,
        limit: 95,
        unit: '%',
        sentence: `Lets ${p(100 * kept, 2)} % of a ${p(fastest.widthS * 1e3)} ms peak through; 95 % is wanted.`,
        arithmetic: `First-order lag with a time constant of ${seconds(lag)} behind a half-sine pulse.`,
        change: `A time constant of ${seconds(fastest.widthS / 20)} or less.`,
      });
    }
    case 'tone': {
      const kept = 1 / Math.hypot(1, 2 * Math.PI * fastest.frequencyHz * lag);
      const state: FitState = kept >= 0.9 ? 'pass' : kept >= 0.7 ? 'tight' : 'fail';
      return atLeast({
        check,
        title,
        state,
        value: 100 * kept,
        limit: 90,
        unit: '%',
        sentence: `Lets ${p(100 * kept, 2)} % of a ${p(fastest.frequencyHz)} Hz swing through; 90 % is wanted.`,
        arithmetic: `1 / √(1 + (2π × ${p(fastest.frequencyHz)} Hz × ${seconds(lag)})²).`,
        change: `A time constant of ${seconds(0.48 / (2 * Math.PI * fastest.frequencyHz))} or less.`,
      });
    }
    case 'crossing': {
      const state: FitState = lag <= fastest.timingS ? 'pass' : lag <= 4 * fastest.timingS ? 'tight' : 'fail';
      return atMost({
        check,
        title,
        state,
        value: lag,
        limit: fastest.timingS,
        unit: 's',
        sentence: `Late by about ${seconds(lag)} at both ends, which mostly falls out; ${seconds(fastest.timingS)} is asked of the timing.`,
        arithmetic: 'A lag that is the same at start and finish cancels; only its scatter stays.',
        change: `A time constant of ${seconds(fastest.timingS)} or less.`,
      });
    }
    case 'edges': {
      const gap = 1 / edgeRateHz(brief.unit, brief.high, fastest.marks);
      const state: FitState = lag <= gap / 6 ? 'pass' : lag <= gap / 3 ? 'tight' : 'fail';
      return atMost({
        check,
        title,
        state,
        value: lag,
        limit: gap / 6,
        unit: 's',
        sentence: `Settles in ${seconds(lag)}; marks come ${seconds(gap)} apart at the top.`,
        arithmetic: 'A sixth of the gap leaves an edge time to come up and to fall again.',
        change: 'Fewer marks a turn, or a quicker sensor.',
      });
    }
  }
}
