import type { Detector, Emit } from './detector.ts';

export const FAULT_KINDS = ['gap', 'duplicate', 'backwards', 'stuck', 'clipping', 'missing'] as const;

export interface StreamFault {
  readonly kind: (typeof FAULT_KINDS)[number];
  readonly fromS: number;
  readonly toS: number;
  /** Samples concerned; for a gap the readings that are missing. */
  readonly count: number;
}

export interface StreamFaultOptions {
  readonly sampleRateHz: number;
  /** Equal readings for so long are a stuck sensor; Infinity to switch off. */
  readonly stuckS: number;
  /** The ends of the converter's range. */
  readonly lowest: number;
  readonly highest: number;
}

/**
 * What is wrong with a stream: gaps (more than 1.5 periods), instants sent twice, time going backwards, a reading that never
 * changes, readings at the end of the range, readings that are no number. Each stretch is one event, when it ends.
 */
export function streamFaults(options: StreamFaultOptions, emit: Emit<StreamFault>): Detector {
  if (!(options.sampleRateHz > 0))
    throw new RangeError(`Enter a sampling rate above 0 Hz; received ${options.sampleRateHz}.`);
  const period = 1 / options.sampleRateHz;
  let last = Number.NaN;
  let value = Number.NaN;
  let same = { fromS: 0, toS: 0, count: 0 };
  const runs = new Map<'clipping' | 'missing', { fromS: number; toS: number; count: number }>();
  const endSame = () => {
    if (same.count > 1 && same.toS - same.fromS >= options.stuckS) emit({ kind: 'stuck', ...same });
  };
  const track = (kind: 'clipping' | 'missing', on: boolean, t: number) => {
    const run = runs.get(kind);
    if (on) runs.set(kind, run ? { ...run, toS: t, count: run.count + 1 } : { fromS: t, toS: t, count: 1 });
    else if (run) {
      emit({ kind, ...run });
      runs.delete(kind);
    }
  };
  return {
    push(t, x) {
      if (!Number.isNaN(last)) {
        const step = t - last;
        if (step < 0) emit({ kind: 'backwards', fromS: last, toS: t, count: 1 });
        else if (step < 1e-9 * Math.max(1, Math.abs(t)))
          emit({ kind: 'duplicate', fromS: t, toS: t, count: 1 });
        else if (step > 1.5 * period)
          emit({ kind: 'gap', fromS: last, toS: t, count: Math.max(1, Math.round(step / period) - 1) });
      }
      track('missing', Number.isNaN(x), t);
      track('clipping', x <= options.lowest || x >= options.highest, t);
      if (x === value) same = { ...same, toS: t, count: same.count + 1 };
      else {
        endSame();
        same = { fromS: t, toS: t, count: 1 };
        value = x;
      }
      last = t;
    },
    finish() {
      endSame();
      for (const [kind, run] of runs) emit({ kind, ...run });
      runs.clear();
    },
  };
}
