import { useCallback, useMemo } from 'react';
import type { LookBody, LookedAt, Recording } from '@lucky-needle/core/model';
import { givesDirection } from '@lucky-needle/core/line';
import { wholeLine } from '@lucky-needle/core/plan';
import type { UnitId } from '@lucky-needle/core/units';
import { curveOf, lookAtRecording } from '../../api/readings.ts';
import { canRead, lookLine } from '../../app/lookLine.ts';
import { useAsked } from '../../app/useAsked.ts';
import type { BenchContext } from '../../app/useBench.ts';
import { roundTheCircle } from '../../parts/roundTheCircle.ts';
import { useShelf } from '../../app/useShelf.ts';

/** Two a pixel of a wide plot. */
const POINTS = 1200;
/** So much more than the stretch is drawn on either side, of its length: it can be moved along before the next look comes. */
const BESIDE = 0.5;

/** A stretch of a recording in its own time. */
export interface Stretch {
  readonly fromS: number;
  readonly toS: number;
}

export interface Reading {
  /** To draw: reaches a little beyond the stretch that is looked at. */
  readonly times: Float64Array;
  readonly values: Float64Array;
  /** Of the stretch that is looked at; NaN without any reading. */
  readonly low: number;
  readonly high: number;
  readonly bad: number;
}

export type Converted = readonly {
  /** The channel's. */
  readonly id: string;
  readonly name: string;
  readonly unit: UnitId;
  /** Whether it is an angle round the circle. */
  readonly isDirection: boolean;
  readonly reading: Reading;
}[];

export interface ConvertedRun {
  /** Null until the first look has come; then the last one, until the next has. */
  readonly converted: Converted | null;
  readonly error: string | null;
  /** How much of it is worked out; null when nothing is being worked out. */
  readonly share: number | null;
  /** Whether it was given up before it was worked out. */
  readonly givenUp: boolean;
  /** Gives up what is being worked out. */
  cancel(): void;
  /** Goes on with what was given up. */
  again(): void;
}

interface Question {
  readonly recordingId: string;
  readonly count: number;
  readonly inside: LookBody;
  /** What is drawn beside it; null where all is looked at. */
  readonly drawn: LookBody | null;
}

/**
 * A recording, or a stretch of it, through the lines of all channels that can read it.
 * @param stretch in the recording's own time, s; null for all of it
 */
export function useConverted(
  recording: Recording,
  bench: BenchContext,
  stretch: Stretch | null,
): ConvertedRun {
  const shelf = useShelf();
  const { gadget } = bench;
  const question = useMemo<Question | null>(() => {
    const lines = gadget.channels
      .filter((c) => canRead(recording, gadget, c))
      .map((c) => lookLine(bench, c, shelf, recording));
    if (lines.length === 0 || recording.sampleCount === 0) return null;
    const { firstTimeS, lastTimeS } = recording;
    const beside = stretch ? (stretch.toS - stretch.fromS) * BESIDE : 0;
    return {
      recordingId: recording.id,
      // Cut anew, a recording keeps its id but not its samples.
      count: recording.sampleCount,
      inside: { lines, fromS: stretch?.fromS ?? null, toS: stretch?.toS ?? null, points: POINTS },
      drawn: stretch && {
        lines,
        fromS: Math.max(firstTimeS ?? 0, stretch.fromS - beside),
        toS: Math.min(lastTimeS ?? Infinity, stretch.toS + beside),
        points: (1 + 2 * BESIDE) * POINTS,
      },
    };
  }, [bench, gadget, recording, shelf, stretch]);
  const ask = useCallback(
    async ({ recordingId, inside, drawn }: Question, signal: AbortSignal, told: (share: number) => void) => {
      const looks = await lookAtRecording(recordingId, inside, signal, told);
      return {
        inside: looks,
        drawn: drawn ? await lookAtRecording(recordingId, drawn, signal, told) : looks,
      };
    },
    [],
  );
  const { answer, error, share, givenUp, cancel, again } = useAsked(question, ask);
  const converted = useMemo(
    () => answer && answer.inside.map((look, k) => convertedOf(look, answer.drawn[k]!, gadget)),
    [answer, gadget],
  );
  return { converted: question ? converted : [], error, share, givenUp, cancel, again };
}

function convertedOf(look: LookedAt, drawn: LookedAt, gadget: BenchContext['gadget']): Converted[number] {
  const channel = gadget.channels.find((c) => c.id === look.id);
  const isDirection = channel !== undefined && givesDirection(wholeLine(gadget, channel, []));
  return {
    id: look.id,
    name: channel?.name ?? look.id,
    unit: look.unit as UnitId,
    isDirection,
    reading: {
      ...(isDirection ? roundTheCircle(curveOf(drawn)) : curveOf(drawn)),
      low: look.low ?? Number.NaN,
      high: look.high ?? Number.NaN,
      bad: look.bad,
    },
  };
}
