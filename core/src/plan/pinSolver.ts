import { pinWord } from '../words/index.ts';
export interface BoardPin {
  readonly name: string;
  /** What it can do: "analog", "digital", "interrupt", "pwm", "i2c-data", "i2c-clock", "spi", "serial". */
  readonly can: readonly string[];
  /** Why it is taken already, such as the console; null when free. */
  readonly reserved: string | null;
  /** Pins of one converter cannot be used together with the radio on some boards. */
  readonly conflictsWith?: string;
}

export interface PinNeed {
  readonly id: string;
  readonly title: string;
  readonly needs: string;
  /** Set by hand; kept, even when it is wrong. */
  readonly fixed?: string;
}

export interface WayOut {
  readonly title: string;
  readonly price: number;
}

export interface PinSolution {
  readonly assigned: readonly { readonly id: string; readonly pin: string; readonly byHand: boolean }[];
  readonly conflicts: readonly string[];
  /** Needs that no pin is left for. */
  readonly unmet: readonly string[];
  /** Cheapest first. */
  readonly waysOut: readonly WayOut[];
}

/**
 * Gives every need a pin that can do it. Pins set by hand are kept and judged; the others are placed by augmenting paths, so
 * that a solution is found whenever there is one. Pins with few talents are used first, to spare the rare ones.
 * @param inUse features that are on, such as "radio", for pins that conflict with them
 */
export function solvePins(
  pins: readonly BoardPin[],
  needs: readonly PinNeed[],
  inUse: readonly string[] = [],
  waysOut: readonly (WayOut & { readonly gives: string })[] = [],
): PinSolution {
  const conflicts: string[] = [];
  const taken = new Map<string, PinNeed>();
  for (const need of needs) {
    if (need.fixed === undefined) continue;
    const pin = pins.find((p) => p.name === need.fixed);
    const fault = faultOf(pin, need, inUse, taken.get(need.fixed));
    if (fault) conflicts.push(fault);
    if (pin && !taken.has(pin.name)) taken.set(pin.name, need);
  }
  const free = pins
    .filter(
      (p) =>
        !taken.has(p.name) && p.reserved === null && !(p.conflictsWith && inUse.includes(p.conflictsWith)),
    )
    .sort((a, b) => a.can.length - b.can.length);
  const holder = new Map<string, number>();
  const open = needs.filter((n) => n.fixed === undefined);
  const seat = (i: number, tried: Set<string>): boolean => {
    const idle = free.find((pin) => pin.can.includes(open[i]!.needs) && !holder.has(pin.name));
    if (idle) {
      holder.set(idle.name, i);
      return true;
    }
    for (const pin of free) {
      if (!pin.can.includes(open[i]!.needs) || tried.has(pin.name)) continue;
      tried.add(pin.name);
      const other = holder.get(pin.name);
      if (other === undefined || seat(other, tried)) {
        holder.set(pin.name, i);
        return true;
      }
    }
    return false;
  };
  const unmet = open.filter((_, i) => !seat(i, new Set()));
  const pinOf = new Map([...holder].map(([pin, i]) => [open[i]!.id, pin]));
  return {
    assigned: needs.flatMap((n) => {
      const pin = n.fixed ?? pinOf.get(n.id);
      return pin === undefined ? [] : [{ id: n.id, pin, byHand: n.fixed !== undefined }];
    }),
    conflicts,
    unmet: unmet.map((n) => `${n.title} needs a free pin (${pinWord(n.needs)}), but none is left.`),
    waysOut:
      unmet.length === 0
        ? []
        : waysOut
            .filter((w) => unmet.every((n) => n.needs === w.gives))
            .map(({ title, price }) => ({ title, price }))
            .sort((a, b) => a.price - b.price),
  };
}

function faultOf(
  pin: BoardPin | undefined,
  need: PinNeed,
  inUse: readonly string[],
  other: PinNeed | undefined,
): string | null {
  if (!pin) return `${need.title} was assigned to pin ${need.fixed}, which this board does not have.`;
  if (other) return `${pin.name} is used by both ${other.title} and ${need.title}. Move one of them.`;
  if (pin.reserved) return `${pin.name} is reserved for ${pin.reserved}. Move ${need.title}.`;
  if (!pin.can.includes(need.needs))
    return `${pin.name} does not support ${pinWord(need.needs)}, which ${need.title} needs; it supports ${pin.can.map(pinWord).join(', ')}.`;
  if (pin.conflictsWith && inUse.includes(pin.conflictsWith))
    return `${pin.name} does not work while the ${pin.conflictsWith} is on. Move ${need.title}.`;
  return null;
}
