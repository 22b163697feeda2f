import { Type } from 'typebox';
import { number, whole } from '../line/params.ts';
import { REASON } from '../line/stage.ts';
import { streamStage, type Emit } from '../line/streamStage.ts';
import { emitAcPower } from './acPowerInC.ts';
import { currentShift } from './currentShift.ts';
import { everyCallSeen } from './everyCallInC.ts';

export interface AcParams {
  voltsPerUnit: number;
  voltageBias: number;
  amperesPerUnit: number;
  currentBias: number;
  currentDelayUs: number;
  cycles: number;
  deadBandV: number;
  [name: string]: number;
}

/** Without a crossing for so long there is no alternating voltage. */
const TIMEOUT_S = 0.5;

/**
 * Voltage and current samples to RMS values over whole cycles. Cycles are cut at rising zero crossings of the voltage, found
 * between samples; squares and product are integrated by the trapezoid rule from crossing to crossing, so that broken cycles
 * never count. What is left of the bias is taken away over the cycles themselves. The current is shifted by the sensor's
 * delay (negative: the sensor leads) with a cubic through four samples.
 * Gives V, A, real power W, apparent power VA, power factor, Hz and energy so far, Wh.
 * Source: definitions of IEC 60050-131; IEEE Std 1459-2010, 3.1.
 */
export const acPower = streamStage<AcParams>({
  kind: 'ac-power',
  title: 'AC power',
  summary: 'Voltage and current to RMS, power, power factor and energy over whole cycles',
  role: 'conversion',
  params: Type.Object({
    voltsPerUnit: number('Volts per unit in'),
    voltageBias: number('Voltage channel at rest'),
    amperesPerUnit: number('Amperes per unit in'),
    currentBias: number('Current channel at rest'),
    currentDelayUs: number('Current sensor lags by', { min: -5000, max: 5000, unit: 'us' }),
    cycles: whole('Cycles a result', { min: 1, max: 1000 }),
    deadBandV: number('Crossings must come from below minus', { min: 0, unit: 'V' }),
  }),
  defaults: {
    voltsPerUnit: 1,
    voltageBias: 0,
    amperesPerUnit: 1,
    currentBias: 0,
    currentDelayUs: 0,
    cycles: 10,
    deadBandV: 1,
  },
  takes: 'two columns, voltage and current',
  gives: (_params, inputs) => (inputs.length === 2 ? ['V', 'A', 'W', 'VA', '1', 'Hz', 'Wh'] : null),
  names: () => ['voltage', 'current', 'real power', 'apparent power', 'power factor', 'frequency', 'energy'],
  start(params, { sampleRateHz }) {
    if (params.voltsPerUnit === 0 || params.amperesPerUnit === 0)
      throw new RangeError(
        'AC power: volts and amperes per unit must not be 0; nothing would be measured. Set them from a reference meter.',
      );
    const { depth, at, from, weights } = currentShift(params.currentDelayUs, sampleRateHz);
    // Newest sample last; the voltage is taken `ahead` samples late so that the shifted current is known by then.
    let times: number[] = [];
    let volts: number[] = [];
    let amperes: number[] = [];
    const meter = cycleMeter(params);
    return (timeS, [v, i], reason, emit) => {
      if (reason !== REASON.ok) {
        times = [];
        volts = [];
        amperes = [];
        meter.broken();
        return emit(timeS, null, reason);
      }
      times.push(timeS);
      volts.push((v! - params.voltageBias) * params.voltsPerUnit);
      amperes.push((i! - params.currentBias) * params.amperesPerUnit);
      if (times.length > depth) {
        times.shift();
        volts.shift();
        amperes.shift();
      }
      if (times.length < depth) return;
      const current = weights.reduce((sum, w, j) => sum + w * amperes[from + j]!, 0);
      meter.take(times[at]!, volts[at]!, current, emit);
    };
  },
  emitC(params, c, context) {
    everyCallSeen('AC power', c, context);
    emitAcPower(params, { ...context, timeoutS: TIMEOUT_S }, c);
  },
});

function cycleMeter({ cycles, deadBandV }: AcParams) {
  const sums = new Float64Array(5);
  let last: { t: number; v: number; i: number } | null = null;
  let armed = false;
  let started = Number.NaN;
  let done = 0;
  let offset = 0;
  let energyWh = 0;
  let lastCrossing = Number.NaN;

  function add(t0: number, v0: number, i0: number, t1: number, v1: number, i1: number): void {
    const h = (t1 - t0) / 2;
    sums[0]! += h * (v0 + v1);
    sums[1]! += h * (i0 + i1);
    sums[2]! += h * (v0 * v0 + v1 * v1);
    sums[3]! += h * (i0 * i0 + i1 * i1);
    sums[4]! += h * (v0 * i0 + v1 * i1);
  }

  function finish(t: number, emit: Emit): void {
    const T = t - started;
    const [mv, mi, vv, ii, vi] = Array.from(sums, (s) => s / T) as [number, number, number, number, number];
    offset += mv;
    const vRms = Math.sqrt(Math.max(0, vv - mv * mv));
    const iRms = Math.sqrt(Math.max(0, ii - mi * mi));
    const real = vi - mv * mi;
    const apparent = vRms * iRms;
    energyWh += (real * T) / 3600;
    emit(t, [vRms, iRms, real, apparent, apparent > 0 ? real / apparent : Number.NaN, cycles / T, energyWh]);
  }

  return {
    broken() {
      last = null;
      started = Number.NaN;
      armed = false;
    },
    take(t: number, volts: number, i: number, emit: Emit) {
      const v = volts - offset;
      const before = last;
      last = { t, v: volts, i };
      if (Number.isNaN(lastCrossing)) lastCrossing = t;
      if (v < -deadBandV) armed = true;
      if (!before) return;
      const v0 = before.v - offset;
      if (armed && v0 < 0 && v >= 0) {
        armed = false;
        const f = -v0 / (v - v0);
        const tc = before.t + f * (t - before.t);
        const ic = before.i + f * (i - before.i);
        lastCrossing = t;
        if (!Number.isNaN(started)) {
          add(before.t, v0, before.i, tc, 0, ic);
          done++;
        }
        if (Number.isNaN(started) || done === cycles) {
          if (done === cycles) finish(tc, emit);
          sums.fill(0);
          started = tc;
          done = 0;
        }
        // The offset may just have moved: the rest of this interval is measured from the new one.
        add(tc, 0, ic, t, volts - offset, i);
        return;
      }
      if (!Number.isNaN(started)) add(before.t, v0, before.i, t, v, i);
      if (t - lastCrossing > TIMEOUT_S) {
        lastCrossing = t;
        started = Number.NaN;
        offset = 0;
        emit(t, null, REASON.waiting);
      }
    },
  };
}
