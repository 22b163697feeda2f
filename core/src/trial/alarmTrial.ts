import { createAlarms, type Alarms } from '../alarm/index.ts';
import type { AlarmRule, AlarmTrialResult } from '../model/alarm.ts';
import { falseCounts } from '../prove/counting.ts';

/** An alarm that is tried on what was recorded, at many levels at once. */
export interface AlarmTrial extends Pick<Alarms, 'reading' | 'figure'> {
  /** The run is over. @param events what truly was in it */
  end(fromS: number, toS: number, events: readonly TrueEvent[]): AlarmTrialResult;
}

/** What truly was, from when to when, s; a moment has the same twice. */
export interface TrueEvent {
  readonly fromS: number;
  readonly toS: number;
}

/** Levels that are tried beside the rule's own. */
const LEVELS = 25;

interface On {
  readonly fromS: number;
  toS: number;
}

/**
 * Tries a rule on a run whose true events are known: which of them it catches and how late, and how often it comes for
 * nothing, at its own level and at others.
 * @param range what is asked of the channel, in the rule's unit: other levels lie in it; null where only its own is tried
 * @param withinS an alarm within so long of the begin of what truly was, or while it lasts, is for it
 * @param toUnit turns a reading into the rule's unit
 */
export function alarmTrial(
  rule: AlarmRule,
  range: readonly [low: number, high: number] | null,
  withinS: number,
  toUnit: (rule: AlarmRule, value: number) => number,
): AlarmTrial {
  const own = rule.limit ?? rule.caution;
  const levels =
    own === null || range === null
      ? [own]
      : [...new Set([own, ...between(...range)])].toSorted((a, b) => a - b);
  const tried = levels.map((level) => {
    const on: On[] = [];
    const tryRule: AlarmRule = level === null ? rule : { ...rule, caution: null, limit: level, latch: false };
    const alarms = createAlarms([tryRule], toUnit, ({ from, to, timeS }) => {
      const isOn = to === 'limit' || to === 'caution';
      const wasOn = from === 'limit' || from === 'caution';
      if (isOn && !wasOn) on.push({ fromS: timeS, toS: Infinity });
      else if (!isOn && wasOn) on.at(-1)!.toS = timeS;
    });
    return { level, on, alarms };
  });
  return {
    reading: (...told) => tried.forEach(({ alarms }) => alarms.reading(...told)),
    figure: (...told) => tried.forEach(({ alarms }) => alarms.figure(...told)),
    end(fromS, toS, events) {
      const inside = events
        .filter((e) => e.fromS >= fromS && e.fromS <= toS)
        .map((e) => ({ fromS: e.fromS, toS: Math.max(e.toS, e.fromS + withinS) }));
      const results = tried.map(({ level, on }) => ({ level, ...counted(on, inside) }));
      // What was watched while nothing was: an alarm there is for nothing.
      const watchedS = Math.max(0, toS - fromS - covered(inside, toS));
      const mine = results.find((r) => r.level === own)!;
      return {
        events: inside.length,
        hours: watchedS / 3600,
        own: mine,
        falsePerHourBelow:
          watchedS > 0 ? 60 * falseCounts(mine.falseAlarms, watchedS / 60, 1).upper95PerMinute : null,
        levels: results.flatMap((r) => (r.level === null ? [] : [{ ...r, level: r.level }])),
        proposed: proposedOf(results, inside.length),
      };
    },
  };
}

type Counted = Omit<AlarmTrialResult['own'], 'level'>;

/** @param events from when to when an alarm is for them */
function counted(on: readonly On[], events: readonly TrueEvent[]): Counted {
  const late = events.flatMap((e) => {
    const first = on.find((o) => o.toS > e.fromS && o.fromS <= e.toS);
    return first ? [Math.max(0, first.fromS - e.fromS)] : [];
  });
  const sorted = late.toSorted((a, b) => a - b);
  return {
    caught: late.length,
    missed: events.length - late.length,
    falseAlarms: on.filter((o) => !events.some((e) => o.fromS >= e.fromS && o.fromS <= e.toS)).length,
    lateS: sorted[sorted.length >> 1] ?? null,
  };
}

/** How long events are together, overlaps once. */
function covered(events: readonly TrueEvent[], toS: number): number {
  let [sum, end] = [0, -Infinity];
  for (const e of events.toSorted((a, b) => a.fromS - b.fromS)) {
    const last = Math.min(toS, e.toS);
    sum += Math.max(0, last - Math.max(e.fromS, end));
    end = Math.max(end, last);
  }
  return sum;
}

/** The middle of the longest row of levels that catch the most with the fewest false alarms; null without events. */
function proposedOf(
  results: readonly (Counted & { readonly level: number | null })[],
  events: number,
): AlarmTrialResult['proposed'] {
  if (events === 0) return null;
  const most = Math.max(...results.map((r) => r.caught));
  if (most === 0) return null;
  const fewest = Math.min(...results.filter((r) => r.caught === most).map((r) => r.falseAlarms));
  let best: number[] = [];
  let row: number[] = [];
  for (const r of results) {
    row = r.caught === most && r.falseAlarms === fewest && r.level !== null ? [...row, r.level] : [];
    if (row.length > best.length) best = row;
  }
  if (best.length === 0) return null;
  const [low, high] = [best[0]!, best.at(-1)!];
  return { level: best[best.length >> 1]!, low, high, caught: most, falseAlarms: fewest };
}

const between = (low: number, high: number): number[] =>
  Array.from({ length: LEVELS }, (_, i) =>
    Number((low + ((i + 0.5) / LEVELS) * (high - low)).toPrecision(3)),
  );
