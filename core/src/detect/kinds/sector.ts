import { Type } from 'typebox';
import { shortWay } from '../../numerics/index.ts';
import { number } from '../../stage/params.ts';
import { sectorInC } from '../inC/sectorInC.ts';
import { begun, moment, type DetectorKind } from '../kind.ts';

interface SectorMemory {
  inside: boolean;
  startS: number;
  t0: number;
  x0: number;
}

/** How far an angle lies clockwise from another, 0 to 360. */
const clockwise = (from: number, to: number) => (((to - from) % 360) + 360) % 360;

/** A direction inside a sector, which may lie across north. */
export const sector: DetectorKind<{
  fromDeg: number;
  toDeg: number;
  hysteresisDeg: number;
  shortestS: number;
}> = {
  kind: 'sector',
  title: 'In a sector',
  summary: 'The direction lies in a sector, across north as well',
  looksAt: 'direction',
  params: Type.Object({
    fromDeg: number('From, clockwise', { min: 0, max: 360, unit: 'deg' }),
    toDeg: number('to', { min: 0, max: 360, unit: 'deg' }),
    hysteresisDeg: number('Hysteresis', { min: 0, max: 90, unit: 'deg' }),
    shortestS: number('Lasts at least', { min: 0, max: 1e6, unit: 's' }),
  }),
  defaults: { fromDeg: 315, toDeg: 45, hysteresisDeg: 5, shortestS: 0 },
  levels: [],
  start({ fromDeg, toDeg, hysteresisDeg, shortestS }, { sampleRateHz }, emit) {
    const width = clockwise(fromDeg, toDeg);
    if (width === 0)
      throw new RangeError(`The sector from ${fromDeg} to ${toDeg} degrees is empty. Let it end elsewhere.`);
    const m: SectorMemory = { inside: false, startS: Number.NaN, t0: Number.NaN, x0: Number.NaN };
    const u = 1 / sampleRateHz / Math.sqrt(12);
    /** Where the edge that was passed lies between the last two readings. */
    const passed = (t: number, x: number, edge: number) => {
      const step = shortWay(m.x0, x);
      const share = step === 0 ? 1 : shortWay(m.x0, edge) / step;
      return share >= 0 && share <= 1 ? m.t0 + share * (t - m.t0) : t;
    };
    return {
      memory: m,
      push(t, x) {
        const past = clockwise(fromDeg, x);
        if (!m.inside && past <= width) {
          m.inside = true;
          const edge = Math.abs(shortWay(x, fromDeg)) <= Math.abs(shortWay(x, toDeg)) ? fromDeg : toDeg;
          m.startS = Number.isNaN(m.x0) ? t : passed(t, x, edge);
          emit(begun(m.startS, x, u));
        } else if (m.inside && past > width) {
          // Beyond an edge, but it counts as gone only past the hysteresis.
          const beyond = Math.min(past - width, 360 - past);
          if (beyond >= hysteresisDeg) {
            const edge = past - width <= 360 - past ? toDeg : fromDeg;
            const endS = passed(t, x, edge);
            const long = endS - m.startS >= shortestS;
            emit({
              ...moment(m.startS, x, Number.NaN, u),
              endS,
              counted: long,
              why: long ? '' : `Shorter than ${shortestS} s.`,
            });
            m.inside = false;
          }
        }
        m.t0 = t;
        m.x0 = x;
      },
    };
  },
  emitC: sectorInC,
};
