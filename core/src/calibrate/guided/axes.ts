import type { Found } from './guidedFit.ts';

const AXES = ['x', 'y', 'z'] as const;

/** Offset and matrix of a three-axis correction as parameters of a fit. */
export function axesFound(
  { offset, matrix }: { readonly offset: readonly number[]; readonly matrix: readonly number[] },
  covariance: readonly (readonly number[])[],
  rest: Omit<Found, 'params' | 'parameters' | 'covariance'>,
  to: string,
): Found {
  return {
    ...rest,
    params: { offset: [...offset], matrix: [...matrix], to },
    parameters: [
      ...offset.map((value, k) => ({
        param: `offset.${k}`,
        title: `Offset ${AXES[k]}`,
        unit: 'counts',
        value,
      })),
      ...matrix.map((value, k) => ({
        param: `matrix.${k}`,
        title: `Matrix ${AXES[Math.floor(k / 3)]}${AXES[k % 3]}`,
        unit: '',
        value,
      })),
    ],
    covariance,
  };
}
