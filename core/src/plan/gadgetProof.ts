import { calibratedLine } from '../calibrate/calibratedLine.ts';
import { compileLine, LineError } from '../line/index.ts';
import type { Calibration, CalibrationPoint } from '../model/calibration.ts';
import type { Channel, ChannelBrief, Gadget } from '../model/gadget.ts';
import type { LineSpec } from '../model/line.ts';
import type { NowFigure } from '../model/live.ts';
import type { Part } from '../model/part.ts';
import type { JudgedStudy } from '../model/study.ts';
import { proveChannel, type Claim, type Proof } from '../prove/claims.ts';
import { proofSummary, type ProofSummary } from '../prove/proofSummary.ts';
import type { ReadingNow } from '../prove/budgetInput.ts';
import type { SensorOwn } from '../prove/sensorOwn.ts';
import { UNITS } from '../units/index.ts';
import { briefFor } from './briefFor.ts';
import { figureClaims } from './figureClaims.ts';
import { sensorOf } from './sensorOf.ts';
import { studiedClaims } from './wantedStudies.ts';
import { trueUpChannel } from './wholeLine.ts';

/** Raw rows of a gadget that were really seen. */
export interface SeenRows {
  readonly columns: readonly string[];
  readonly rows: readonly (readonly number[])[];
  /** The newest reading of each channel, with what it is worth. */
  readonly now: Readonly<Record<string, ReadingNow>>;
  /** The newest figures of each channel. */
  readonly figures: Readonly<Record<string, readonly NowFigure[]>>;
}

/** Rows that are taken of all that came. */
const SEEN = 9;

/** Some of the newest rows, evenly over all that are kept. @param columns by name, all of one length */
export function seenRows(
  columns: readonly (readonly [name: string, values: Float64Array])[],
  now: SeenRows['now'],
  figures: SeenRows['figures'],
): SeenRows {
  const length = columns[0]?.[1].length ?? 0;
  return {
    now,
    figures,
    columns: columns.map(([name]) => name),
    rows: Array.from({ length: Math.min(SEEN, length) }, (_, k) => {
      const at = length - 1 - Math.floor((k * length) / SEEN);
      return columns.map(([, values]) => values[at]!);
    }),
  };
}

export interface ChannelProof {
  readonly channelId: string;
  readonly name: string;
  /** Or why there is none. */
  readonly proof: Proof | string;
  /** What its figures are worth, and what its studies come to. */
  readonly beside: readonly Claim[];
}

export interface GadgetProof extends ProofSummary {
  readonly channels: readonly ChannelProof[];
}

interface Evidence {
  readonly channelId: string;
  readonly sampleRateHz: number;
  readonly line: LineSpec;
  readonly brief: ChannelBrief | null;
  readonly calibration: Calibration | null;
  readonly points: readonly CalibrationPoint[];
  /** Readings a second that really come; null while none do. */
  readonly achievedHz: number | null;
  readonly seen: SeenRows;
  /** The picked sensor; null where none is. */
  readonly sensor: SensorOwn | null;
  /** When it is judged, ms since 1970. */
  readonly atMs: number;
}

/** What can be said of one channel, or why nothing can. */
function channelProof(evidence: Evidence): Proof | string {
  const { sampleRateHz, brief, seen } = evidence;
  if (!brief) return 'Write the brief first: it says what must be proved.';
  if (evidence.line.stages.length === 0) return 'Build the line first: raw counts alone prove nothing.';
  try {
    const line = compileLine(evidence.line, { sampleRateHz });
    const end = line.outputs[0]!.unit;
    if (UNITS[brief.unit].dimension !== UNITS[end].dimension)
      return `The brief requires ${UNITS[brief.unit].name}, but the line ends in ${UNITS[end].name}. What is required is a result calculated from these readings; it has its own claim.`;
    const at = line.sources.map((s) => seen.columns.indexOf(s.name));
    return proveChannel({
      line,
      brief,
      calibration: evidence.calibration,
      points: evidence.points,
      achievedHz: evidence.achievedHz,
      sensor: evidence.sensor,
      now: seen.now[evidence.channelId] ?? null,
      atMs: evidence.atMs,
      seen: at.includes(-1)
        ? []
        : seen.rows.map((row) => at.map((k) => row[k]!)).filter((row) => row.every(Number.isFinite)),
    });
  } catch (error) {
    if (error instanceof LineError || error instanceof RangeError) return error.message;
    throw error;
  }
}

/**
 * The claims of all channels that are trued up by themselves; what goes on from another rests on that one's proof. Null
 * without a brief.
 */
export function gadgetProof(
  gadget: Gadget,
  calibrations: readonly Calibration[],
  points: readonly CalibrationPoint[],
  achievedHz: number | null,
  seen: SeenRows,
  studies: readonly JudgedStudy[],
  parts: readonly Part[],
  atMs: number,
): GadgetProof | null {
  if (!gadget.brief) return null;
  const beside = claimsBeside(gadget, studies, seen, achievedHz, calibrations, parts);
  const own = gadget.channels.filter(
    (c) => briefFor(gadget, c) !== null && trueUpChannel(gadget, c).id === c.id,
  );
  // One that goes on from another has no proof of its own, but what it makes and what was studied of it counts.
  const judged = gadget.channels.filter((c) => own.includes(c) || beside.some((s) => s.channelId === c.id));
  const channels = judged.map((channel): ChannelProof => {
    const { line, calibration } = calibratedLine(channel.line, channel.id, calibrations);
    const base = {
      channelId: channel.id,
      name: channel.name,
      beside: beside.filter((s) => s.channelId === channel.id).map((s) => s.claim),
    };
    if (!own.includes(channel))
      return { ...base, proof: 'It is judged with the channel that it continues from.' };
    return {
      ...base,
      proof: channelProof({
        channelId: channel.id,
        sampleRateHz: gadget.sampleRateHz,
        line,
        brief: briefFor(gadget, channel),
        calibration,
        points: points.filter((p) => p.channelId === channel.id),
        achievedHz,
        seen,
        sensor: sensorOf(gadget, channel, parts),
        atMs,
      }),
    };
  });
  return { channels, ...proofSummary(claimsOf(channels, judged)) };
}

const claimsOf = (channels: readonly ChannelProof[], judged: readonly Channel[]) =>
  channels.flatMap((channel) =>
    allClaims(channel).map((claim) => ({
      channelId: channel.channelId,
      channelName: judged.length > 1 ? channel.name : null,
      claim,
    })),
  );

/** What is claimed of channels beside what follows from their briefs: of their figures, and of what was studied. */
const claimsBeside = (
  gadget: Gadget,
  studies: readonly JudgedStudy[],
  seen: SeenRows,
  achievedHz: number | null,
  calibrations: readonly Calibration[],
  parts: readonly Part[],
) => [
  ...figureClaims(gadget, seen.figures, achievedHz !== null && achievedHz > 0, calibrations, parts),
  ...studiedClaims(gadget, studies),
];

/** Claims of a channel: those that follow from the brief, of its figures, and those that were studied. */
export const allClaims = ({ proof, beside }: Pick<ChannelProof, 'proof' | 'beside'>): Claim[] => [
  ...(typeof proof === 'string' ? [] : proof.claims),
  ...beside,
];
