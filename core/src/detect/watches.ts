import type { WatchSpec } from '../model/watch.ts';
import { checkParams } from '../stage/checkParams.ts';
import { restoreMemory, saveMemory } from '../stage/memory.ts';
import { detectorKind } from './detectors.ts';
import { noNoise, streamNoise, type NoiseMemory } from './streamNoise.ts';
import { moment, type DetectContext, type DetectedEvent } from './kind.ts';

/** An event of a channel, with the watch that it was found by. */
export interface WatchedEvent extends DetectedEvent {
  readonly watchId: string;
  /** How much later than what happened the reading is that it was found in: the delay of the line's filters, s. */
  readonly lagS: number;
}

export interface WatchContext extends Omit<DetectContext, 'noise'> {
  /** Delay of the line's filters, s. */
  readonly lagS: number;
  /** Standard deviation of single readings near one, by what is stated of the line; NaN where nothing is. */
  noiseAt?(reading: number): number;
}

interface Gate {
  /** When its last event that counted was over. */
  lastS: number;
  /** Begin of the stretch that is open, and whether it counts. */
  openS: number;
  openWhy: string;
}

export interface WatchesMemory {
  readonly noise: NoiseMemory;
  readonly runs: readonly object[];
  readonly gates: readonly object[];
}

/** The detectors of one channel, with what keeps their events from counting. */
export interface Watches {
  readonly specs: readonly WatchSpec[];
  /** Raw columns that are looked at. */
  readonly columns: readonly string[];
  /** The next reading of the channel. NaN is ignored. */
  reading(timeS: number, x: number): void;
  /**
   * Place of the first reading, of those from one place to before another, that has to be given; of those before it the last
   * one alone comes to the same.
   */
  quietUntil(values: Float64Array, from: number, to: number): number;
  /** The next value of a raw column. */
  raw(column: string, timeS: number, x: number): void;
  /** A button of the bench was pressed. */
  press(watchId: string, timeS: number): void;
  save(): WatchesMemory;
  restore(saved: WatchesMemory): void;
}

/** Why a watch cannot work; names the watch. */
export class WatchError extends RangeError {
  override readonly name = 'WatchError';
  readonly id: string;
  constructor(id: string, message: string) {
    super(message);
    this.id = id;
  }
}

/** Readings at which what a watch looks for begins and ends; none where it looks at no reading, or at another column. */
export function edgesOf({ kind, params, column }: WatchSpec): readonly number[] {
  const found = detectorKind(kind);
  return column === null ? (found?.edges?.({ ...found.defaults, ...params }) ?? []) : [];
}

/** @throws {WatchError} for a kind, a parameter or another watch that there is not, or parameters that cannot work */
export function createWatches(
  specs: readonly WatchSpec[],
  context: WatchContext,
  emit: (event: WatchedEvent) => void,
): Watches {
  const gates = specs.map((): Gate => ({ lastS: Number.NEGATIVE_INFINITY, openS: Number.NaN, openWhy: '' }));
  const at = new Map(specs.map((spec, k) => [spec.id, k]));
  const noiseMemory = noNoise();
  const measured = streamNoise(noiseMemory);
  /** Whether a detector goes by the noise of the readings: only then it is measured. */
  let isMeasured = false;
  const noiseNear = (reading?: number) => {
    const seen = measured.noise();
    const stated = reading === undefined ? Number.NaN : (context.noiseAt?.(reading) ?? Number.NaN);
    // A line that bends makes more of the same noise at one end; steps of a converter may hide what noise there is.
    return stated > seen || Number.isNaN(seen) ? stated : seen;
  };

  const runs = specs.map((spec, k) => {
    const kind = detectorKind(spec.kind);
    if (!kind) throw new WatchError(spec.id, `Unknown event type “${spec.kind}”. Choose another.`);
    if (spec.after !== null && !at.has(spec.after))
      throw new WatchError(
        spec.id,
        `The condition of “${spec.name}” refers to an event that no longer exists. Choose another one, or no condition.`,
      );
    if (kind.looksAt === 'signal' && spec.column === null)
      throw new WatchError(spec.id, `“${spec.name}” needs a raw column. Choose one.`);
    const lagS = kind.looksAt === 'reading' || kind.looksAt === 'direction' ? context.lagS : 0;
    try {
      // A parameter that came into being after the watch was stored stands at its default.
      const params = { ...kind.defaults, ...spec.params };
      checkParams(kind, params);
      // A raw column has noise of its own, which is not measured.
      const own = {
        ...context,
        get noise() {
          if (spec.column !== null) return () => Number.NaN;
          isMeasured = true;
          return noiseNear;
        },
      };
      return kind.start(params, own, (event) => pass(k, { ...event, watchId: spec.id, lagS }));
    } catch (error) {
      if (error instanceof RangeError || error instanceof TypeError)
        throw new WatchError(spec.id, error.message);
      throw error;
    }
  });

  function pass(k: number, event: WatchedEvent): void {
    if (!event.counted) return emit(event);
    const gate = gates[k]!;
    // A stretch that ends counts as its begin did.
    const isOpen = event.what === 'event' && gate.openS === event.timeS;
    const why = isOpen ? gate.openWhy : whyNot(k, event.timeS);
    if (event.what === 'start') {
      gate.openS = event.timeS;
      gate.openWhy = why;
    } else if (why === '') gate.lastS = event.endS;
    // Of something with a begin only the end is kept in mind for the next, but those behind it go by its begin.
    if (event.what === 'start' && why === '') gate.lastS = Math.max(gate.lastS, event.timeS);
    emit(why === '' ? event : { ...event, counted: false, why });
  }

  function whyNot(k: number, timeS: number): string {
    const { deadTimeS, after, leastS } = specs[k]!;
    const since = timeS - gates[k]!.lastS;
    if (since < deadTimeS)
      return `${printS(since)} after the last event; events within ${deadTimeS} s are ignored (dead time).`;
    if (after === null) return '';
    const begun = timeS - gates[at.get(after)!]!.lastS;
    const name = specs[at.get(after)!]!.name;
    if (begun === Number.POSITIVE_INFINITY) return `Before the first “${name}”.`;
    return begun < leastS
      ? `${printS(begun)} after “${name}”; events before ${leastS} s are ignored (minimum time).`
      : '';
  }

  const onReading = specs.flatMap((spec, k) => (looksAtReading(spec) ? [runs[k]!] : []));
  const columns = [...new Set(specs.flatMap((s) => (s.column === null ? [] : [s.column])))];
  return {
    specs,
    columns,
    reading(timeS, x) {
      if (x !== x) return;
      if (isMeasured) measured.push(x);
      for (const run of onReading) run.push(timeS, x);
    },
    quietUntil(values, from, to) {
      if (isMeasured) return from;
      let until = to;
      for (const run of onReading) until = run.quietUntil?.(values, from, until) ?? from;
      return until;
    },
    raw(column, timeS, x) {
      if (x !== x) return;
      specs.forEach((spec, k) => {
        if (spec.column === column) runs[k]!.push(timeS, x);
      });
    },
    press(watchId, timeS) {
      const k = at.get(watchId);
      const spec = k === undefined ? undefined : specs[k];
      if (!spec || detectorKind(spec.kind)!.looksAt !== 'hand')
        throw new WatchError(watchId, 'This channel has no such button.');
      const u = Number(spec.params['handS'] ?? detectorKind(spec.kind)!.defaults['handS']);
      pass(k!, { ...moment(timeS, Number.NaN, Number.NaN, u), watchId, lagS: 0 });
    },
    save: () => ({
      noise: saveMemory(noiseMemory),
      runs: runs.map((r) => saveMemory(r.memory)),
      gates: saveMemory(gates),
    }),
    restore(saved) {
      restoreMemory(noiseMemory, saved.noise);
      runs.forEach((run, k) => restoreMemory(run.memory, saved.runs[k]!));
      gates.forEach((gate, k) => restoreMemory(gate, saved.gates[k]!));
    },
  };
}

const looksAtReading = (spec: WatchSpec) => {
  const looksAt = detectorKind(spec.kind)!.looksAt;
  return spec.column === null && (looksAt === 'reading' || looksAt === 'direction');
};

const printS = (seconds: number) => `${seconds.toFixed(2)} s`;
