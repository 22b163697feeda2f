import { useMemo } from 'react';
import { calibratedLine } from '@lucky-needle/core/calibrate';
import { calibrationCovariance } from '@lucky-needle/core/calibrate';
import { compileLine, lineUncertainty, runLine, type CompiledLine } from '@lucky-needle/core/line';
import type { ChannelBrief } from '@lucky-needle/core/model';
import { briefFor, toleranceIn } from '@lucky-needle/core/plan';
import { convertDifference, convertUnit, type UnitId } from '@lucky-needle/core/units';
import { type BenchContext } from '../../app/useBench.ts';
import { useLive } from '../../live/useLive.ts';

export interface ChannelReading {
  readonly id: string;
  /** The number of the channel, as the display has room for. */
  readonly short: string;
  /** In `unit`: the brief's where the line ends in that quantity. */
  readonly value: number;
  readonly unit: UnitId;
  readonly brief: ChannelBrief | null;
  /** Expanded, k = 2. */
  readonly uncertainty: number;
}

/** Newest reading of every channel through its line with the calibration in use. */
export function useFaceReadings(bench: BenchContext): ChannelReading[] {
  const { gadget, calibrations } = bench;
  const live = useLive();
  const lines = useMemo(
    () =>
      gadget.channels
        .filter((c) => c.line.stages.length > 0)
        .map((channel, i) => {
          const { line, calibration } = calibratedLine(channel.line, channel.id, calibrations);
          return {
            id: channel.id,
            short: String(i + 1),
            brief: briefFor(gadget, channel),
            line: compileLine(line, { sampleRateHz: gadget.sampleRateHz }),
            covariance: calibration && calibrationCovariance(calibration.result),
          };
        }),
    [gadget, calibrations],
  );
  return useMemo(
    () =>
      lines.map(({ id, short, brief, line, covariance }) => {
        const ends = line.outputs[0]!.unit;
        const unit = toleranceIn(brief, ends) === null ? ends : brief!.unit;
        const raw = line.sources.map((s) => live.columns.get(s.name));
        const newest = raw.map((column) => column?.at(-1) ?? Number.NaN);
        const known = live.times.length > 0 && newest.every(Number.isFinite);
        const value = known
          ? convertUnit(
              newestReading(
                line,
                live.times,
                raw.map((c) => c!),
              ),
              ends,
              unit,
            )
          : Number.NaN;
        const u = known ? 2 * lineUncertainty(line, newest, 0, covariance).at(-1)!.combined : Number.NaN;
        const uncertainty = Number.isFinite(u) ? convertDifference(u, ends, unit) : 0;
        return { id, short, brief, value, unit, uncertainty };
      }),
    [lines, live.columns, live.times],
  );
}

function newestReading(line: CompiledLine, times: Float64Array, raw: readonly Float64Array[]): number {
  const out = runLine(line, {
    length: times.length,
    times,
    lanes: raw.map((values) => ({ values, reasons: new Uint8Array(values.length) })),
  });
  return out[0]!.lanes[0]!.values.at(-1) ?? Number.NaN;
}
