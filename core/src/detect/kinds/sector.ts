import { Type } from 'typebox';
import { shortWay } from '../../numerics/index.ts';
import { number } from '../../stage/params.ts';
import { sectorInC } from '../inC/sectorInC.ts';
import {
  checkConfirmation,
  confirm,
  CONFIRMED_BY,
  notConfirmed,
  nothingConfirmed,
  type ConfirmMemory,
} from '../gates.ts';
import { begun, moment, refused, type DetectorKind } from '../kind.ts';

interface SectorMemory {
  inside: boolean;
  /** Whether an edge was passed that is not confirmed yet, and where and when. */
  passing: boolean;
  passedS: number;
  confirm: ConfirmMemory;
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
  n: number;
  m: number;
}> = {
  kind: 'sector',
  title: 'Direction in a sector',
  summary: 'The direction is within a sector, which may include north',
  looksAt: 'direction',
  params: Type.Object({
    fromDeg: number('From (clockwise)', { min: 0, max: 360, unit: 'deg' }),
    toDeg: number('To (clockwise)', { min: 0, max: 360, unit: 'deg' }),
    hysteresisDeg: number('Hysteresis', { min: 0, max: 90, unit: 'deg' }),
    shortestS: number('Minimum duration', { min: 0, max: 1e6, unit: 's' }),
    ...CONFIRMED_BY,
  }),
  defaults: { fromDeg: 315, toDeg: 45, hysteresisDeg: 5, shortestS: 0, n: 1, m: 1 },
  levels: [],
  edges: ({ fromDeg, toDeg }) => [fromDeg, toDeg],
  start({ fromDeg, toDeg, hysteresisDeg, shortestS, n, m: of }, { sampleRateHz }, emit) {
    const width = clockwise(fromDeg, toDeg);
    if (width === 0)
      throw new RangeError(`Choose different ends for the sector; received ${fromDeg} and ${toDeg} degrees.`);
    const wanted = { n, m: of };
    checkConfirmation(wanted);
    const m: SectorMemory = {
      inside: false,
      passing: false,
      passedS: Number.NaN,
      confirm: nothingConfirmed(),
      startS: Number.NaN,
      t0: Number.NaN,
      x0: Number.NaN,
    };
    const u = 1 / sampleRateHz / Math.sqrt(12);
    /** Where the edge that was passed lies between the last two readings. */
    const passed = (t: number, x: number, edge: number) => {
      const step = shortWay(m.x0, x);
      const share = step === 0 ? 1 : shortWay(m.x0, edge) / step;
      return share >= 0 && share <= 1 ? m.t0 + share * (t - m.t0) : t;
    };
    const nearEdge = (x: number) =>
      Math.abs(shortWay(x, fromDeg)) <= Math.abs(shortWay(x, toDeg)) ? fromDeg : toDeg;
    const settle = (x: number, answer: ReturnType<typeof confirm>) => {
      if (answer === 'open') return;
      m.passing = false;
      if (answer === 'no') {
        if (!m.inside) emit(refused(m.passedS, x, notConfirmed(wanted, 'stayed in the sector')));
        return;
      }
      m.inside = !m.inside;
      if (m.inside) {
        m.startS = m.passedS;
        emit(begun(m.startS, x, u));
        return;
      }
      const long = m.passedS - m.startS >= shortestS;
      const why = long ? '' : `Shorter than ${shortestS} s.`;
      emit({ ...moment(m.startS, x, Number.NaN, u), endS: m.passedS, counted: long, why });
    };
    return {
      memory: m,
      push(t, x) {
        const past = clockwise(fromDeg, x);
        // Beyond an edge it counts as gone only past the hysteresis; nearer than that it is neither here nor there.
        const isNear = past > width && Math.min(past - width, 360 - past) < hysteresisDeg;
        const changes = m.inside ? past > width : past <= width;
        if (!m.passing && changes && !(m.inside && isNear)) {
          m.passing = true;
          m.passedS = Number.isNaN(m.x0) ? t : passed(t, x, nearEdge(x));
        }
        if (m.passing && !(m.inside && isNear)) settle(x, confirm(wanted, m.confirm, changes));
        m.t0 = t;
        m.x0 = x;
      },
    };
  },
  emitC: sectorInC,
};
