import { Type } from 'typebox';
import { convertUnit, integralUnit, UNITS } from '../../units/index.ts';
import { figure, none, type FigureKind } from '../kind.ts';
import { seconds } from '../words.ts';

/**
 * What a pulse has below a level, as a share of what a half sine has there: its powers from 0.7, blunt, to 1.4, gentle, have
 * 0.4 to 1.7 times as much. The middle of that; and a standard uncertainty for what lies anywhere between, of which straight
 * lines from reading to reading make up for a fifth (by simulation, two dozen readings a pulse).
 */
const BELOW = (0.4 + 1.7) / 2;
const SHAPE = (0.8 * 0.95 * (1.7 - 0.4)) / 4;

/** Area of the last pulse: the impulse, of a force. */
export const impulse: FigureKind<Record<string, never>> = {
  kind: 'impulse',
  title: 'Impulse',
  summary: 'Area under the last pulse (newton seconds for a force)',
  params: Type.Object({}),
  defaults: {},
  roles: { of: { title: 'Pulses', wants: 'stretch' } },
  others: [],
  levels: [],
  unit: (_params, input) => integralUnit(baseOf(input)) ?? null,
  start(_params, { unit, budget, sampleRateHz, edges }) {
    const m = { area: Number.NaN, widthS: 0, peak: Number.NaN, atS: Number.NaN };
    const level = convertUnit(Math.max(0, ...edges('of')), unit, baseOf(unit));
    return {
      memory: m,
      event(_role, e) {
        if (!Number.isFinite(e.area)) return;
        Object.assign(m, {
          area: e.area,
          widthS: e.endS - e.timeS,
          peak: e.value,
          atS: e.timeS,
        });
      },
      now() {
        if (Number.isNaN(m.area)) return none('Waiting for the first pulse.');
        const area = convertUnit(m.area, unit, baseOf(unit));
        // A scale that is off takes its share of the area; what the zero is off by counts over the whole width.
        const { systematic, noise } = budget(m.peak);
        const single = convertUnit(noise, unit, baseOf(unit)) * Math.sqrt(m.widthS / sampleRateHz);
        // Below the level lies about what a half sine has there.
        const peak = convertUnit(m.peak, unit, baseOf(unit));
        const share = Math.min(1, level / peak);
        const turnS = m.widthS / (Math.PI - 2 * Math.asin(share));
        const ofSine = 2 * peak * turnS * (1 - Math.sqrt(1 - share ** 2));
        // Straight lines between readings cut off what bends beyond them.
        const cut = (peak * Math.sqrt(1 - share ** 2)) / turnS / 6 / sampleRateHz ** 2;
        const u = Math.hypot(area * (systematic / m.peak), single, SHAPE * ofSine);
        return figure(
          area + BELOW * ofSine + cut,
          u,
          m.atS,
          `Over ${seconds(m.widthS)} between level crossings, including corrections for the area below the level and between samples.`,
        );
      },
    };
  },
};

/** The unit of the same kind that an integral is named after: kilonewton as newton. */
const baseOf = (unit: keyof typeof UNITS) => (UNITS[unit].dimension === 'force' ? ('N' as const) : unit);
