import { Type } from 'typebox';
import { beats, noBeats, REARM } from '../detect/beats.ts';
import { choice, number, whole } from '../stage/params.ts';
import { REASON } from '../stage/contract.ts';
import { streamStage } from '../stage/streamStage.ts';
import { UNITS, type UnitId } from '../units/index.ts';
import { everyCallSeen } from './everyCallInC.ts';
import { standsStill, stillAfterS } from './standsStill.ts';

interface BeatParams {
  over: number;
  shortestS: number;
  memoryS: number;
  minHeight: number;
  to: string;
  [name: string]: number | string;
}

/** Where a beat begins, between the lower and the upper envelope. */
const LEVEL = 0.5;

/**
 * Beats of a wave to a rate: rising crossings of a level that follows the wave's own height, and the time that so many of
 * them take. Gives a reading at each beat once there are enough. A beat that comes too soon is ignored as a double; bad
 * samples begin the count anew, since a beat may be lost among them. Without a beat for longer than the slowest rate that is
 * asked for takes, it stands still: 0.
 */
export const beatRate = streamStage<BeatParams>({
  kind: 'beat-rate',
  title: 'Beat rate',
  summary: 'Measures the beat rate of a wave, with a threshold that follows its amplitude',
  role: 'conversion',
  params: Type.Object({
    over: whole('Beats to average', { min: 1, max: 1000 }),
    shortestS: number('Minimum interval between beats', { above: 0, max: 60, unit: 's' }),
    memoryS: number('Envelope time constant', { above: 0, max: 600, unit: 's' }),
    minHeight: number('Minimum height', { min: 0 }),
    to: choice('Output unit', ['perMin', 'Hz', 'rpm']),
  }),
  defaults: { over: 10, shortestS: 0.4, memoryS: 4, minHeight: 0.05, to: 'perMin' },
  takes: 'one column with a wave',
  gives: ({ to }, inputs) => (inputs.length === 1 ? [to as UnitId] : null),
  start({ over, shortestS, memoryS, minHeight, to }, { slowestHz }) {
    const m = { stamps: [] as number[], wave: noBeats(), sinceS: Number.NaN };
    const wave = beats(
      { refractoryS: shortestS, memoryS, level: LEVEL, minHeight },
      (beat) => m.stamps.push(beat.timeS),
      m.wave,
    );
    return {
      memory: m,
      step(timeS, [x], reason, emit) {
        if (reason !== REASON.ok) {
          Object.assign(m, { stamps: [], sinceS: Number.NaN });
          Object.assign(m.wave, noBeats());
          return emit(timeS, null, reason);
        }
        if (Number.isNaN(m.sinceS)) m.sinceS = timeS;
        const known = m.stamps.length;
        wave.push(timeS, x!);
        if (m.stamps.length === known) {
          if (!standsStill(timeS - m.sinceS, slowestHz)) return;
          // Told again as often as it could have beaten.
          Object.assign(m, { stamps: [], sinceS: timeS });
          return emit(timeS, [0]);
        }
        m.sinceS = timeS;
        if (m.stamps.length <= over) return;
        const first = m.stamps.shift()!;
        emit(timeS, [over / ((m.stamps.at(-1)! - first) * UNITS[to as UnitId].scale)]);
      },
    };
  },
  comes: () => 'with each beat, once enough beats have been found',
  emitC({ over, shortestS, memoryS, minHeight, to }, c, context) {
    everyCallSeen('Beat rate', c, context);
    const { sampleRateHz } = context;
    const still = stillAfterS(context.slowestHz);
    const quiet = c.state('quiet', '0');
    const high = c.state('high', 'NAN');
    const low = c.state('low', '0');
    const before = c.state('before', '0');
    const armed = c.state('armed', '0');
    const under = c.state('under', '0');
    const since = c.state('since', '-1');
    const gaps = c.state('gaps', '0', over);
    const at = c.state('at', '0');
    const known = c.state('known', '0');
    c.line(
      `if (isnan(x[0])) { ${high} = NAN; ${armed} = 0; ${since} = -1; ${known} = 0; ${quiet} = 0; return; }`,
    );
    c.line('LN_WIDE v = x[0];');
    c.line('x[0] = LN_BAD;');
    if (still !== null) c.line('int beat = 0;');
    c.line(`if (isnan(${high})) { ${high} = ${low} = ${before} = v; return; }`);
    const forget = c.constant(
      'FORGET',
      1 - Math.exp(-1 / (sampleRateHz * memoryS)),
      'envelope decay per call',
      true,
    );
    c.line(`LN_WIDE middle = (${high} + ${low}) / 2;`);
    c.line(`${high} += (middle - ${high}) * ${forget}; if (v > ${high}) ${high} = v;`);
    c.line(`${low} += (middle - ${low}) * ${forget}; if (v < ${low}) ${low} = v;`);
    c.line(`LN_WIDE height = ${high} - ${low}, level = ${low} + (LN_WIDE)${LEVEL} * height;`);
    c.line(`if (v < ${low} + (LN_WIDE)${REARM * LEVEL} * height) ${armed} = 1;`);
    const period = c.constant('PERIOD', 1 / sampleRateHz, 's', true);
    c.line(`if (${since} >= 0) ${since} += ${period};`);
    const least = c.constant('MIN_HEIGHT', minHeight, '', true);
    c.line(`if (${armed} > 0 && height >= ${least} && (${under} > 0 || ${before} < level) && v >= level) {`);
    c.line(`  LN_WIDE past = (1 - (level - ${before}) / (v - ${before})) * ${period}, gap;`);
    c.line(`  if (past > ${period}) past = ${period};`);
    c.line(`  gap = ${since} - past;`);
    const shortest = c.constant('SHORTEST', shortestS, 's', true);
    c.line(`  if (${since} < 0 || gap >= ${shortest}) {`);
    c.line(`    if (${since} >= 0) {`);
    c.line(`      ${gaps}[(int)${at}] = (LN_REAL)gap; ${at} = ${at} < ${over - 1} ? ${at} + 1 : 0;`);
    c.line(`      if (${known} < ${over}) ${known} += 1;`);
    c.line(`      LN_WIDE together = 0;`);
    c.line(`      for (int i = 0; i < ${over}; i++) together += ${gaps}[i];`);
    const scale = c.constant('SCALE', over / UNITS[to as UnitId].scale, '', true);
    c.line(`      if (${known} >= ${over}) x[0] = (LN_REAL)(${scale} / together);`);
    c.line('    }');
    c.line(`    ${since} = past; ${armed} = 0;${still === null ? '' : ' beat = 1;'}`);
    c.line('  }');
    c.line('}');
    c.line(`${under} = v < level;`);
    c.line(`${before} = v;`);
    if (still === null) return;
    const most = c.constant('STILL', still * sampleRateHz * (1 + 1e-9), 'calls without a beat', true);
    c.line(`if (beat) ${quiet} = 0; else ${quiet} += 1;`);
    c.line(`if (${quiet} > ${most}) { ${quiet} = 0; ${known} = 0; ${since} = -1; x[0] = 0; }`);
  },
});
