import { figureKind } from '../figures/index.ts';
import type { Calibration } from '../model/calibration.ts';
import type { ChannelBrief, Gadget } from '../model/gadget.ts';
import type { NowFigure } from '../model/live.ts';
import type { Part } from '../model/part.ts';
import type { FigureSpec } from '../model/watch.ts';
import type { Claim } from '../prove/claims.ts';
import { convertUnit, printNumber, printSignificant, UNITS, type UnitId } from '../units/index.ts';
import { isCounted } from './nowFigures.ts';
import { figureBrief } from './shown.ts';
import { sensorOf } from './sensorOf.ts';
import { calibrationInUse } from './wholeLine.ts';

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
  parts: readonly Part[],
): { readonly channelId: string; readonly claim: Claim }[] {
  return gadget.channels.flatMap((channel) => {
    const given: Given = {
      isSending,
      isTruedUp: calibrationInUse(gadget, channel, calibrations) !== null,
      isPicked: sensorOf(gadget, channel, parts) !== null,
    };
    return (channel.figures ?? []).flatMap((spec) => {
      const brief = figureBrief(gadget, channel, spec);
      if (!brief || isCounted(spec.kind)) return [];
      const told = now[channel.id]?.find((f) => f.id === spec.id) ?? null;
      return [{ channelId: channel.id, claim: claimOf(spec, brief, told, given) }];
    });
  });
}

interface Given {
  readonly isSending: boolean;
  readonly isTruedUp: boolean;
  /** Whether the sensor is picked: otherwise nobody says what it adds. */
  readonly isPicked: boolean;
}

function claimOf(
  { id, name, kind }: FigureSpec,
  brief: ChannelBrief,
  told: NowFigure | null,
  given: Given,
): Claim {
  const base = { id: `figure-${id}` as const, title: `${name} worth what the brief allows` };
  if (told === null || told.value === null)
    return {
      ...base,
      state: 'not shown',
      sentence: told?.reason ?? 'None was made while anybody listened.',
      next: given.isSending
        ? 'Let it happen once: the bench then says what it is worth.'
        : 'Bring the link up, and let it happen once.',
      by: given.isSending ? 'line' : 'link',
    };
  const { symbol } = UNITS[told.unit];
  const withUnit = (text: string) => `${text} ${symbol}`.trim();
  const value = `The newest is ${withUnit(printNumber(told.value, told.decimals))}`;
  if (told.tolerance === null)
    return {
      ...base,
      state: 'not shown',
      sentence: `${value}, in another quantity than the brief asks it in.`,
      next: 'Ask for it in a unit of its own quantity.',
      by: 'line',
    };
  const allowed = `allowed ${withUnit(`±${printSignificant(told.tolerance, 2)}`)}`;
  if (told.uncertainty === null)
    return {
      ...base,
      state: 'not shown',
      sentence: `${value}; what it is worth is not known, ${allowed}.`,
      next: 'True up the channels that it is made of: nobody has stated what their constants are worth.',
      by: 'true-up',
    };
  const worth = withUnit(`±${printSignificant(told.uncertainty, 2)}`);
  const isInside = told.uncertainty <= told.tolerance;
  const most = mostAsked(brief, told.unit);
  const { fromNothing } = figureKind(kind)!;
  if (isInside && fromNothing === 'happens' && told.value === 0)
    return {
      ...base,
      state: 'not shown',
      sentence: `${value}: nothing has happened that it could be shown by.`,
      next: 'Let it happen once, while the link is up.',
      by: 'line',
    };
  if (isInside && fromNothing === 'grows' && !(Math.abs(told.value) >= most / 2))
    return {
      ...base,
      state: 'not shown',
      sentence: `${value}, ${worth} there; of more, to the ${withUnit(printNumber(most, 0))} that the brief asks for, nothing is known.`,
      next: 'Let it come to half of what the brief asks for, while the link is up.',
      by: 'line',
    };
  if (!isInside && told.isSettling)
    return {
      ...base,
      state: 'not shown',
      sentence: `${value} ${worth} so far; ${allowed}. ${told.how}`,
      next: 'Wait until its window is full.',
      by: 'line',
    };
  if (isInside && !given.isPicked)
    return {
      ...base,
      state: 'not shown',
      sentence: `${value} ${worth} by its line alone; ${allowed}. What its sensor adds is not in that: none is picked.`,
      next: 'Pick its sensor.',
      by: 'pick',
    };
  return {
    ...base,
    // As bought it cannot promise what is allowed: how far off this very one is nobody knows yet.
    state: isInside ? 'pass' : given.isTruedUp ? 'fail' : 'not shown',
    sentence: `${value} ${worth} at 95 %; ${allowed}. ${told.how}`.trim(),
    next: isInside
      ? ''
      : given.isTruedUp
        ? 'Make smaller what it is made of: set its detector closer on the Line page, or pick a better sensor.'
        : 'As bought it cannot promise that: true up its channel, let it go on for longer, or pick a better sensor.',
    by: isInside ? null : given.isTruedUp ? 'line' : 'true-up',
  };
}

/** The most that the brief asks of a figure, in the figure's unit. */
const mostAsked = (brief: ChannelBrief, unit: UnitId) =>
  Math.max(...[brief.low, brief.high].map((end) => Math.abs(convertUnit(end, brief.unit, unit))));
