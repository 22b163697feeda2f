import { useMemo } from 'react';
import { compileLine, REASON } from '@lucky-needle/core/line';
import type { ChannelBrief } from '@lucky-needle/core/model';
import {
  briefFor,
  figureBrief,
  sensorOf,
  shownFigure,
  toleranceIn,
  calibrationInUse,
  trueUpChannel,
  wholeLine,
} from '@lucky-needle/core/plan';
import { seenInPoints, shownWorth } from '@lucky-needle/core/prove';
import { convertDifference, convertUnit, type UnitId } from '@lucky-needle/core/units';
import { type BenchContext } from '../../app/useBench.ts';
import { useShelf } from '../../app/useShelf.ts';
import { useLive } from '../../live/useLive.ts';

export interface ChannelReading {
  readonly id: string;
  /** The number of the channel, as the display has room for. */
  readonly short: string;
  /** In `unit`: the brief's where the line ends in that quantity. */
  readonly value: number;
  /** Why there is no value; 0 when there is. */
  readonly reason: number;
  readonly unit: UnitId;
  readonly brief: ChannelBrief | null;
  /** Expanded, k = 2; null where nothing is known of it. */
  readonly uncertainty: number | null;
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
        .map((channel, i) => {
          const compiled = compileLine(wholeLine(gadget, channel, calibrations), {
            sampleRateHz: gadget.sampleRateHz,
          });
          const owner = trueUpChannel(gadget, channel);
          const calibration = calibrationInUse(gadget, channel, calibrations);
          const figure = shownFigure(channel);
          return {
            id: channel.id,
            short: String(i + 1),
            figure,
            asked: figure && figureBrief(gadget, channel, figure),
            brief: briefFor(gadget, channel),
            line: compiled,
            calibration,
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
      lines.map(({ id, short, brief, line, figure, asked, ...known }) => {
        const now = figure && live.counts.get(id)?.figures.find((f) => f.id === figure.id);
        if (figure)
          return {
            id,
            short,
            brief: asked,
            value: now?.value ?? Number.NaN,
            reason: now && now.value !== null ? REASON.ok : REASON.waiting,
            unit: now?.unit ?? asked?.unit ?? line.outputs[0]!.unit,
            uncertainty: now?.uncertainty ?? null,
          };
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
        return { id, short, brief, value, reason, unit, uncertainty };
      }),
    [lines, live.columns, live.readings, live.counts],
  );
}
