import { Type } from 'typebox';
import { figure, none, type FigureKind } from '../kind.ts';

/** What the reading moved by between two stretches at rest: the last piece of cloth. */
export const segment: FigureKind<Record<string, never>> = {
  kind: 'segment',
  title: 'Last move',
  summary: 'Change between the last two steady sections',
  params: Type.Object({}),
  defaults: {},
  roles: { of: { title: 'Steady sections', wants: 'stretch' } },
  others: [],
  levels: [],
  unit: (_params, input) => (input === 'degC' ? 'K' : input),
  start(_params, { budget }) {
    const m = { rest: Number.NaN, moved: Number.NaN, n: 0, atS: Number.NaN };
    return {
      memory: m,
      event(_role, e) {
        if (!Number.isFinite(e.value)) return;
        // Told as soon as it rests again, and to more digits once that rest is over.
        if (!Number.isNaN(m.rest)) {
          m.moved = e.value - m.rest;
          if (e.what === 'start') m.n++;
          m.atS = e.timeS;
        }
        if (e.what === 'event') m.rest = e.value;
      },
      // The next piece begins where this one ended.
      next() {
        m.moved = Number.NaN;
        m.n = 0;
      },
      now() {
        if (m.n === 0) return none('Waiting for a move between two steady sections.');
        const { systematic, noise } = budget(Math.abs(m.moved));
        // Of what a counter holds at rest no mean gets rid: whole steps lie anywhere within the first and the last.
        const u = Math.hypot(systematic, Math.SQRT2 * (noise || 0));
        return figure(m.moved, u, m.atS, `Move number ${m.n}, from steady to steady.`);
      },
    };
  },
};
