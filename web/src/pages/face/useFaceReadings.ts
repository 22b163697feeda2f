import { useMemo } from 'react';
import { compileLine, givesDirection, REASON } from '@lucky-needle/core/line';
import type { ChannelBrief } from '@lucky-needle/core/model';
import {
  briefFor,
  figureBrief,
  namedState,
  sensorOf,
  shownFigure,
  stateOfReading,
  toleranceIn,
  calibrationInUse,
  covarianceOf,
  trueUpChannel,
  wholeLine,
} from '@lucky-needle/core/plan';
import { lowerBound } from '@lucky-needle/core/numerics';
import { seenInPoints, shownWorth } from '@lucky-needle/core/prove';
import { convertDifference, convertUnit, type UnitId } from '@lucky-needle/core/units';
import { type BenchContext } from '../../app/useBench.ts';
import { useShelf } from '../../app/useShelf.ts';
import { useLive } from '../../live/useLive.ts';

export interface ChannelReading {
  readonly id: string;
  readonly name: string;
  /** Newest readings of the last minute, oldest first, thinned for drawing. */
  readonly history: readonly number[];
  readonly isDirection: boolean;
  /** In `unit`: the brief's where the line ends in that quantity. */
  readonly value: number;
  /** Why there is no value; 0 when there is. */
  readonly reason: number;
  /** The word that stands in the place of its number; null where none names it. */
  readonly state: string | null;
  readonly unit: UnitId;
  readonly brief: ChannelBrief | null;
  /** Expanded, k = 2; null where nothing is known of it. */
  readonly uncertainty: number | null;
  /** Where they are told with it; null where they follow from what it is worth. */
  readonly decimals: number | null;
}

/** What every channel's needle shows: the newest reading, or a figure. */
export function useFaceReadings(bench: BenchContext): ChannelReading[] {
  const { gadget, calibrations, points } = bench;
  const live = useLive();
  const shelf = useShelf();
  const lines = useMemo(
    () =>
      gadget.channels
        .filter((c) => c.line.stages.length > 0 || c.feed)
        .map((channel) => {
          const compiled = compileLine(wholeLine(gadget, channel, calibrations), {
            sampleRateHz: gadget.sampleRateHz,
          });
          const owner = trueUpChannel(gadget, channel);
          const calibration = calibrationInUse(gadget, channel, calibrations);
          const figure = shownFigure(channel);
          return {
            id: channel.id,
            name: channel.name,
            states: channel.states,
            isDirection: givesDirection(compiled.spec),
            figure,
            asked: figure && figureBrief(gadget, channel, figure),
            brief: briefFor(gadget, channel),
            line: compiled,
            calibration,
            covariance: calibration && covarianceOf(gadget, channel, calibrations, calibration),
            ...seenInPoints(
              points.filter((p) => p.channelId === owner.id && p.excluded === null),
              compiled,
            ),
            sensor: sensorOf(gadget, channel, shelf),
          };
        }),
    [gadget, calibrations, points, shelf],
  );
  return useMemo(
    () =>
      lines.map(({ id, name, states, isDirection, brief, line, figure, asked, ...known }) => {
        const history = recent(live.readings.get(id)?.at(-1));
        const now = figure && live.counts.get(id)?.figures.find((f) => f.id === figure.id);
        if (figure) {
          const value = now?.value ?? Number.NaN;
          const unit = now?.unit ?? asked?.unit ?? line.outputs[0]!.unit;
          return {
            id,
            name: `${name}: ${figure.name}`,
            history,
            isDirection: isDirection && now?.unit === 'deg',
            brief: asked,
            value,
            reason: now && now.value !== null ? REASON.ok : REASON.waiting,
            state: namedState(states, value, unit),
            unit,
            uncertainty: now?.uncertainty ?? null,
            decimals: now?.decimals ?? null,
          };
        }
        const ends = line.outputs[0]!.unit;
        const unit = toleranceIn(brief, ends) === null ? ends : brief!.unit;
        const reading = live.readings.get(id)?.at(-1);
        const reason = reading?.reasons.at(-1) ?? REASON.waiting;
        const value =
          reason === REASON.ok && reading ? convertUnit(reading.values.at(-1)!, ends, unit) : Number.NaN;
        const raw = line.sources.map((s) => live.columns.get(s.name)?.at(-1) ?? Number.NaN);
        const u = shownWorth({
          line,
          raw,
          reading: reading?.values.at(-1) ?? Number.NaN,
          told: live.counts.get(id)?.worth ?? null,
          ...known,
        });
        const uncertainty = u === null ? null : 2 * convertDifference(u, ends, unit);
        return {
          id,
          name,
          history,
          isDirection,
          brief,
          value,
          reason,
          state: stateOfReading(states, line, reading?.values.at(-1) ?? Number.NaN, reason),
          unit,
          uncertainty,
          decimals: null,
        };
      }),
    [lines, live.columns, live.readings, live.counts],
  );
}

/** So much of the past is drawn, s, by so many points at the most. */
const DRAWN_S = 60;
const DRAWN = 150;

function recent(of: { readonly times: Float64Array; readonly values: Float64Array } | undefined): number[] {
  if (!of || of.times.length === 0) return [];
  const from = lowerBound(of.times, of.times.at(-1)! - DRAWN_S);
  const step = Math.max(1, Math.ceil((of.times.length - from) / DRAWN));
  return Array.from(
    { length: Math.ceil((of.times.length - from) / step) },
    (_, i) => of.values[from + i * step]!,
  );
}
