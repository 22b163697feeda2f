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
  const base = { id: `figure-${id}` as const, title: `${name}: uncertainty within the tolerance` };
  if (told === null || told.value === null)
    return {
      ...base,
      state: 'not shown',
      sentence: told?.reason ?? 'No result yet while the link was up.',
      next: given.isSending
        ? 'Produce one result. Its uncertainty is then calculated.'
        : 'Connect the gadget, then produce one result.',
      by: given.isSending ? 'line' : 'link',
    };
  const { symbol } = UNITS[told.unit];
  const withUnit = (text: string) => `${text} ${symbol}`.trim();
  const value = `The latest result is ${withUnit(printNumber(told.value, told.decimals))}`;
  if (told.tolerance === null)
    return {
      ...base,
      state: 'not shown',
      sentence: `${value}, but the brief gives this requirement in a different quantity.`,
      next: 'Change the unit of the requirement to one of the same quantity.',
      by: 'line',
    };
  const allowed = `allowed ${withUnit(`±${printSignificant(told.tolerance, 2)}`)}`;
  if (told.uncertainty === null)
    return {
      ...base,
      state: 'not shown',
      sentence: `${value}; its uncertainty is unknown, ${allowed}.`,
      next: 'Calibrate the channels that it is calculated from: the uncertainty of their constants is unknown.',
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
      sentence: `${value}: nothing has happened yet that could prove it.`,
      next: 'Produce one result while the link is up.',
      by: 'line',
    };
  if (isInside && fromNothing === 'grows' && !(Math.abs(told.value) >= most / 2))
    return {
      ...base,
      state: 'not shown',
      sentence: `${value}, ${worth} at that value; the uncertainty of larger values, up to the required ${withUnit(printNumber(most, 0))}, is unknown.`,
      next: 'Let it reach at least half of the required value while the link is up.',
      by: 'line',
    };
  if (!isInside && told.isSettling)
    return {
      ...base,
      state: 'not shown',
      sentence: `${value} ${worth} so far; ${allowed}. ${told.how}`,
      next: 'Wait until its time window is full.',
      by: 'line',
    };
  if (isInside && !given.isPicked)
    return {
      ...base,
      state: 'not shown',
      sentence: `${value} ${worth} from the line alone; ${allowed}. The sensor’s own uncertainty is not included, because no sensor is picked.`,
      next: 'Pick a sensor.',
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
        ? 'Reduce what contributes most: tighten the event detector on the Line page, or pick a better sensor.'
        : 'Uncalibrated, it cannot guarantee that. Calibrate its channel, measure for longer, or pick a better sensor.',
    by: isInside ? null : given.isTruedUp ? 'line' : 'true-up',
  };
}

/** The most that the brief asks of a figure, in the figure's unit. */
const mostAsked = (brief: ChannelBrief, unit: UnitId) =>
  Math.max(...[brief.low, brief.high].map((end) => Math.abs(convertUnit(end, brief.unit, unit))));
