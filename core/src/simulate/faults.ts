import { seededRandom } from '../numerics/index.ts';
import type { World } from './world.ts';

/** Something wrong with a gadget, for practice. Columns are named; rates and shares are those of the handbook's trainer. */
export type Fault =
  | { readonly kind: 'wrong-constant'; readonly column: string; readonly factor: number }
  | { readonly kind: 'swapped-divider'; readonly column: string; readonly fullScale: number }
  | { readonly kind: 'slow-converter'; readonly rateHz: number }
  | { readonly kind: 'loose-magnet'; readonly column: string; readonly share: number }
  | {
      readonly kind: 'warm-up-skipped';
      readonly column: string;
      readonly excess: number;
      readonly settlesS: number;
    }
  | { readonly kind: 'clipping'; readonly column: string; readonly low: number; readonly high: number }
  | { readonly kind: 'stuck'; readonly column: string; readonly afterS: number }
  | { readonly kind: 'drop-outs'; readonly share: number };

/**
 * A world seen through faults. A reading that a drop-out swallowed is null.
 * @throws {RangeError} for a fault in a column that the world does not have
 */
export function withFaults(
  world: World,
  faults: readonly Fault[],
  seed: number,
): Omit<World, 'step'> & { step(dtS: number): number[] | null } {
  const random = seededRandom(seed);
  const alters = faults.map((fault) => {
    if ('column' in fault && !world.columns.includes(fault.column))
      throw new RangeError(`Unknown column “${fault.column}”. Choose ${world.columns.join(', ')}.`);
    return alter(fault, world.columns, random);
  });
  return {
    columns: world.columns,
    conditions: world.conditions,
    get condition() {
      return world.condition;
    },
    setCondition: (id) => world.setCondition(id),
    instruments: () => world.instruments(),
    step(dtS) {
      let values: number[] | null = world.step(dtS);
      for (const change of alters) values = values && change(values, dtS);
      return values;
    },
  };
}

type Alter = (values: number[], dtS: number) => number[] | null;

function alter(fault: Fault, columns: readonly string[], random: { uniform(): number }): Alter {
  const at = 'column' in fault ? columns.indexOf(fault.column) : -1;
  const one =
    (change: (v: number, dtS: number) => number): Alter =>
    (values, dtS) =>
      values.map((v, k) => (k === at ? change(v, dtS) : v));
  let onS = 0;
  switch (fault.kind) {
    case 'wrong-constant':
      return one((v) => Math.round(v * fault.factor));
    case 'swapped-divider':
      return one((v) => fault.fullScale - v);
    case 'clipping':
      return one((v) => Math.min(fault.high, Math.max(fault.low, v)));
    case 'warm-up-skipped':
      return one((v, dtS) => {
        onS += dtS;
        return Math.round(v * (1 + fault.excess * Math.exp(-onS / fault.settlesS)));
      });
    case 'stuck': {
      let held: number | null = null;
      return one((v, dtS) => {
        onS += dtS;
        if (onS < fault.afterS) return v;
        return (held ??= v);
      });
    }
    case 'loose-magnet': {
      // A running count that misses a share of its edges.
      let seen: number | null = null;
      let shown = 0;
      return one((v) => {
        const fresh = v - (seen ?? v);
        seen = v;
        for (let k = 0; k < fresh; k++) if (random.uniform() >= fault.share) shown++;
        return shown;
      });
    }
    case 'slow-converter': {
      // Holds its last result until the next is ready, whatever happens meanwhile.
      let held: number[] | null = null;
      let ageS = Infinity;
      return (values, dtS) => {
        ageS += dtS;
        if (ageS >= 1 / fault.rateHz - 1e-9) {
          held = values;
          ageS = 0;
        }
        return held;
      };
    }
    case 'drop-outs':
      return (values) => (random.uniform() < fault.share ? null : values);
  }
}
