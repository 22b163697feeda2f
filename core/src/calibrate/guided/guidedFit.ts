import type { FitResult, FittedParameter } from '../../model/calibration.ts';
import type { Evidence, EvidenceKind, EvidencePoint } from '../../model/evidence.ts';
import type { LineSpec, ParamValue, StageSpec } from '../../model/line.ts';

/** Evidence of one kind, with its id. */
export interface Piece<K extends EvidenceKind> {
  readonly id: string;
  readonly evidence: Extract<Evidence, { kind: K }>;
}

/** A true-up from evidence of its own kind. One file declares one. */
export interface GuidedFit<K extends EvidenceKind = EvidenceKind> {
  readonly id: string;
  readonly title: string;
  /** What it takes for granted, in words. */
  readonly assumes: string;
  readonly takes: K;
  /** The stage kind whose constants it finds. */
  readonly stage: string;
  /** Constants with their uncertainties, or a sentence that says what is missing. */
  solve(pieces: readonly Piece<K>[], stage: StageSpec, context: GuidedContext): Found | string;
}

export interface GuidedContext {
  readonly sampleRateHz: number;
}

export interface Found {
  readonly params: Readonly<Record<string, ParamValue>>;
  /** The numbers among them that carry uncertainty, in the order of the covariance. */
  readonly parameters: readonly Pick<FittedParameter, 'param' | 'title' | 'unit' | 'value'>[];
  readonly covariance: readonly (readonly number[])[];
  readonly degreesOfFreedom: number;
  readonly birge: number;
  /** Degrees of freedom that the uncertainties are known with, where scatter made them. */
  readonly uDegreesOfFreedom?: number;
  readonly converged: boolean;
  readonly reason: string;
  /** Error left at each piece, in the fit's own unit, where it has one. */
  readonly residuals: readonly { readonly pointId: string; readonly after: number; readonly u: number }[];
  readonly validRaw: readonly [number, number];
  readonly validReading: readonly [number, number];
}

/**
 * Works out a guided true-up for a line.
 * @param evidence all that was kept; what is left out or of another kind is ignored
 * @returns a result like that of any other fit, or a sentence that says why there is none
 */
export function fitGuided(
  fit: GuidedFit,
  line: LineSpec,
  evidence: readonly Pick<EvidencePoint, 'id' | 'evidence' | 'excluded'>[],
  context: GuidedContext,
): FitResult | string {
  const stage = line.stages.find((s) => s.kind === fit.stage && !s.off);
  if (!stage) return `The line has no “${fit.stage}” stage to correct. Add one on the Line page.`;
  const pieces = evidence.filter((e) => e.excluded === null && e.evidence.kind === fit.takes);
  const found = fit.solve(pieces as readonly Piece<EvidenceKind>[], stage, context);
  if (typeof found === 'string') return found;
  return {
    fit: fit.id,
    title: fit.title,
    parameters: found.parameters.map((p, i) => ({
      ...p,
      stageId: stage.id,
      before: numberAt(stage.params, p.param),
      u: Math.sqrt(Math.max(0, found.covariance[i]![i]!)),
    })),
    covariance: found.covariance.map((row) => [...row]),
    edits: [{ stageId: stage.id, params: { ...found.params } }],
    residuals: found.residuals.map((r) => ({ ...r, before: null, leftOut: null })),
    leaveOneOutRms: null,
    aicc: null,
    chiSquare: null,
    degreesOfFreedom: found.degreesOfFreedom,
    birge: found.birge,
    ...(found.uDegreesOfFreedom !== undefined && {
      uDegreesOfFreedom: found.uDegreesOfFreedom,
    }),
    converged: found.converged,
    reason: found.reason,
    validRaw: [...found.validRaw],
    validReading: [...found.validReading],
  };
}

function numberAt(params: StageSpec['params'], path: string): number | null {
  const [name, index] = path.split('.') as [string, string | undefined];
  const value = params[name];
  const found = index === undefined ? value : Array.isArray(value) ? value[Number(index)] : undefined;
  return typeof found === 'number' ? found : null;
}
