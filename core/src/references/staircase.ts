import type { ReferenceInput } from '../model/calibration.ts';

/** What is set anew at each step of a staircase, and what it is good to, by the kind of reference. */
const STEPPED = {
  mass: { of: 'kilograms', within: 'toleranceKg', unit: 'kg' },
  'weight-force': { of: 'kilograms', within: 'toleranceKg', unit: 'kg' },
  water: { of: 'litres', within: 'toleranceLitres', unit: 'l' },
  length: { of: 'metres', within: 'toleranceM', unit: 'm' },
} as const;

export interface Staircase {
  /** Unit of the steps. */
  readonly unit: string;
  /** The reference at a step; what it is good to grows with it, as that of several pieces of one make. */
  at(value: number): ReferenceInput;
}

/** How a reference is gone through step by step; null for one that nobody lays on in steps. */
export function staircaseOf(reference: ReferenceInput): Staircase | null {
  if (!(reference.kind in STEPPED)) return null;
  const { of, within, unit } = STEPPED[reference.kind as keyof typeof STEPPED];
  const given = reference as unknown as Record<string, number>;
  const [value, tolerance] = [given[of]!, given[within]!];
  return {
    unit,
    at: (step) =>
      ({
        ...reference,
        [of]: step,
        [within]: value > 0 && step > 0 ? (tolerance / value) * step : tolerance,
      }) as ReferenceInput,
  };
}

/** Steps that can be gone through in one go. */
const MOST = 40;

/**
 * Steps as a maker types them, such as "5 10 20": numbers apart by blanks, commas or semicolons.
 * @param andBack whether they are gone down again, the highest once
 * @throws {RangeError} for what is no number, less than two steps, one below zero, or too many
 */
export function stepsOf(text: string, andBack: boolean): number[] {
  const up = text
    .split(/[\s,;]+/)
    .filter(Boolean)
    .map((word) => {
      const value = Number(word);
      if (!Number.isFinite(value) || value < 0)
        throw new RangeError(`“${word}” is not a valid step. Enter numbers of 0 or more, such as 5 10 20.`);
      return value;
    });
  if (up.length < 2) throw new RangeError('Enter at least two steps, such as 5 10 20.');
  const steps = andBack ? [...up, ...up.slice(0, -1).toReversed()] : up;
  if (steps.length > MOST)
    throw new RangeError(
      `${steps.length} steps are too many (limit ${MOST}). Enter fewer steps, or use two series.`,
    );
  return steps;
}
