import type { CWriter } from '../stage/contract.ts';
import type { AcParams } from './acParams.ts';
import { currentShift } from './currentShift.ts';

/** Writes the meter of whole cycles in C, step for step as `acPower` has it; time is counted in calls. */
export function emitAcPower(
  params: AcParams,
  { sampleRateHz, timeoutS }: { readonly sampleRateHz: number; readonly timeoutS: number },
  c: CWriter,
): void {
  const { depth, at, from, weights } = currentShift(params.currentDelayUs, sampleRateHz);
  const volts = c.state('volts', '0', depth);
  const amperes = c.state('amperes', '0', depth);
  const [known, calls, lastCall] = [
    c.state('known', '0'),
    c.state('calls', '0'),
    c.state('last_crossing', '-1'),
  ];
  const [have, v0, i0] = [c.state('have', '0'), c.state('v0', '0'), c.state('i0', '0')];
  const [armed, offset, energy] = [c.state('armed', '0'), c.state('offset', '0'), c.state('energy', '0')];
  // Seconds since the first crossing of this result; below 0 there is none yet.
  const [since, done] = [c.state('since', '-1'), c.state('done', '0')];
  const sums = ['v', 'i', 'vv', 'ii', 'vi'].map((name) => c.state(`sum_${name}`, '0'));
  const period = c.constant('PERIOD', 1 / sampleRateHz, 's', true);
  const deadBand = c.constant('DEAD_BAND', params.deadBandV, 'V', true);
  const none = c.constant('TIMEOUT', timeoutS * sampleRateHz * (1 + 1e-9), 'calls', true);
  const idle = c.state('idle', '0');
  const line = (text: string) => c.line(text);
  const add = (h: string, va: string, ia: string, vb: string, ib: string) => {
    line(`{ LN_WIDE h = (${h}) / 2, va = ${va}, ia = ${ia}, vb = ${vb}, ib = ${ib};`);
    line(`  ${sums[0]} += h * (va + vb); ${sums[1]} += h * (ia + ib);`);
    line(`  ${sums[2]} += h * (va * va + vb * vb); ${sums[3]} += h * (ia * ia + ib * ib);`);
    line(`  ${sums[4]} += h * (va * ia + vb * ib); }`);
  };
  const addCut = (h: string, v: string, i: string) => {
    line(`{ LN_WIDE h = ${h}, va = ${v}, ia = ${i}, dv = v - before, di = i - i_before;`);
    line(`  ${sums[0]} += h * va / 2; ${sums[1]} += h * (ia + ic) / 2;`);
    line(`  ${sums[2]} += h * (2 * va * va + dv * dv) / 6;`);
    line(`  ${sums[3]} += h * (2 * (ia * ia + ia * ic + ic * ic) + di * di) / 6;`);
    line(`  ${sums[4]} += h * (2 * va * ia + va * ic + dv * di) / 6; }`);
  };
  const finish = (crossed: string) => {
    line(`LN_WIDE T = ${since}, mv = ${sums[0]} / T, mi = ${sums[1]} / T;`);
    line(`LN_WIDE vv = ${sums[2]} / T - mv * mv, ii = ${sums[3]} / T - mi * mi;`);
    line(`LN_WIDE real = ${sums[4]} / T - mv * mi;`);
    line(
      `LN_WIDE v_rms = (LN_WIDE)sqrt(vv < 0 ? 0 : (double)vv), i_rms = (LN_WIDE)sqrt(ii < 0 ? 0 : (double)ii);`,
    );
    line(`LN_WIDE apparent = v_rms * i_rms;`);
    line(`${offset} += mv; if (!isnan(real)) ${energy} += real * T / 3600;`);
    line('x[0] = (LN_REAL)v_rms; x[1] = (LN_REAL)i_rms; x[2] = (LN_REAL)real; x[3] = (LN_REAL)apparent;');
    line(crossed === '0' ? 'x[4] = LN_BAD;' : 'x[4] = apparent > 0 ? (LN_REAL)(real / apparent) : LN_BAD;');
    line(`x[5] = (LN_REAL)(${crossed} / T); x[6] = isnan(real) ? LN_BAD : (LN_REAL)${energy};`);
  };
  line('LN_WIDE u = x[0], a = x[1];');
  line('for (int k = 0; k < 7; k++) x[k] = LN_BAD;');
  line(`${calls} += 1;`);
  line(`if (isnan(u)) { ${known} = ${have} = ${armed} = 0; ${since} = -1; return; }`);
  line(
    `for (int k = 0; k + 1 < ${depth}; k++) { ${volts}[k] = ${volts}[k + 1]; ${amperes}[k] = ${amperes}[k + 1]; }`,
  );
  const [bias, scale] = [
    c.constant('V_BIAS', params.voltageBias, ''),
    c.constant('V_SCALE', params.voltsPerUnit, 'V'),
  ];
  const [biasA, scaleA] = [
    c.constant('A_BIAS', params.currentBias, ''),
    c.constant('A_SCALE', params.amperesPerUnit, 'A'),
  ];
  line(`${volts}[${depth - 1}] = (LN_REAL)((u - ${bias}) * ${scale});`);
  line(`${amperes}[${depth - 1}] = (LN_REAL)((a - ${biasA}) * ${scaleA});`);
  line(`if (${known} < ${depth}) ${known} += 1;`);
  line(`if (${known} < ${depth}) return;`);
  const named = weights.map((w, j) => c.constant(`W${j}`, w, 'weight for interpolating the current'));
  line(`LN_WIDE volt = ${volts}[${at}];`);
  line(`LN_WIDE i = ${named.map((w, j) => `${w} * ${amperes}[${from + j}]`).join(' + ')};`);
  line(`LN_WIDE v = volt - ${offset}, before = ${v0} - ${offset}, i_before = ${i0};`);
  line(`int first = ${have} < 1;`);
  line(`${v0} = volt; ${i0} = i; ${have} = 1;`);
  line(`if (${lastCall} < 0) ${lastCall} = ${calls};`);
  line(`if (v < -${deadBand}) ${armed} = 1;`);
  line('if (first) return;');
  line(`if (${armed} > 0 && before < 0 && v >= 0) {`);
  line(`${armed} = 0; ${lastCall} = ${calls};`);
  line(`int running = ${since} >= 0 && ${idle} < 1;`);
  line(`if (running) ${done} += 1;`);
  line(`if (running && ${done} < ${params.cycles}) {`);
  add(period, 'before', 'i_before', 'v', 'i');
  line(`${since} += ${period};`);
  line('return;');
  line('}');
  line('LN_WIDE f = -before / (v - before), ic = i_before + f * (i - i_before);');
  line(`if (running) {`);
  addCut(`f * ${period}`, 'before', 'i_before');
  line(`${since} += f * ${period};`);
  finish(`${params.cycles}`);
  line('}');
  line(`${idle} = 0;`);
  line(`${sums.join(' = ')} = 0; ${since} = ${done} = 0;`);
  line('/* The offset may have just changed: the rest of this interval is measured from the new one. */');
  addCut(`(1 - f) * ${period}`, `volt - ${offset}`, 'i');
  line(`${since} += (1 - f) * ${period};`);
  line('return;');
  line('}');
  line(`if (${since} >= 0) {`);
  add(period, 'before', 'i_before', 'v', 'i');
  line(`${since} += ${period};`);
  line('}');
  line(`if (${calls} - ${lastCall} > ${none}) {`);
  line(`${lastCall} = ${calls};`);
  line(`if (${idle} > 0 && ${since} >= 0) {`);
  finish('0');
  line('}');
  line(`${offset} = 0; ${sums.join(' = ')} = 0; ${since} = ${done} = 0; ${idle} = 1;`);
  line('}');
}
