import { Type } from 'typebox';
import { choice, number, whole } from '../line/params.ts';
import { REASON } from '../line/stage.ts';
import { streamStage } from '../line/streamStage.ts';
import { UNITS, type UnitId } from '../units/index.ts';

interface PeriodParams {
  marks: number;
  over: string;
  deadTimeS: number;
  from: string;
  to: string;
  [name: string]: number | string;
}

/**
 * The time between edges to a rate. Takes one row an edge, holding the edge's own time stamp. Over one turn, uneven spacing
 * of the marks cancels; over one edge, the reading is quicker. An edge closer to the last one than the dead time is a
 * glitch: it is dropped and gives no reading. Relative resolution is the clock's tick times the edge rate.
 */
export const periodRate = streamStage<PeriodParams>({
  kind: 'period-rate',
  title: 'Rate by period',
  summary: 'Time between edges to a rate, with dead time against glitches',
  role: 'conversion',
  params: Type.Object({
    marks: whole('Marks a turn', { min: 1, max: 10000 }),
    over: choice('Measured over', ['one turn', 'one edge']),
    deadTimeS: number('Dead time', { min: 0, max: 60, unit: 's' }),
    from: choice('Time stamps are in', ['us', 'ms', 's']),
    to: choice('Gives', ['rpm', 'Hz', 'perMin']),
  }),
  defaults: { marks: 1, over: 'one turn', deadTimeS: 0.001, from: 'us', to: 'rpm' },
  defaultsFor: ([from]) => ({ marks: 1, over: 'one turn', deadTimeS: 0.001, from: from ?? 'us', to: 'rpm' }),
  takes: 'one column of time stamps in the unit set, a row for each edge',
  gives: ({ from, to }, inputs) =>
    inputs.length === 1 && inputs[0] === from && ['us', 'ms', 's'].includes(from) ? [to as UnitId] : null,
  start({ marks, over, deadTimeS, from, to }) {
    const span = over === 'one turn' ? marks : 1;
    const scale = span / (marks * UNITS[to as UnitId].scale);
    const second = UNITS[from as UnitId].scale;
    let edges: number[] = [];
    return (timeS, [stamp], reason, emit) => {
      if (reason !== REASON.ok) {
        edges = [];
        return emit(timeS, null, reason);
      }
      const t = stamp! * second;
      const last = edges.at(-1);
      // A clock that ran over or was reset starts the measurement anew.
      if (last !== undefined && t < last) edges = [];
      else if (last !== undefined && t - last < deadTimeS) return;
      edges.push(t);
      if (edges.length <= span) return;
      const first = edges.shift()!;
      if (t > first) emit(timeS, [scale / (t - first)]);
    };
  },
  emitC({ marks, over, deadTimeS, from, to }, c) {
    const span = over === 'one turn' ? marks : 1;
    const second = UNITS[from as UnitId].scale;
    const stamps = c.state('stamps', '0', span + 1);
    const known = c.state('known', '0');
    const at = c.state('at', '0');
    const last = c.state('last', '0');
    c.line('/* One call for each edge, with its own time stamp. */');
    c.line(`if (isnan(x[0])) { ${known} = 0; return; }`);
    c.line(`LN_WIDE gap = x[0] - ${last};`);
    c.line(`if (${known} > 0 && gap < 0) ${known} = 0;`);
    const dead = c.constant('DEAD', deadTimeS / second, `dead time, ${from}`, true);
    c.line(`if (${known} > 0 && gap < ${dead}) { x[0] = LN_BAD; return; }`);
    c.line(`${last} = x[0];`);
    c.line(`${stamps}[(int)${at}] = x[0];`);
    c.line(`${at} = ${at} < ${span} ? ${at} + 1 : 0;`);
    c.line(`if (${known} < ${span + 1}) ${known} += 1;`);
    c.line(`LN_WIDE took = x[0] - ${stamps}[(int)${at}];`);
    const scale = c.constant('SCALE', span / (marks * UNITS[to as UnitId].scale * second), '', true);
    c.line(`x[0] = ${known} > ${span} && took > 0 ? (LN_REAL)(${scale} / took) : LN_BAD;`);
  },
});
