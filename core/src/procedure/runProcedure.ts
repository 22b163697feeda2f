import { checkProcedure, type Condition, type Procedure, type Step } from './spec.ts';

export type ProcedureState = 'asking' | 'running' | 'paused' | 'done' | 'aborted';

export interface ProcedureEvent {
  readonly timeS: number;
  readonly kind: 'step' | 'asks' | 'paused' | 'resumed' | 'done' | 'aborted';
  readonly stepId: string;
  readonly text: string;
}

export interface RunningProcedure {
  readonly state: ProcedureState;
  readonly step: Step;
  /** Time in the present step without pauses, s. */
  readonly elapsedS: number;
  readonly events: readonly ProcedureEvent[];
  /** Present switches. */
  readonly outputs: Readonly<Record<string, boolean | number>>;
  /** Takes the readings of an instant. Time that goes backwards is an abort: nothing can be judged by it. */
  push(timeS: number, readings: Readonly<Record<string, number>>): void;
  confirm(timeS: number): void;
  pause(timeS: number): void;
  resume(timeS: number): void;
  abort(timeS: number, reason: string): void;
}

interface Watch {
  readonly condition: Condition;
  sinceS: number | null;
  low: number;
  high: number;
}

/**
 * Starts a procedure. It has no clock: time comes with the readings, so it runs live, recorded and simulated alike. Limits
 * are watched in pauses too. A reading that is no number holds no condition, and aborts when a limit depends on it for more
 * than five seconds: blind is not safe.
 * @throws {RangeError} for a procedure that cannot work
 */
export function runProcedure(procedure: Procedure, startS: number): RunningProcedure {
  checkProcedure(procedure);
  const events: ProcedureEvent[] = [];
  let outputs: Record<string, boolean | number> = {};
  let index = 0;
  let state: ProcedureState = 'running';
  let elapsedS = 0;
  let lastS = startS;
  let until: Watch[] = [];
  let limits: Watch[] = [];
  const blindSince = new Map<string, number>();

  const note = (timeS: number, kind: ProcedureEvent['kind'], text: string) =>
    events.push({ timeS, kind, stepId: procedure.steps[index]!.id, text });

  function begin(timeS: number): void {
    const now = procedure.steps[index]!;
    elapsedS = 0;
    until = now.until.map(watch);
    limits = [...procedure.abortIf, ...now.abortIf].map(watch);
    if (now.ask) {
      state = 'asking';
      note(timeS, 'asks', now.ask);
    } else go(timeS);
  }

  function go(timeS: number): void {
    const now = procedure.steps[index]!;
    state = 'running';
    outputs = { ...outputs, ...now.set };
    note(timeS, 'step', now.title);
  }

  function next(timeS: number): void {
    if (index + 1 === procedure.steps.length) {
      state = 'done';
      outputs = { ...outputs, ...procedure.safe };
      note(timeS, 'done', `${procedure.title} finished.`);
      return;
    }
    index++;
    begin(timeS);
  }

  function abort(timeS: number, reason: string): void {
    if (state === 'done' || state === 'aborted') return;
    state = 'aborted';
    outputs = { ...outputs, ...procedure.safe };
    note(timeS, 'aborted', reason);
  }

  function blind(timeS: number, readings: Readonly<Record<string, number>>): string | null {
    for (const { condition } of limits) {
      const value = readings[condition.reading];
      if (value !== undefined && !Number.isNaN(value)) blindSince.delete(condition.reading);
      else if (!blindSince.has(condition.reading)) blindSince.set(condition.reading, timeS);
      else if (timeS - blindSince.get(condition.reading)! > 5) return condition.reading;
    }
    return null;
  }

  const machine: RunningProcedure = {
    get state() {
      return state;
    },
    get step() {
      return procedure.steps[index]!;
    },
    get elapsedS() {
      return elapsedS;
    },
    events,
    get outputs() {
      return outputs;
    },
    push(timeS, readings) {
      if (state === 'done' || state === 'aborted') return;
      if (timeS < lastS) return abort(lastS, `Time went backwards, from ${lastS} s to ${timeS} s.`);
      const passed = timeS - lastS;
      lastS = timeS;
      const broken = limits
        .map((w) => (holds(w, timeS, readings) ? w.condition : null))
        .find((c) => c !== null);
      if (broken) return abort(timeS, `Limit: ${describe(broken)}.`);
      const unseen = blind(timeS, readings);
      if (unseen)
        return abort(timeS, `No reading from ${unseen} for five seconds, and a limit depends on it.`);
      if (state !== 'running') return;
      elapsedS += passed;
      const now = procedure.steps[index]!;
      const met = until.map((w) => holds(w, timeS, readings)).every(Boolean);
      if (elapsedS >= now.minS && met) return next(timeS);
      if (elapsedS > now.maxS) {
        if (now.onTimeout === 'next') next(timeS);
        else abort(timeS, `“${now.title}” took longer than ${now.maxS} s.`);
      }
    },
    confirm(timeS) {
      if (state !== 'asking') return;
      lastS = Math.max(lastS, timeS);
      const now = procedure.steps[index]!;
      go(timeS);
      // A step that only asks is over with the answer.
      if (now.until.length === 0 && now.minS === 0 && now.maxS === Infinity) next(timeS);
    },
    pause(timeS) {
      if (state !== 'running') return;
      state = 'paused';
      note(timeS, 'paused', 'Paused.');
    },
    resume(timeS) {
      if (state !== 'paused') return;
      state = 'running';
      lastS = Math.max(lastS, timeS);
      // What held before the pause must hold anew.
      until = procedure.steps[index]!.until.map(watch);
      note(timeS, 'resumed', 'Continued.');
    },
    abort,
  };
  begin(startS);
  return machine;
}

const watch = (condition: Condition): Watch => ({ condition, sinceS: null, low: Infinity, high: -Infinity });

/** Whether the condition has held for its time. */
function holds(w: Watch, timeS: number, readings: Readonly<Record<string, number>>): boolean {
  const value = readings[w.condition.reading] ?? Number.NaN;
  const c = w.condition;
  let now: boolean;
  if (c.kind === 'steady') {
    const [low, high] = [Math.min(w.low, value), Math.max(w.high, value)];
    now = high - low <= c.within;
    [w.low, w.high] = now ? [low, high] : [value, value];
    if (!now && !Number.isNaN(value)) {
      w.sinceS = timeS;
      return c.holdS === 0;
    }
  } else now = c.kind === 'above' ? value > c.value : value < c.value;
  if (!now) {
    w.sinceS = null;
    return false;
  }
  w.sinceS ??= timeS;
  return timeS - w.sinceS >= c.holdS;
}

function describe(c: Condition): string {
  return c.kind === 'steady'
    ? `${c.reading} steady within ${c.within} for ${c.holdS} s`
    : `${c.reading} ${c.kind} ${c.value}${c.holdS > 0 ? ` for ${c.holdS} s` : ''}`;
}
