import { Type } from 'typebox';
import { number, unitChoice } from '../../stage/params.ts';
import { printNominal, ratePerSecondUnit, UNITS, type UnitId } from '../../units/index.ts';
import { figure, none, type FigureKind } from '../kind.ts';
import { slopeOf } from '../slopeOf.ts';
import { emptyWindow, takeReading, within } from '../window.ts';

/** How fast the reading rises, by a straight line through the last readings. */
export const rateOfRise: FigureKind<{ windowS: number; to: string }> = {
  kind: 'rate-of-rise',
  title: 'Rate of rise',
  summary: 'Slope of a straight line through the latest readings',
  params: Type.Object({
    windowS: number('Over the last', { above: 0, max: 1e6, unit: 's' }),
    to: unitChoice(),
  }),
  defaults: { windowS: 60, to: 'KPerMin' },
  roles: {},
  others: [],
  levels: [],
  defaultsFor: (input) => ({
    windowS: 60,
    to: input === 'degC' || input === 'K' ? 'KPerMin' : (ratePerSecondUnit(input) ?? 'KPerMin'),
  }),
  unit({ to }, input) {
    const perSecond = ratePerSecondUnit(input);
    return perSecond && UNITS[to as UnitId]?.dimension === UNITS[perSecond].dimension ? (to as UnitId) : null;
  },
  start({ windowS, to }, { unit, budget }) {
    const m = emptyWindow();
    const scale = UNITS[ratePerSecondUnit(unit)!].scale / UNITS[to as UnitId].scale;
    return {
      memory: m,
      reading: (t, x) => takeReading(m, t, x, windowS),
      now() {
        const { t, x } = within(m, windowS);
        const line = slopeOf(t, x);
        const lengthS = (t.at(-1) ?? 0) - (t[0] ?? 0);
        if (!line || lengthS < windowS / 4)
          return none(`Waiting for ${printNominal(windowS / 4)} s of readings.`);
        const tilt = budget.apart(line.last - line.slope * lengthS, line.last);
        const told = figure(
          line.slope * scale,
          Math.hypot(line.uOfMean, tilt / lengthS) * scale,
          t.at(-1)!,
          `Straight line through ${t.length} readings over ${lengthS.toFixed(1)} s.`,
        );
        return lengthS < 0.9 * windowS ? { ...told, isSettling: true } : told;
      },
    };
  },
};
