import { printNominal } from '../units/index.ts';

export interface BusDevice {
  readonly title: string;
  /** Addresses it can be set to, the present one first. */
  readonly addresses: readonly number[];
  /** Bits on the wire for one reading, addressing counted in, and readings a second. */
  readonly bitsPerReading: number;
  readonly readingsPerS: number;
  readonly volts: number;
}

export interface AddressPlan {
  readonly addresses: readonly {
    readonly title: string;
    readonly address: number;
    readonly changed: boolean;
  }[];
  /** Devices that no free address is left for. */
  readonly clashes: readonly string[];
}

/** Gives every device an address of its own, keeping present ones where that works: augmenting paths over what each can take. */
export function assignAddresses(devices: readonly BusDevice[]): AddressPlan {
  const holder = new Map<number, number>();
  const seat = (i: number, tried: Set<number>): boolean => {
    for (const address of devices[i]!.addresses) {
      if (tried.has(address)) continue;
      tried.add(address);
      const other = holder.get(address);
      if (other === undefined || seat(other, tried)) {
        holder.set(address, i);
        return true;
      }
    }
    return false;
  };
  const left = devices.filter((_, i) => !seat(i, new Set()));
  const addressOf = new Map([...holder].map(([address, i]) => [i, address]));
  return {
    addresses: devices.flatMap((d, i) => {
      const address = addressOf.get(i);
      return address === undefined ? [] : [{ title: d.title, address, changed: address !== d.addresses[0] }];
    }),
    clashes: left.map(
      (d) =>
        `${d.title} has no free address (possible: ${d.addresses.map((v) => `0x${v.toString(16)}`).join(', ')}). Put it on a second bus or behind an I2C multiplexer.`,
    ),
  };
}

/** Share of the bus's time that is taken: bits a reading x readings a second / clock; 60 % is the most that is wise. */
export function busLoad(devices: readonly BusDevice[], clockHz: number) {
  if (!(clockHz > 0)) throw new RangeError(`The bus clock must be above 0 Hz; received ${clockHz}.`);
  const bits = devices.reduce((s, d) => s + d.bitsPerReading * d.readingsPerS, 0);
  const load = bits / clockHz;
  return {
    load,
    state: load <= 0.6 ? ('pass' as const) : ('fail' as const),
    sentence: `${printNominal(100 * load, 2)} % of the bus at ${printNominal(clockHz / 1000)} kHz; at most 60 % is recommended.`,
  };
}

/**
 * Range of the pull-up resistors: at least (V - 0.4 V) / 3 mA, so that a device can pull the line down; at most
 * rise time / (0.8473 C), so that it comes up in time.
 * Source: I2C-bus specification and user manual, UM10204, 7.1.
 */
export function pullUpRange(volts: number, capacitanceF: number, clockHz: number) {
  if (!(volts > 0.4) || !(capacitanceF > 0))
    throw new RangeError(
      `Pull-ups need a supply above 0.4 V and a capacitance above 0; received ${volts} V and ${capacitanceF} F.`,
    );
  const riseS = clockHz <= 100e3 ? 1000e-9 : clockHz <= 400e3 ? 300e-9 : 120e-9;
  const lowestOhm = (volts - 0.4) / 3e-3;
  const highestOhm = riseS / (0.8473 * capacitanceF);
  return {
    lowestOhm,
    highestOhm,
    problem:
      lowestOhm > highestOhm
        ? `At ${printNominal(capacitanceF * 1e12)} pF, no pull-up value works at ${printNominal(clockHz / 1000)} kHz. Shorten the wires or lower the bus clock.`
        : null,
  };
}
