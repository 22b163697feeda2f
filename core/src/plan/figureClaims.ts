import type { Calibration } from '../model/calibration.ts';
import type { Gadget } from '../model/gadget.ts';
import type { NowFigure } from '../model/live.ts';
import type { Claim } from '../prove/claims.ts';
import { printNumber, printSignificant, UNITS } from '../units/index.ts';
import { isCounted } from './nowFigures.ts';
import { figureBrief } from './shown.ts';
import { trueUpChannel } from './wholeLine.ts';

/**
 * What the figures that the brief asks for are worth, each as a claim: a race time, a peak or a capacity has an error budget
 * of its own, which the bench works out with it. What is counted has none: it is shown by counting (see wantedStudies).
 * @param now the newest figures of each channel, as the bench tells them @param isSending whether readings come
 */
export function figureClaims(
  gadget: Gadget,
  now: Readonly<Record<string, readonly NowFigure[]>>,
  isSending: boolean,
  calibrations: readonly Calibration[],
): { readonly channelId: string; readonly claim: Claim }[] {
  return gadget.channels.flatMap((channel) => {
    const owner = trueUpChannel(gadget, channel).id;
    const isTruedUp = calibrations.some((c) => c.channelId === owner && c.state === 'in use');
    return (channel.figures ?? []).flatMap((spec) => {
      if (!figureBrief(gadget, channel, spec) || isCounted(spec.kind)) return [];
      const told = now[channel.id]?.find((f) => f.id === spec.id) ?? null;
      return [{ channelId: channel.id, claim: claimOf(spec.id, spec.name, told, isSending, isTruedUp) }];
    });
  });
}

function claimOf(
  id: string,
  name: string,
  told: NowFigure | null,
  isSending: boolean,
  isTruedUp: boolean,
): Claim {
  const base = { id: `figure-${id}` as const, title: `${name} worth what the brief allows` };
  if (told === null || told.value === null)
    return {
      ...base,
      state: 'not shown',
      sentence: told?.reason ?? 'None was made while anybody listened.',
      next: isSending
        ? 'Let it happen once: the bench then says what it is worth.'
        : 'Bring the link up, and let it happen once.',
      by: isSending ? 'line' : 'link',
    };
  const { symbol } = UNITS[told.unit];
  const value = `The newest is ${printNumber(told.value, told.decimals)} ${symbol}`;
  if (told.tolerance === null)
    return {
      ...base,
      state: 'not shown',
      sentence: `${value}, in another quantity than the brief asks it in.`,
      next: 'Ask for it in a unit of its own quantity.',
      by: 'line',
    };
  const allowed = `allowed ±${printSignificant(told.tolerance, 2)} ${symbol}`;
  if (told.uncertainty === null)
    return {
      ...base,
      state: 'not shown',
      sentence: `${value}; what it is worth is not known, ${allowed}.`,
      next: 'True up the channels that it is made of: nobody has stated what their constants are worth.',
      by: 'true-up',
    };
  const isInside = told.uncertainty <= told.tolerance;
  // What the bench makes of constants and noise does not hold what the sensor is wrong by as bought.
  if (isInside && !isTruedUp)
    return {
      ...base,
      state: 'not shown',
      sentence: `${value} ±${printSignificant(told.uncertainty, 2)} ${symbol} by its line alone; ${allowed}. What the sensor is wrong by as bought is not in that.`,
      next: 'True up the channel that it is made of.',
      by: 'true-up',
    };
  return {
    ...base,
    state: isInside ? 'pass' : 'fail',
    sentence:
      `${value} ±${printSignificant(told.uncertainty, 2)} ${symbol} at 95 %; ${allowed}. ${told.how}`.trim(),
    next: isInside
      ? ''
      : 'Make smaller what it is made of: true up, or set its detector closer on the Line page.',
    by: isInside ? null : 'line',
  };
}
