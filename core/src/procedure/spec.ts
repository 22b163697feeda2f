/** What a reading must do for a step to go on, or must never do. */
export type Condition =
  | {
      readonly kind: 'above' | 'below';
      readonly reading: string;
      readonly value: number;
      readonly holdS: number;
    }
  | { readonly kind: 'steady'; readonly reading: string; readonly within: number; readonly holdS: number };

export interface Step {
  readonly id: string;
  readonly title: string;
  /** Shortest and longest time in the step, s; a step that outlasts the longest aborts, or goes on when `onTimeout` says so. */
  readonly minS: number;
  readonly maxS: number;
  readonly onTimeout: 'abort' | 'next';
  /** All must hold to go on; none means after minS. */
  readonly until: readonly Condition[];
  /** Any of these ends the procedure at once. */
  readonly abortIf: readonly Condition[];
  /** Switches set on entry, such as a load relay. */
  readonly set: Readonly<Record<string, boolean | number>>;
  /** The maker must confirm before it begins. */
  readonly ask?: string;
}

export interface Procedure {
  readonly title: string;
  readonly steps: readonly Step[];
  /** Limits that hold in every step. */
  readonly abortIf: readonly Condition[];
  /** Switches set when it ends, however it ends: everything safe. */
  readonly safe: Readonly<Record<string, boolean | number>>;
}

/** A step with the usual answers filled in. */
export function step(id: string, title: string, rest: Partial<Step> = {}): Step {
  return { id, title, minS: 0, maxS: Infinity, onTimeout: 'abort', until: [], abortIf: [], set: {}, ...rest };
}

/**
 * Checks a procedure once.
 * @throws {RangeError} that names the step, the rule and the value
 */
export function checkProcedure(procedure: Procedure): void {
  if (procedure.steps.length === 0) throw new RangeError(`“${procedure.title}” has no steps. Add one.`);
  const ids = new Set<string>();
  for (const s of procedure.steps) {
    if (ids.has(s.id)) throw new RangeError(`Two steps have the ID “${s.id}”. Change one of them.`);
    ids.add(s.id);
    if (!(s.minS >= 0) || !(s.maxS >= s.minS))
      throw new RangeError(
        `Step “${s.title}”: the maximum duration must be at least the minimum (${s.minS} s); received ${s.maxS} s.`,
      );
    if (s.until.length === 0 && s.maxS === Infinity && s.minS === 0 && !s.ask)
      throw new RangeError(`Step “${s.title}” has no end. Add a time, a condition or a question.`);
    for (const c of [...s.until, ...s.abortIf, ...procedure.abortIf]) {
      const size = c.kind === 'steady' ? c.within : c.value;
      if (!Number.isFinite(size) || !(c.holdS >= 0))
        throw new RangeError(
          `A condition of step “${s.title}” needs a finite limit and a hold time of 0 s or more; received ${size} and ${c.holdS} s.`,
        );
    }
  }
}
