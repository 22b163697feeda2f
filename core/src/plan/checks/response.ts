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
  const title = 'Response time';
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
        sentence: `Lags behind the fastest change by ${p(error, 2)} ${symbol}; the limit is ±${p(limit, 2)} ${symbol}, the target a third of it.`,
        arithmetic: `${p(fastest.ratePerS)} ${symbol}/s × a time constant of ${seconds(lag)}.`,
        change: `Reduce the time constant to ${seconds(limit / 3 / fastest.ratePerS)} or less, with a thinner probe or a smaller chamber.`,
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
        sentence: `Passes ${p(100 * kept, 2)} % of a ${p(fastest.widthS * 1e3)} ms peak; the target is 95 %.`,
        arithmetic: `Half-sine pulse through a first-order lag with a time constant of ${seconds(lag)}.`,
        change: `Choose a part with a time constant of ${seconds(fastest.widthS / 20)} or less.`,
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
        sentence: `Passes ${p(100 * kept, 2)} % of the amplitude at ${p(fastest.frequencyHz)} Hz; the target is 90 %.`,
        arithmetic: `1 / √(1 + (2π × ${p(fastest.frequencyHz)} Hz × ${seconds(lag)})²).`,
        change: `Choose a part with a time constant of ${seconds(0.48 / (2 * Math.PI * fastest.frequencyHz))} or less.`,
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
        sentence: `About ${seconds(lag)} late at both start and stop, which mostly cancels; timing to ${seconds(fastest.timingS)} required.`,
        arithmetic: 'A lag that is the same at start and stop cancels; only its scatter remains.',
        change: `Choose a part with a time constant of ${seconds(fastest.timingS)} or less.`,
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
        sentence: `Settles in ${seconds(lag)}; marks are ${seconds(gap)} apart at top speed.`,
        arithmetic: 'A sixth of the gap gives an edge time to rise and fall again.',
        change: 'Use fewer marks per turn, or a faster sensor.',
      });
    }
  }
}
