import { printNominal } from '@lucky-needle/core/units';

/** A current in the unit that suits its size. */
export const mA = (a: number) => (a >= 1 ? `${printNominal(a)} A` : `${printNominal(a * 1e3)} mA`);
/** Rails, currents, runtime and its curve, heat, plausibility and the order of switching on. */

/** A runtime in the unit that suits its length. */
export function hoursInWords(h: number): string {
  return h >= 72
    ? `${printNominal(h / 24, 2)} days`
    : h >= 2
      ? `${printNominal(h, 2)} h`
      : `${printNominal(h * 60, 2)} min`;
}
