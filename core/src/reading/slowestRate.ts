import type { ChannelBrief } from '../model/gadget.ts';
import { convertUnit, UNITS } from '../units/index.ts';

/**
 * Slowest rate that a brief tells from standing still, Hz: its lowest, or its tolerance where it begins at zero, since less
 * is not told from zero. Undefined for a brief of no rate.
 */
export function slowestRateHz(
  brief: Pick<ChannelBrief, 'unit' | 'low' | 'tolerance'> | null,
): number | undefined {
  if (!brief || UNITS[brief.unit].dimension !== UNITS.Hz.dimension) return undefined;
  return convertUnit(brief.low > 0 ? brief.low : brief.tolerance, brief.unit, 'Hz');
}
