import type { FitResult } from '../model/calibration.ts';

/** Whether two fits found the same constants, but for the last digits in which two machines may differ. */
export function sameFit(a: FitResult, b: FitResult): boolean {
  return (
    a.fit === b.fit &&
    a.residuals.length === b.residuals.length &&
    a.parameters.length === b.parameters.length &&
    a.parameters.every((p, i) => {
      const other = b.parameters[i]!;
      // Constants that came in from different pieces of evidence are as good as those say.
      return near(p.value, other.value, 1e-3 * p.u) && near(p.u, other.u, 1e-3 * p.u);
    })
  );
}

const near = (a: number, b: number, by: number) => Object.is(a, b) || Math.abs(a - b) <= by;
