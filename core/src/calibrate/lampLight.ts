import { editLine } from '../line/edits.ts';
import { compileLine } from '../line/compile.ts';
import { readingAtRest, slopeAtRest } from '../line/atRest.ts';
import type { Channel } from '../model/gadget.ts';
import type { LineSpec } from '../model/line.ts';
import { LineError } from '../stage/contract.ts';
import { printNominal } from '../units/index.ts';
import type { SteadyLimits } from './steadyWindow.ts';

/** Below such a share of the full scale nothing is called light, whatever was kept as dark. */
const NO_LIGHT = 1 / 200;
/** So many times what it gives in the dark, a detector sees light. */
const TIMES_DARK = 5;
/** From here on a detector is at its end; a blank below the other share leaves its noise to tell. */
const AT_END = 0.97;
const STARVED = 0.1;
/** What is kept is the mean of so long, s, and of so many readings at the least. */
const TAKEN_S = 3;
const LEAST = 10;
/** Over that time lamps may drift by such a share of their counts, 1 mA of absorbance, and single readings scatter. */
const DRIFTS = 1 / 500;
const SCATTERS = 1 / 50;
/** Detectors scatter by some counts in the dark. */
const DARK_SCATTER = 1 / 4000;

/** Channels that read light through the same glass: one dark and one blank serve them all. */
export const isInLight = ({ line }: Channel): boolean =>
  line.sources.length === 1 && line.stages.some((s) => s.kind === 'absorbance');

/** The same, one for each lamp: what is worked on from a lamp's absorbance is no lamp more. */
export const lampsOf = (channels: readonly Channel[]): Channel[] =>
  channels.filter(isInLight).filter((c, i, all) => all.findIndex((d) => lampOf(d) === lampOf(c)) === i);

/** The raw column that tells a lamp's light. */
export const lampOf = ({ line }: Channel): string => line.sources[0]!.column;

const lightOf = ({ line }: Channel) => {
  const { params } = line.stages.find((s) => s.kind === 'absorbance')!;
  return { dark: Number(params['dark']), fullScale: Number(params['fullScale']) };
};

/** The same channels with what was seen of each lamp, by raw column, as its dark or its blank. */
export const withLampLight = (
  channels: readonly Channel[],
  as: 'dark' | 'blank',
  counts: ReadonlyMap<string, number>,
): Channel[] =>
  channels.map((channel) => {
    const seen = isInLight(channel) ? counts.get(lampOf(channel)) : undefined;
    if (seen === undefined) return channel;
    const params = { [as]: Number(seen.toPrecision(6)) };
    const edits = channel.line.stages
      .filter((s) => s.kind === 'absorbance')
      .map((s) => ({ stageId: s.id, params }));
    return { ...channel, line: editLine(channel.line, edits) };
  });

/** What counts as standing still for a lamp that gives so many counts. @param sampleRateHz rows a second */
export const lampAtRest = (channel: Channel, counts: number, sampleRateHz: number): SteadyLimits => ({
  windowS: Math.max(TAKEN_S, LEAST / sampleRateHz),
  drift: Math.max(0.5, DRIFTS * counts, (DARK_SCATTER / 2) * lightOf(channel).fullScale),
  scatter: Math.max(2, SCATTERS * counts, DARK_SCATTER * lightOf(channel).fullScale),
});

/**
 * Absorbance at so many counts, by the line up to the stage that gives it; null where it gives no number.
 * @param uCounts standard uncertainty of those counts @returns with the expanded uncertainty (k = 2) that comes of it
 */
export function absorbanceAt(
  { line }: { readonly line: LineSpec },
  counts: number,
  uCounts: number,
): { readonly value: number; readonly uncertainty: number } | null {
  const at = line.stages.findIndex((s) => s.kind === 'absorbance');
  try {
    const upTo = compileLine({ ...line, stages: line.stages.slice(0, at + 1) }, { sampleRateHz: 1 });
    const value = readingAtRest(upTo, counts);
    const uncertainty = 2 * Math.abs(slopeAtRest(upTo, counts)) * uCounts;
    return Number.isFinite(value) && Number.isFinite(uncertainty) ? { value, uncertainty } : null;
  } catch (error) {
    if (error instanceof LineError) return null;
    throw error;
  }
}

export interface LampJudgement {
  readonly trouble: readonly ('saturated' | 'starved' | null)[];
  /** Why these counts are no dark and no blank, in words; null where they are. */
  readonly notDark: string | null;
  readonly notBlank: string | null;
}

/** Whether what lamps give can be their dark, or their blank. @param counts of each lamp, in their order */
export function judgeLamps(lamps: readonly Channel[], counts: readonly number[]): LampJudgement {
  const lights = lamps.map(lightOf);
  const isLit = lights.map(
    ({ dark, fullScale }, i) => counts[i]! > Math.max(TIMES_DARK * dark, NO_LIGHT * fullScale),
  );
  const isBright = isLit.every(Boolean);
  const trouble = lights.map(({ fullScale }, i) => {
    if (counts[i]! > AT_END * fullScale) return 'saturated';
    return isBright && counts[i]! < STARVED * fullScale ? 'starved' : null;
  });
  const told = (i: number) => `${lamps[i]!.name} gives ${printNominal(counts[i]!, 3)} counts`;
  const [lit, unlit, full] = [isLit.indexOf(true), isLit.indexOf(false), trouble.indexOf('saturated')];
  return {
    trouble,
    notDark: lit < 0 ? null : `Not dark: ${told(lit)}.`,
    notBlank:
      unlit >= 0
        ? `Not enough light for a blank: ${told(unlit)}.`
        : full >= 0
          ? `${lamps[full]!.name} saturates the detector.`
          : null,
  };
}
