import { Type } from 'typebox';
import { choice, number, whole } from '../stage/params.ts';
import { REASON } from '../stage/contract.ts';
import { streamStage, type Emit } from '../stage/streamStage.ts';
import { UNITS, type UnitId } from '../units/index.ts';
import { standsStill, stillAfterS } from './standsStill.ts';

interface PeriodParams {
  marks: number;
  over: string;
  deadTimeS: number;
  from: string;
  to: string;
  [name: string]: number | string;
}

/**
 * The time between edges to a rate, from rows that hold the time stamp of the newest edge, and, where the board sends it,
 * the running count of edges before it: that tells when more edges came than rows. Over one turn, uneven spacing of the
 * marks cancels; over one edge, the reading is quicker. An edge closer to the last one than the dead time is a glitch: it is
 * dropped and gives no reading. Relative resolution is the clock's tick times the edge rate. While edges fail to come, the
 * reading sinks with the time since the last one, and is 0 after the slowest rate that is asked for.
 */
export const periodRate = streamStage<PeriodParams>({
  kind: 'period-rate',
  title: 'Rate from period',
  summary: 'Converts the time between edges to a rate, with a dead time against glitches',
  role: 'conversion',
  addsUp: true,
  params: Type.Object({
    marks: whole('Marks per turn', { min: 1, max: 10000 }),
    over: choice('Measured over', ['one turn', 'one edge']),
    deadTimeS: number('Dead time', { min: 0, max: 60, unit: 's' }),
    from: choice('Time stamp unit', ['us', 'ms', 's']),
    to: choice('Output unit', ['rpm', 'Hz', 'perMin']),
  }),
  defaults: { marks: 1, over: 'one turn', deadTimeS: 0.001, from: 'us', to: 'rpm' },
  defaultsFor: ([from]) => ({ marks: 1, over: 'one turn', deadTimeS: 0.001, from: from ?? 'us', to: 'rpm' }),
  takes:
    'a column of time stamps in the selected unit, or a running edge count followed by the time stamp of the last edge',
  gives: ({ from, to }, inputs) =>
    ['us', 'ms', 's'].includes(from) &&
    inputs.at(-1) === from &&
    (inputs.length === 1 || (inputs.length === 2 && inputs[0] === 'count'))
      ? [to as UnitId]
      : null,
  names: () => ['rate'],
  start({ marks, over, deadTimeS, from, to }, { slowestHz }, inputs) {
    const span = over === 'one turn' ? marks : 1;
    const scale = 1 / (marks * UNITS[to as UnitId].scale);
    const second = UNITS[from as UnitId].scale;
    const slowestEdges = slowestHz === undefined ? undefined : slowestHz * marks;
    const m = {
      /** Edges with their number, oldest first: as few as make a turn. */
      edges: [] as { t: number; n: number }[],
      /** Of the newest row, as they came. */
      stamp: Number.NaN,
      count: Number.NaN,
      /** When the newest edge, or the first row, was seen. */
      sinceS: Number.NaN,
      /** Newest reading; infinite before the first. */
      shown: Infinity,
      /** Whether the row before brought an edge. */
      fresh: false,
    };
    const forget = (sinceS: number) =>
      Object.assign(m, {
        edges: [],
        stamp: Number.NaN,
        count: Number.NaN,
        sinceS,
        shown: Infinity,
        fresh: false,
      });
    return {
      memory: m,
      step(timeS, columns, reason, emit) {
        if (reason !== REASON.ok) {
          forget(Number.NaN);
          return emit(timeS, null, reason);
        }
        const stamp = columns[inputs - 1]! * second;
        const count = inputs === 2 ? columns[0]! : Number.NaN;
        if (Number.isNaN(m.sinceS)) m.sinceS = timeS;
        // A clock that ran over, or a board that was reset, starts the measurement anew.
        if (stamp < m.stamp || count < m.count) forget(timeS);
        const last = m.edges.at(-1);
        const came = count - m.count;
        const isEdge = stamp !== m.stamp && !(last && stamp - last.t < deadTimeS);
        m.stamp = stamp;
        m.count = count;
        if (!isEdge) {
          m.fresh = false;
          return emitAtRest(timeS, emit);
        }
        // Where row after row brings edges, there may be more of them than rows: the count tells how many. A second one in
        // a row by itself is the bounce of the first.
        const passed = m.fresh && came > 1 ? came : 1;
        m.fresh = true;
        m.sinceS = timeS;
        m.edges.push({ t: stamp, n: (last?.n ?? 0) + passed });
        const newest = m.edges.at(-1)!;
        while (m.edges.length > 2 && newest.n - m.edges[1]!.n >= span) m.edges.shift();
        const first = m.edges[0]!;
        if (newest.n - first.n < span) return;
        m.shown = ((newest.n - first.n) * scale) / (newest.t - first.t);
        emit(timeS, [m.shown]);
      },
    };

    /** While no edge comes, the rate is no higher than the time since the last one allows; after long enough it is 0. */
    function emitAtRest(timeS: number, emit: Emit): void {
      if (slowestEdges === undefined) return;
      if (standsStill(timeS - m.sinceS, slowestEdges)) {
        m.edges = [];
        m.shown = 0;
        return emit(timeS, [0]);
      }
      const most = scale / (timeS - m.sinceS);
      if (m.shown === Infinity || !(most < m.shown)) return;
      m.shown = most;
      emit(timeS, [most]);
    }
  },
  comes: () => 'with each detected edge; without edges, readings fall',
  emitC({ marks, over, deadTimeS, from, to }, c, { slowestHz }) {
    const span = over === 'one turn' ? marks : 1;
    const second = UNITS[from as UnitId].scale;
    const two = c.inputs === 2;
    const still = stillAfterS(slowestHz === undefined ? undefined : slowestHz * marks);
    const stamps = c.state('stamps', '0', span + 2);
    const numbers = c.state('numbers', '0', span + 2);
    const [used, stamp] = [c.state('used', '0'), c.state('stamp', '(LN_WIDE)NAN')];
    const count = two ? c.state('count', '(LN_WIDE)NAN') : null;
    const [since, shown, fresh] = [
      c.state('since', '-1'),
      c.state('shown', '(LN_WIDE)INFINITY'),
      c.state('fresh', '0'),
    ];
    const forget = (calls: string) =>
      `${used} = 0; ${stamp} = ${count === null ? '' : `${count} = `}(LN_WIDE)NAN; ${since} = ${calls}; ${shown} = (LN_WIDE)INFINITY; ${fresh} = 0;`;
    c.line(`LN_WIDE t = x[${two ? 1 : 0}];`);
    if (two) c.line('LN_WIDE edges = x[0];');
    c.line('x[0] = LN_BAD;');
    c.line(`if (isnan(t)${two ? ' || isnan(edges)' : ''}) { ${forget('-1')} return; }`);
    c.line(`${since} += 1;`);
    c.line(`if (t < ${stamp}${two ? ` || edges < ${count}` : ''}) { ${forget('0')} }`);
    const dead = c.constant('DEAD', deadTimeS / second, `dead time, ${from}`, true);
    c.line(`int edge = !(t == ${stamp}) && !(${used} > 0 && t - ${stamps}[(int)${used} - 1] < ${dead});`);
    c.line(`LN_WIDE passed = 1;`);
    if (two) c.line(`if (${fresh} > 0 && edges - ${count} > 1) passed = edges - ${count};`);
    c.line(`${stamp} = t;${two ? ` ${count} = edges;` : ''} ${fresh} = edge;`);
    const scale = c.constant('SCALE', 1 / (marks * UNITS[to as UnitId].scale * second), '', true);
    c.line('if (edge) {');
    c.line(`  ${since} = 0;`);
    c.line(`  LN_WIDE number = (${used} > 0 ? ${numbers}[(int)${used} - 1] : 0) + passed;`);
    c.line(
      `  ${stamps}[(int)${used}] = (LN_REAL)t; ${numbers}[(int)${used}] = (LN_REAL)number; ${used} += 1;`,
    );
    c.line(`  int from = 0;`);
    c.line(`  while (${used} - from > 2 && number - ${numbers}[from + 1] >= ${span}) from++;`);
    // Numbered from the oldest that is kept, so that they stay small.
    c.line(`  LN_WIDE base = ${numbers}[from] - 1;`);
    c.line(
      `  for (int k = from; k < (int)${used}; k++) { ${stamps}[k - from] = ${stamps}[k]; ${numbers}[k - from] = (LN_REAL)(${numbers}[k] - base); }`,
    );
    c.line(`  ${used} -= from; number -= base;`);
    c.line(`  if (number - ${numbers}[0] < ${span}) return;`);
    c.line(`  ${shown} = (number - ${numbers}[0]) * ${scale} / (t - ${stamps}[0]);`);
    c.line(`  x[0] = (LN_REAL)${shown};`);
    c.line('  return;');
    c.line('}');
    if (still === null) return;
    const most = c.constant('STILL', still * c.callsHz * (1 + 1e-9), 'calls without an edge', true);
    c.line(`if (${since} > ${most}) { ${used} = 0; ${shown} = 0; x[0] = 0; return; }`);
    const bound = c.constant('BOUND', c.callsHz / (marks * UNITS[to as UnitId].scale), '', true);
    c.line(`if (isinf(${shown}) || !(${bound} / ${since} < ${shown})) return;`);
    c.line(`${shown} = ${bound} / ${since}; x[0] = (LN_REAL)${shown};`);
  },
});
