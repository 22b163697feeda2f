import { isWritableTime } from './stampScale.ts';
import type { TableSink } from './tableSink.ts';

/** Counters of 32 bits, in milliseconds and in microseconds, begin anew after so many seconds. */
const WRAPS = [
  [2 ** 32 * 1e-3, 'milliseconds'],
  [2 ** 32 * 1e-6, 'microseconds'],
] as const;
/** Nearer than this share of it to its end and its begin, a counter began anew and was not set. */
const NEAR = 0.01;
/** A step forward is looked at again before it is believed when it is so many times the last one, and longer than this, s. */
const [LEAP, LEAP_S] = [1000, 3600];

interface Row {
  readonly row: number;
  readonly timeS: number;
  readonly values: ArrayLike<number>;
}

/** Rows of a file on one time base. */
export interface FileTimes {
  /** @param values used again for the next row */
  take(row: number, timeS: number, values: ArrayLike<number>): void;
  finish(): void;
}

/**
 * How much a counter of 32 bits has to be taken further when it went from one time to another; null where it was none.
 * @param lastS by the counter @param timeS by the counter, earlier
 */
export function wrapOf(lastS: number, timeS: number): { readonly byS: number; readonly unit: string } | null {
  for (const [byS, unit] of WRAPS)
    if (lastS < byS && lastS > (1 - NEAR) * byS && timeS >= 0 && timeS < NEAR * byS) return { byS, unit };
  return null;
}

/**
 * Puts the rows of a file on times that never run backwards, without losing any. A counter that began anew goes on; a clock
 * that was set back goes on after the last row, by as much as is said. One row alone that lies out of order, before or
 * behind, is left out, and so is a time that no calendar has: each with an issue.
 */
export function fileTimes(sink: TableSink): FileTimes {
  let lastS = Number.NEGATIVE_INFINITY;
  /** The last one as the file has it. */
  let writtenS = Number.NaN;
  let stepS = Number.NaN;
  let shiftS = 0;
  /** A row that came before its time, or that leapt far ahead: the next one tells what it was. */
  let early: Row | null = null;
  let leapt: Row | null = null;

  const issue = (code: string, row: number, text: string) =>
    sink.issue({ code, row, text: `Row ${row}: ${text}` });

  function give({ timeS, values }: Omit<Row, 'row'>): void {
    const at = timeS + shiftS;
    if (at > lastS) stepS = at - lastS;
    lastS = at;
    writtenS = timeS;
    sink.row(at, values);
  }

  function leaveOut({ row, timeS }: Row, what: string): void {
    issue('time-backwards', row, `time ${timeS + shiftS} s is out of order (${what}); this row is skipped.`);
  }

  function shift(row: number, byS: number, code: string, what: string): void {
    shiftS += byS;
    issue(code, row, `${what} ${byS.toFixed(3)} s are added to all following times.`);
  }

  /** The next row behind one that leapt ahead. */
  function settleLeap(next: Row | null): void {
    const far = leapt!;
    leapt = null;
    if (next && next.timeS < far.timeS && next.timeS + shiftS >= lastS)
      return issue(
        'time-ahead',
        far.row,
        `time ${far.timeS + shiftS} s is later than all following rows; this row is skipped.`,
      );
    give(far);
  }

  function takeLate(now: Row): void {
    const wrap = wrapOf(writtenS, now.timeS);
    if (wrap) {
      shift(now.row, wrap.byS, 'wrapped', `the ${wrap.unit} counter restarted:`);
      return give(now);
    }
    if (early === null || now.timeS < early.timeS) {
      if (early) leaveOut(early, `after ${lastS} s`);
      early = { ...now, values: Array.from(now.values) };
      return;
    }
    // Two in a row that come before their time: the clock was set.
    const first = early;
    early = null;
    const back = lastS - (first.timeS + shiftS);
    const goesOn = Number.isFinite(stepS) ? stepS : 0;
    shift(first.row, back + goesOn, 'clock-set', `the clock jumps back by ${back.toFixed(3)} s.`);
    give(first);
    give(now);
  }

  function take(now: Row): void {
    if (leapt) settleLeap(now);
    if (now.timeS + shiftS < lastS) return takeLate(now);
    if (early) {
      leaveOut(early, `after ${lastS} s`);
      early = null;
    }
    const ahead = now.timeS + shiftS - lastS;
    if (ahead > LEAP_S && ahead > LEAP * stepS) leapt = { ...now, values: Array.from(now.values) };
    else give(now);
  }

  return {
    take(row, timeS, values) {
      // Nearly all rows follow one another.
      const at = timeS + shiftS;
      if (at >= lastS && at - lastS < LEAP_S && early === null && leapt === null && isWritableTime(timeS)) {
        if (at > lastS) stepS = at - lastS;
        lastS = at;
        writtenS = timeS;
        sink.row(at, values);
      } else if (!isWritableTime(timeS) || !isWritableTime(at))
        issue('no-time', row, `time ${timeS} s is outside the years 1 to 9999. Check the time unit.`);
      else take({ row, timeS, values });
    },
    finish() {
      if (leapt) settleLeap(null);
      if (early) leaveOut(early, `after ${lastS} s`);
      early = null;
    },
  };
}
