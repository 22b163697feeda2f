import { Type } from 'typebox';
import { number, whole } from '../stage/params.ts';
import { REASON } from '../stage/contract.ts';
import { streamStage, type Emit } from '../stage/streamStage.ts';
import type { AcParams } from './acParams.ts';
import { emitAcPower } from './acPowerInC.ts';
import { currentShift } from './currentShift.ts';
import { everyCallSeen } from './everyCallInC.ts';

/** Rows further apart than so many periods have lost some between them, and with them the cycle. */
const LONGEST_STEP = 5;

/** Without a crossing for so long there is no alternating voltage. */
const TIMEOUT_S = 0.5;

/**
 * Voltage and current samples to RMS values over whole cycles. Cycles are cut at rising zero crossings of the voltage, found
 * between samples; squares and product are integrated by the trapezoid rule from crossing to crossing, so that broken cycles
 * never count. What is left of the bias is taken away over the cycles themselves. The current is shifted by the sensor's
 * delay (negative: the sensor leads) with the polynomial through six samples. While nothing crosses, what is left is measured each
 * half second, at 0 Hz and without a power factor. A current that is missing takes only what needs it away.
 * Gives V, A, real power W, apparent power VA, power factor, Hz and energy so far, Wh.
 * Source: definitions of IEC 60050-131; IEEE Std 1459-2010, 3.1.
 */
export const acPower = streamStage<AcParams>({
  kind: 'ac-power',
  title: 'AC power',
  summary:
    'Calculates RMS values, power, power factor and energy from voltage and current, over whole cycles',
  role: 'conversion',
  params: Type.Object({
    voltsPerUnit: number('Volts per input unit'),
    voltageBias: number('Voltage midpoint'),
    amperesPerUnit: number('Amperes per input unit'),
    currentBias: number('Current midpoint'),
    currentDelayUs: number('Current sensor lag', { min: -5000, max: 5000, unit: 'us' }),
    cycles: whole('Cycles per reading', { min: 1, max: 1000 }),
    deadBandV: number('Zero-crossing hysteresis', { min: 0, unit: 'V' }),
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
  takes: 'two columns (voltage and current)',
  gives: (_params, inputs) => (inputs.length === 2 ? ['V', 'A', 'W', 'VA', '1', 'Hz', 'Wh'] : null),
  names: () => ['voltage', 'current', 'real power', 'apparent power', 'power factor', 'frequency', 'energy'],
  start(params, { sampleRateHz }) {
    if (params.voltsPerUnit === 0 || params.amperesPerUnit === 0)
      throw new RangeError(
        'AC power: volts and amperes per input unit cannot be 0. Calibrate them with a reference meter.',
      );
    const { depth, at, from, weights } = currentShift(params.currentDelayUs, sampleRateHz);
    const meter = cycleMeter(params);
    // Newest sample last; the voltage is taken `ahead` samples late so that the shifted current is known by then.
    const m = {
      times: [] as number[],
      volts: [] as number[],
      amperes: [] as number[],
      meter: meter.memory,
    };
    return {
      memory: m,
      step(timeS, [v, i], reason, emit, reasons) {
        // Without its voltage there is no cycle; without its current only what needs the current is missing.
        const isLost = timeS - (m.times.at(-1) ?? timeS) > LONGEST_STEP / sampleRateHz;
        if (reasons[0] !== REASON.ok || isLost) {
          Object.assign(m, { times: [], volts: [], amperes: [] });
          meter.broken();
          if (reasons[0] !== REASON.ok) return emit(timeS, null, reason);
        }
        m.times.push(timeS);
        m.volts.push((v! - params.voltageBias) * params.voltsPerUnit);
        m.amperes.push((i! - params.currentBias) * params.amperesPerUnit);
        if (m.times.length > depth) {
          m.times.shift();
          m.volts.shift();
          m.amperes.shift();
        }
        if (m.times.length < depth) return;
        let current = 0;
        for (let j = 0; j < weights.length; j++) current += weights[j]! * m.amperes[from + j]!;
        meter.take(m.times[at]!, m.volts[at]!, current, emit);
      },
    };
  },
  comes: ({ cycles }) => `every ${cycles} whole cycles`,
  meansOfSteps: true,
  emitC(params, c, context) {
    everyCallSeen('AC power', c, context);
    emitAcPower(params, { ...context, timeoutS: TIMEOUT_S }, c);
  },
});

function cycleMeter({ cycles, deadBandV }: AcParams) {
  const m = {
    sums: new Float64Array(5),
    /** The voltage sample before, without the offset. */
    last: null as { t: number; v: number; i: number } | null,
    armed: false,
    started: Number.NaN,
    /** Measured between timeouts, while no wave crosses. */
    idle: false,
    done: 0,
    offset: 0,
    energyWh: 0,
    lastCrossing: Number.NaN,
  };

  function begin(t: number, idle: boolean): void {
    m.sums.fill(0);
    m.started = t;
    m.idle = idle;
    m.done = 0;
  }

  function add(t0: number, v0: number, i0: number, t1: number, v1: number, i1: number): void {
    const h = (t1 - t0) / 2;
    const { sums } = m;
    sums[0]! += h * (v0 + v1);
    sums[1]! += h * (i0 + i1);
    sums[2]! += h * (v0 * v0 + v1 * v1);
    sums[3]! += h * (i0 * i0 + i1 * i1);
    sums[4]! += h * (v0 * i0 + v1 * i1);
  }

  /**
   * The part of a step on one side of the crossing, where the voltage is 0 and the current ic. Squares and product bend there:
   * they go by straight lines, and by what the trapezoid rule lacks at an end, of Euler and Maclaurin's first term by the
   * slopes of the whole step. What is the same at both ends of whole cycles is left out of it.
   * @param h length of the part, s
   * @param v voltage at its other end, and i the current
   * @param dv change over the whole step, and di of the current
   */
  function addCut(h: number, v: number, i: number, ic: number, dv: number, di: number): void {
    const { sums } = m;
    sums[0]! += (h * v) / 2;
    sums[1]! += (h * (i + ic)) / 2;
    sums[2]! += (h * (2 * v * v + dv * dv)) / 6;
    sums[3]! += (h * (2 * (i * i + i * ic + ic * ic) + di * di)) / 6;
    sums[4]! += (h * (2 * v * i + v * ic + dv * di)) / 6;
  }

  /** @param crossed whole cycles that were measured; 0 when nothing alternates, which has no power factor */
  function finish(t: number, crossed: number, emit: Emit): void {
    const T = t - m.started;
    const [mv, mi, vv, ii, vi] = Array.from(m.sums, (s) => s / T) as [number, number, number, number, number];
    m.offset += mv;
    const vRms = Math.sqrt(Math.max(0, vv - mv * mv));
    const iRms = Math.sqrt(Math.max(0, ii - mi * mi));
    const real = vi - mv * mi;
    const apparent = vRms * iRms;
    const known = !Number.isNaN(real);
    if (known) m.energyWh += (real * T) / 3600;
    emit(t, [
      vRms,
      iRms,
      real,
      apparent,
      crossed > 0 && apparent > 0 ? real / apparent : Number.NaN,
      crossed / T,
      known ? m.energyWh : Number.NaN,
    ]);
  }

  return {
    memory: m,
    broken() {
      m.last = null;
      m.started = Number.NaN;
      m.armed = false;
    },
    take(t: number, volts: number, i: number, emit: Emit) {
      const v = volts - m.offset;
      const before = m.last;
      m.last = { t, v: volts, i };
      if (Number.isNaN(m.lastCrossing)) m.lastCrossing = t;
      if (v < -deadBandV) m.armed = true;
      if (!before) return;
      const v0 = before.v - m.offset;
      if (m.armed && v0 < 0 && v >= 0) {
        m.armed = false;
        m.lastCrossing = t;
        const running = !Number.isNaN(m.started) && !m.idle;
        if (running && ++m.done < cycles) {
          // A cut here would be one point by a straight line more, which makes the squares too small.
          add(before.t, v0, before.i, t, v, i);
          return;
        }
        const f = -v0 / (v - v0);
        const tc = before.t + f * (t - before.t);
        const ic = before.i + f * (i - before.i);
        const [dv, di] = [v - v0, i - before.i];
        if (running) {
          addCut(tc - before.t, v0, before.i, ic, dv, di);
          finish(tc, cycles, emit);
        }
        begin(tc, false);
        // The offset may just have moved: the rest of this interval is measured from the new one.
        addCut(t - tc, volts - m.offset, i, ic, dv, di);
        return;
      }
      if (!Number.isNaN(m.started)) add(before.t, v0, before.i, t, v, i);
      if (t - m.lastCrossing > TIMEOUT_S) {
        m.lastCrossing = t;
        // Nothing alternates. The first time parts of cycles are left over; from then on what is there is measured.
        if (m.idle && !Number.isNaN(m.started)) finish(t, 0, emit);
        else emit(t, null, REASON.waiting);
        m.offset = 0;
        begin(t, true);
      }
    },
  };
}
