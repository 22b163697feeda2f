import { Type } from 'typebox';
import { convertUnit, integralUnit, UNITS } from '../../units/index.ts';
import { figure, none, type FigureKind } from '../kind.ts';
import { seconds } from '../words.ts';

/** Area of the last pulse: the impulse, of a force. */
export const impulse: FigureKind<Record<string, never>> = {
  kind: 'impulse',
  title: 'Impulse',
  summary: 'Area under the last pulse: newton seconds, of a force',
  params: Type.Object({}),
  defaults: {},
  roles: { of: { title: 'Of', wants: 'stretch' } },
  others: [],
  levels: [],
  unit: (_params, input) => integralUnit(baseOf(input)) ?? null,
  start(_params, { unit, budget }) {
    const m = { area: Number.NaN, widthS: 0, peak: Number.NaN, atS: Number.NaN };
    return {
      memory: m,
      event(_role, e) {
        if (!Number.isFinite(e.area)) return;
        Object.assign(m, { area: e.area, widthS: e.endS - e.timeS, peak: e.value, atS: e.timeS });
      },
      now() {
        if (Number.isNaN(m.area)) return none('Waiting for the first one.');
        const area = convertUnit(m.area, unit, baseOf(unit));
        // A scale that is off takes its share of the area; what the zero is off by counts over the whole width.
        const { systematic } = budget(m.peak);
        const u = Math.max(Math.abs(area) * (systematic / Math.abs(m.peak)), 0);
        return figure(
          area,
          u,
          m.atS,
          `Over ${seconds(m.widthS)}, by the trapezoid rule from crossing to crossing.`,
        );
      },
    };
  },
};

/** The unit of the same kind that an integral is named after: kilonewton as newton. */
const baseOf = (unit: keyof typeof UNITS) => (UNITS[unit].dimension === 'force' ? ('N' as const) : unit);
