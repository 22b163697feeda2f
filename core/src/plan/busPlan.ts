import { assignAddresses, busLoad, pullUpRange, type AddressPlan, type BusDevice } from './bus.ts';
import { rateOf } from './checks/rate.ts';
import { boardOf, type GadgetPlan } from './gadgetPlan.ts';
import { nearestInSeries } from './inputFilter.ts';
import { levelCrossing, sensorCrossing, type LevelCrossing } from './levels.ts';
import { wiredParts } from './pinNeeds.ts';

export interface BusPlan {
  /** Devices on the two-wire bus; empty when there is none. */
  readonly devices: readonly (BusDevice & { readonly id: string })[];
  readonly addresses: AddressPlan;
  readonly load: ReturnType<typeof busLoad>;
  readonly pullUp: ReturnType<typeof pullUpRange> & { readonly suggestedOhm: number | null };
  readonly crossings: readonly LevelCrossing[];
}

/** The two-wire bus and the voltage levels of a gadget, at the rate its brief asks for. */
export function busPlan(plan: GadgetPlan): BusPlan {
  const board = boardOf(plan);
  const wired = wiredParts(plan);
  const devices = wired
    .filter((w) => w.part.bus === 'I2C')
    .map((w) => {
      const sensing = plan.sensing.find((s) => w.id.startsWith(`${s.ask.id}.`));
      const bits = 'bitsPerReading' in w.part ? w.part.bitsPerReading : 8 * 40;
      const most = sensing?.part
        ? rateOf(sensing.part, board, sensing.converter, sensing.channels.length).rateHz
        : w.part.kind === 'display'
          ? 1 / Math.max(w.part.refreshS, 0.2)
          : 1;
      return {
        id: w.id,
        title: w.title,
        addresses: w.part.addresses,
        bitsPerReading: w.part.kind === 'display' ? 12 * w.part.columns * w.part.rows : bits,
        readingsPerS: Math.min(most, plan.gadget.sampleRateHz),
        volts: w.part.logicV,
      };
    });
  const { busClockHz, busCapacitanceF } = plan.hookup;
  const range = pullUpRange(board.logicV, busCapacitanceF, busClockHz);
  // The middle of the allowed range, on a logarithmic scale, as a value that can be bought.
  const middle = Math.sqrt(range.lowestOhm * range.highestOhm);
  return {
    devices,
    addresses: assignAddresses(devices),
    load: busLoad(devices, busClockHz),
    pullUp: { ...range, suggestedOhm: range.problem ? null : nearestInSeries('E12', middle) },
    crossings: [
      ...wired.flatMap((w) => levelCrossing(board, { ...w.part, title: w.title }) ?? []),
      ...plan.sensing.flatMap((s) => (s.part ? (sensorCrossing(s.part, board, s.converter) ?? []) : [])),
    ],
  };
}
