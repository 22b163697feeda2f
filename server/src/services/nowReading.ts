import { isBeyondPoints } from '@lucky-needle/core/calibrate';
import type { FigureReading } from '@lucky-needle/core/figures';
import { REASON, REASONS, type CompiledLine } from '@lucky-needle/core/line';
import type {
  Calibration,
  CalibrationPoint,
  Channel,
  Gadget,
  NowReading,
  Part,
} from '@lucky-needle/core/model';
import {
  briefFor,
  calibrationInUse,
  namedState,
  nowFigures,
  sensorOf,
  shownFigure,
  stateOfReading,
  toleranceIn,
  covarianceOf,
  trueUpChannel,
} from '@lucky-needle/core/plan';
import { seenInPoints, shownWorth } from '@lucky-needle/core/prove';
import { convertDifference, convertUnit, readingDecimals, type UnitId } from '@lucky-needle/core/units';

/** What is known of a gadget beside its readings. */
export interface Known {
  readonly calibrations: readonly Calibration[];
  readonly points: readonly CalibrationPoint[];
  readonly shelf: readonly Part[];
}

/** What was heard of a channel up to a moment: live, or in a run. */
export interface Heard {
  /** Null where it cannot run; `problem` then says why. */
  readonly line: CompiledLine | null;
  readonly problem: string | null;
  /** Why nothing can be counted on it; null when it can, or nothing is. */
  readonly watchProblem: string | null;
  /** Newest values of its sources; empty before the first. */
  readonly raw: readonly number[];
  readonly newest: { readonly timeS: number; readonly value: number; readonly reason: number } | null;
  /** Standard uncertainty where the readings tell it themselves. */
  readonly told: number | null;
  readonly figures: readonly FigureReading[];
  /** Why nothing is heard; null while it is. */
  readonly silent: string | null;
}

/** A channel as its needle shows it at a moment, with what it is worth. */
export function nowReading(gadget: Gadget, channel: Channel, known: Known, heard: Heard): NowReading {
  const { line, newest, silent } = heard;
  const ends: UnitId = line?.outputs[0]?.unit ?? channel.line.sources[0]!.unit;
  const brief = briefFor(gadget, channel);
  const tolerance = toleranceIn(brief, ends);
  const unit = tolerance === null || !brief ? ends : brief.unit;
  const owner = trueUpChannel(gadget, channel);
  const used = calibrationInUse(gadget, channel, known.calibrations);
  const u = line
    ? shownWorth({
        line,
        raw: heard.raw,
        reading: newest?.value ?? Number.NaN,
        ...seenInPoints(
          known.points.filter((p) => p.channelId === owner.id && p.excluded === null),
          line,
        ),
        calibration: used,
        covariance: used && covarianceOf(gadget, channel, known.calibrations, used),
        told: heard.told,
        sensor: sensorOf(gadget, channel, known.shelf),
      })
    : null;
  const uncertainty = u === null ? null : 2 * convertDifference(u, ends, unit);
  const figures = nowFigures(gadget, channel, heard.figures);
  const figure = shownFigure(channel);
  const isBeyond = silent === null && isBeyondPoints(used?.result.validRaw, heard.raw);
  const base = { channelId: channel.id, name: channel.name, figures, isBeyond };
  if (figure) {
    const shown = figures.find((f) => f.id === figure.id);
    const why = silent ?? heard.watchProblem ?? heard.problem;
    const isThere = shown !== undefined && shown.value !== null && silent === null;
    return {
      ...base,
      value: silent === null ? (shown?.value ?? null) : null,
      unit: shown?.unit ?? unit,
      uncertainty: silent === null ? (shown?.uncertainty ?? null) : null,
      decimals: shown?.decimals ?? 0,
      reason: isThere ? null : (why ?? shown?.reason ?? 'no readings yet'),
      state: isThere ? namedState(channel.states, shown.value!, shown.unit) : null,
      timeS: shown?.timeS ?? null,
      shows: figure.id,
    };
  }
  const good = silent === null && newest !== null && newest.reason === REASON.ok;
  return {
    ...base,
    value: good ? convertUnit(newest.value, ends, unit) : null,
    unit,
    uncertainty,
    decimals: readingDecimals(
      uncertainty,
      brief && tolerance !== null ? convertDifference(tolerance, ends, unit) : null,
    ),
    reason: good ? null : (silent ?? heard.problem ?? reasonOf(newest?.reason)),
    state:
      line && newest && silent === null
        ? stateOfReading(channel.states, line, newest.value, newest.reason)
        : null,
    timeS: newest?.timeS ?? null,
    shows: null,
  };
}

const reasonOf = (reason: number | undefined): string =>
  REASONS[reason ?? REASON.waiting] ?? 'invalid reading';
