import type { NowFigure } from '@lucky-needle/core/model';
import { UNITS } from '@lucky-needle/core/units';
import type { PlotAxis } from '../../../parts/plotTypes.ts';

/** Of zeros alone nothing says that less could be; what stands at zero is not cut. */
const NOTHING_BELOW = { min: -0.1, max: 1 };

/** The axis of a figure beside its values. */
export const axisOf = (figure: NowFigure, values: readonly number[]): PlotAxis => ({
  label: figure.name,
  unit: UNITS[figure.unit].symbol,
  ...(values.every((v) => v === 0) && NOTHING_BELOW),
});
