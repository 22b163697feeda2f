import { crossingTime } from '../detect/index.ts';
import { mean, sampleSd } from '../numerics/index.ts';
import { CHEMISTRIES, slotState, type Chemistry, type SlotState } from './cells.ts';
import { CELL_WORDS } from '../words/index.ts';

export interface CellRecord {
  readonly timesS: ArrayLike<number>;
  readonly volts: ArrayLike<number>;
  /** Positive out of the cell. */
  readonly amperes: ArrayLike<number>;
}

export interface CellAnalysis {
  readonly state: SlotState;
  /** To the cut-off; null when discharge never reached it. */
  readonly capacityMah: number | null;
  readonly energyMwh: number | null;
  /** So far, whether or not the cut-off was reached. */
  readonly takenMah: number;
  /** From each step of the load, mean with standard uncertainty; null without a step. */
  readonly internalOhm: { readonly value: number; readonly u: number; readonly steps: number } | null;
  /** Mean power in the load and what the cell itself makes of it, W. */
  readonly loadHeatW: number;
  readonly cellHeatW: number | null;
  readonly verdict: 'good' | 'worn' | 'spent' | 'not shown';
  readonly sentence: string;
}

/**
 * Capacity and energy to the cut-off (trapezoid rule, the end between samples), internal resistance from load steps,
 * heat, and a verdict on the rated capacity: good from 80 %, worn from 60 %.
 * @param record readings of a discharge with the rest before it
 */
export function analyseCell(record: CellRecord, chemistry: Chemistry, ratedMah: number): CellAnalysis {
  const n = record.timesS.length;
  if (record.volts.length !== n || record.amperes.length !== n)
    throw new RangeError(
      `The numbers of times, voltages and currents must be equal; received ${n} times, ${record.volts.length} voltages, ${record.amperes.length} currents.`,
    );
  if (n < 2) throw new RangeError(`A cell test needs at least 2 readings; received ${n}.`);
  if (!(ratedMah > 0)) throw new RangeError(`Enter a rated capacity above 0 mAh; received ${ratedMah}.`);
  const state = slotState(record.volts[0]!, chemistry);
  const { cutOff } = CHEMISTRIES[chemistry];
  const sums = integrate(record, cutOff);
  const internalOhm = resistance(record);
  const heat = meanWhileLoaded(record, (v, i) => v * i);
  const own = internalOhm && meanWhileLoaded(record, (_v, i) => i * i * internalOhm.value);
  const share = sums.reached ? sums.mah / ratedMah : null;
  const verdict =
    state !== 'ready' || share === null
      ? 'not shown'
      : share >= 0.8
        ? 'good'
        : share >= 0.6
          ? 'worn'
          : 'spent';
  return {
    state,
    capacityMah: sums.reached ? sums.mah : null,
    energyMwh: sums.reached ? sums.mwh : null,
    takenMah: sums.mah,
    internalOhm,
    loadHeatW: heat,
    cellHeatW: own,
    verdict,
    sentence:
      state !== 'ready'
        ? `The slot is not ready: ${CELL_WORDS[state]}.`
        : share === null
          ? `The cutoff of ${cutOff} V was not reached; ${sums.mah.toFixed(0)} mAh delivered so far.`
          : `${sums.mah.toFixed(0)} mAh down to ${cutOff} V, ${(100 * share).toFixed(0)} % of the rated ${ratedMah} mAh: ${CELL_WORDS[verdict]}.`,
  };
}

function integrate({ timesS: t, volts: v, amperes: i }: CellRecord, cutOff: number) {
  let coulomb = 0;
  let joule = 0;
  for (let k = 1; k < t.length; k++) {
    const loaded = i[k]! > 0 && i[k - 1]! > 0;
    let end = t[k]!;
    let share = 1;
    const under = loaded && v[k]! < cutOff;
    if (under) {
      end = v[k - 1]! >= cutOff ? crossingTime(t[k - 1]!, v[k - 1]!, t[k]!, v[k]!, cutOff) : t[k - 1]!;
      share = (end - t[k - 1]!) / (t[k]! - t[k - 1]!);
    }
    const h = end - t[k - 1]!;
    const i1 = i[k - 1]! + share * (i[k]! - i[k - 1]!);
    const v1 = v[k - 1]! + share * (v[k]! - v[k - 1]!);
    // Current that flows in does not count as capacity taken out.
    coulomb += (h * (Math.max(0, i[k - 1]!) + Math.max(0, i1))) / 2;
    joule += (h * (Math.max(0, i[k - 1]!) * v[k - 1]! + Math.max(0, i1) * v1)) / 2;
    if (under) return { mah: coulomb / 3.6, mwh: joule / 3.6, reached: true };
  }
  return { mah: coulomb / 3.6, mwh: joule / 3.6, reached: false };
}

/** Volts over amperes at each step of the current of more than a tenth of the largest. */
function resistance({ volts: v, amperes: i }: CellRecord): CellAnalysis['internalOhm'] {
  let largest = 0;
  for (let k = 0; k < i.length; k++) largest = Math.max(largest, Math.abs(i[k]!));
  const found: number[] = [];
  for (let k = 1; k < i.length; k++) {
    const di = i[k]! - i[k - 1]!;
    if (largest > 0 && Math.abs(di) > 0.1 * largest) found.push(-(v[k]! - v[k - 1]!) / di);
  }
  if (found.length === 0) return null;
  return {
    value: mean(found),
    u: found.length > 1 ? sampleSd(found) / Math.sqrt(found.length) : Number.NaN,
    steps: found.length,
  };
}

function meanWhileLoaded(
  { volts: v, amperes: i }: CellRecord,
  power: (v: number, i: number) => number,
): number {
  let sum = 0;
  let count = 0;
  for (let k = 0; k < i.length; k++) {
    if (!(i[k]! > 0)) continue;
    sum += power(v[k]!, i[k]!);
    count++;
  }
  return count > 0 ? sum / count : 0;
}
