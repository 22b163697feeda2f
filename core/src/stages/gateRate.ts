import { Type } from 'typebox';
import { choice, number, whole } from '../stage/params.ts';
import { REASON } from '../stage/contract.ts';
import { streamStage } from '../stage/streamStage.ts';
import { UNITS, type UnitId } from '../units/index.ts';

/**
 * Edges counted in a gate to a rate: (edges in the gate / marks a turn) / the gate's real length. Resolution is
 * 60 / (marks gate) rpm, one edge more or less; the reading comes once a gate. Takes a running count of edges.
 */
export const gateRate = streamStage<{ marks: number; gateS: number; to: string }>({
  kind: 'gate-rate',
  title: 'Rate from gate time',
  summary: 'Counts edges over a fixed time and converts them to a rate',
  role: 'conversion',
  addsUp: true,
  params: Type.Object({
    marks: whole('Marks per turn', { min: 1, max: 10000 }),
    gateS: number('Gate time', { above: 0, max: 3600, unit: 's' }),
    to: choice('Output unit', ['rpm', 'Hz', 'perMin']),
  }),
  defaults: { marks: 1, gateS: 1, to: 'rpm' },
  takes: 'one column with a running count of edges',
  gives: ({ to }, inputs) => (inputs.length === 1 && inputs[0] === 'count' ? [to as UnitId] : null),
  rateOut: ({ gateS }, rate) => Math.min(rate, 1 / gateS),
  start({ marks, gateS, to }) {
    const scale = 1 / (marks * UNITS[to as UnitId].scale);
    // NaN while no gate is open.
    const m = { t: Number.NaN, edges: 0 };
    const open = (t: number, edges: number) => {
      m.t = t;
      m.edges = edges;
    };
    return {
      memory: m,
      step(timeS, [edges], reason, emit) {
        if (reason === REASON.backwards) m.t = Number.NaN;
        if (reason !== REASON.ok) return emit(timeS, null, reason);
        // A counter that went backwards was started anew: the gate begins again.
        if (Number.isNaN(m.t) || edges! < m.edges) return open(timeS, edges!);
        // A hair of slack, or the rounding of times would stretch a gate by a whole sample.
        if (timeS - m.t < gateS * (1 - 1e-9)) return;
        emit(timeS, [((edges! - m.edges) * scale) / (timeS - m.t)]);
        open(timeS, edges!);
      },
    };
  },
  comes: ({ gateS }) => `every ${gateS} s`,
  meansOfSteps: true,
  emitC({ marks, gateS, to }, c) {
    const calls = c.state('calls', '0');
    const edges = c.state('edges', '0');
    const open = c.state('open', '0');
    c.line(`${calls} += 1;`);
    c.line('if (isnan(x[0])) return;');
    c.line(
      `if (${open} < 1 || x[0] < ${edges}) { ${open} = 1; ${calls} = 0; ${edges} = x[0]; x[0] = LN_BAD; return; }`,
    );
    const gate = c.constant('GATE', gateS * (1 - 1e-9) * c.callsHz, 'calls', true);
    c.line(`if (${calls} < ${gate}) { x[0] = LN_BAD; return; }`);
    const scale = c.constant('SCALE', c.callsHz / (marks * UNITS[to as UnitId].scale), '', true);
    c.line(`LN_WIDE rate = (x[0] - ${edges}) * ${scale} / ${calls};`);
    c.line(`${calls} = 0; ${edges} = x[0];`);
    c.line('x[0] = (LN_REAL)rate;');
  },
});
