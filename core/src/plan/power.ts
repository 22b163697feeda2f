import type { SupplyPart } from '../model/part.ts';
import { printNominal } from '../units/index.ts';

export interface PowerLoad {
  readonly title: string;
  /** Rail it hangs on. */
  readonly rail: string;
  /** Amperes while on, in peaks, and in warm-up. */
  readonly onA: number;
  readonly peakA: number;
  readonly warmUpA: number;
  /** Share of the time that it is on, 0 to 1, and amperes otherwise. */
  readonly duty: number;
  readonly sleepA: number;
}

export type Regulator =
  /** Straight from the supply. */
  | { readonly kind: 'none' }
  /** Burns the difference: current in equals current out. */
  | { readonly kind: 'linear'; readonly dropoutV: number; readonly ownA: number }
  /** Steps up or down. */
  | { readonly kind: 'switching'; readonly efficiency: number; readonly ownA: number };

export interface Rail {
  readonly id: string;
  readonly volts: number;
  readonly limitA: number;
  readonly regulator: Regulator;
}

/** What feeds the gadget: a supply part of the shelf, as far as the arithmetic goes. */
export type Supply = Pick<
  SupplyPart,
  'title' | 'volts' | 'limitA' | 'capacityAh' | 'usable' | 'ratedA' | 'peukert'
>;

export interface RailBudget {
  readonly rail: Rail;
  readonly averageA: number;
  readonly peakA: number;
  readonly warmUpA: number;
  /** Amperes from the supply. */
  readonly supplyAverageA: number;
  readonly supplyPeakA: number;
  /** Heat in the regulator, W, on average and at the peak. */
  readonly heatW: number;
  readonly peakHeatW: number;
  readonly problems: readonly string[];
}

export interface PowerBudget {
  readonly rails: readonly RailBudget[];
  readonly averageA: number;
  readonly peakA: number;
  readonly averageW: number;
  /** Null on a wall supply. */
  readonly runtimeH: number | null;
  readonly problems: readonly string[];
  readonly arithmetic: readonly string[];
}

const a = (v: number) => (v < 0.1 ? `${printNominal(v * 1000)} mA` : `${printNominal(v)} A`);

/**
 * Current of every rail and of the supply; battery runtime = capacity x usable x derating / current, the derating by
 * Peukert's law at the average current: (rated / average)^(exponent - 1), never above 1.
 * @throws {RangeError} for a load on a rail that is not there, a negative current or a duty outside 0 to 1
 */
export function powerBudget(
  loads: readonly PowerLoad[],
  rails: readonly Rail[],
  supply: Supply,
): PowerBudget {
  for (const load of loads) {
    if (!rails.some((r) => r.id === load.rail))
      throw new RangeError(
        `${load.title} is on rail "${load.rail}", which does not exist. Choose one of ${rails.map((r) => r.id).join(', ')}.`,
      );
    if (!(load.duty >= 0 && load.duty <= 1))
      throw new RangeError(`${load.title}: the duty cycle must be between 0 and 1; received ${load.duty}.`);
    if (!(load.onA >= 0 && load.peakA >= 0 && load.sleepA >= 0 && load.warmUpA >= 0))
      throw new RangeError(`${load.title}: currents must be 0 or more.`);
  }
  const budgets = rails.map((rail) =>
    railBudget(
      rail,
      loads.filter((l) => l.rail === rail.id),
      supply,
    ),
  );
  const sum = (f: (b: RailBudget) => number) => budgets.reduce((s, b) => s + f(b), 0);
  const averageA = sum((b) => b.supplyAverageA);
  const peakA = sum((b) => b.supplyPeakA);
  const problems = budgets.flatMap((b) => b.problems);
  if (peakA > supply.limitA)
    problems.push(
      `${supply.title} supplies up to ${a(supply.limitA)}; the peak is ${a(peakA)}. Switch loads on one after another, or use a stronger supply.`,
    );
  // A wall supply has no capacity.
  const battery = supply.capacityAh > 0 && averageA > 0;
  const derating = battery ? Math.min(1, (supply.ratedA / averageA) ** (supply.peukert - 1)) : 1;
  const runtimeH = battery ? (supply.capacityAh * supply.usable * derating) / averageA : null;
  return {
    rails: budgets,
    averageA,
    peakA,
    averageW: averageA * supply.volts,
    runtimeH,
    problems,
    arithmetic: [
      ...budgets.map(
        (b) =>
          `${b.rail.id}: ${a(b.averageA)} on average, ${a(b.peakA)} at the peak; ${a(b.supplyAverageA)} from the supply.`,
      ),
      ...(runtimeH !== null
        ? [
            `${printNominal(supply.capacityAh)} Ah × ${printNominal(supply.usable * 100)} % usable × ${printNominal(derating)} derating for the load / ${a(averageA)} = ${printNominal(runtimeH)} h.`,
          ]
        : []),
    ],
  };
}

function railBudget(rail: Rail, loads: readonly PowerLoad[], supply: Supply): RailBudget {
  const averageA = loads.reduce((s, l) => s + l.duty * l.onA + (1 - l.duty) * l.sleepA, 0);
  const peakA = loads.reduce((s, l) => s + Math.max(l.onA, l.peakA), 0);
  const warmUpA = loads.reduce((s, l) => s + Math.max(l.onA, l.warmUpA), 0);
  const worst = Math.max(peakA, warmUpA);
  const problems: string[] = [];
  if (worst > rail.limitA)
    problems.push(
      `Rail ${rail.id} supplies up to ${a(rail.limitA)}; ${a(worst)} is drawn. Move a load to another rail, or use a stronger regulator.`,
    );
  const [supplyAverageA, heatW] = fromSupply(rail, averageA, supply.volts);
  const [supplyPeakA, peakHeatW] = fromSupply(rail, worst, supply.volts);
  const { regulator } = rail;
  if (regulator.kind === 'linear' && supply.volts < rail.volts + regulator.dropoutV)
    problems.push(
      `A linear regulator needs ${printNominal(rail.volts + regulator.dropoutV)} V at its input to give ${rail.volts} V; the supply has ${supply.volts} V.`,
    );
  if (regulator.kind === 'none' && Math.abs(supply.volts - rail.volts) > 0.05 * rail.volts)
    problems.push(
      `Rail ${rail.id} needs ${rail.volts} V but is connected directly to ${supply.volts} V. Put a regulator in between.`,
    );
  // A small package without a heatsink gets some 60 K warmer for each watt.
  if (peakHeatW > 1)
    problems.push(
      `The regulator of ${rail.id} must dissipate ${printNominal(peakHeatW, 2)} W: too hot without a heatsink. Use a switching regulator.`,
    );
  return { rail, averageA, peakA, warmUpA, supplyAverageA, supplyPeakA, heatW, peakHeatW, problems };
}

/** Amperes from the supply and heat in the regulator for a current out. */
function fromSupply({ volts, regulator }: Rail, out: number, supplyV: number): [number, number] {
  if (regulator.kind === 'none') return [out, 0];
  if (regulator.kind === 'linear')
    return [out + regulator.ownA, Math.max(0, supplyV - volts) * out + supplyV * regulator.ownA];
  const input = (out * volts) / regulator.efficiency + regulator.ownA * supplyV;
  return [input / supplyV, input - out * volts];
}

/** Runtime against the share of time that the loads are on: the curve behind "what if it slept more?". */
export function runtimeByDuty(
  loads: readonly PowerLoad[],
  rails: readonly Rail[],
  supply: Supply,
  duties: readonly number[],
) {
  return duties.map((duty) => ({
    duty,
    runtimeH: powerBudget(
      loads.map((l) => ({ ...l, duty })),
      rails,
      supply,
    ).runtimeH,
  }));
}

/** Usual currents of kinds of part, A: what a figure is held against for plausibility. */
export const CURRENT_BANDS = {
  'heated gas sensor': [0.03, 0.2],
  'thermistor divider': [5e-5, 1e-3],
  'digital sensor': [1e-5, 5e-3],
  'bridge amplifier': [5e-4, 5e-3],
  'ultrasonic ranger': [2e-3, 3e-2],
  'satellite receiver': [0.02, 0.08],
  'small board': [0.01, 0.06],
  'radio board': [0.05, 0.3],
  'character display': [1e-3, 0.03],
  'colour display': [0.02, 0.15],
  sounder: [5e-3, 0.05],
} as const;

/** A question when a current lies a hundredfold or more outside the band of its kind; null otherwise. */
export function currentPlausibility(kind: keyof typeof CURRENT_BANDS, amperes: number): string | null {
  const [low, high] = CURRENT_BANDS[kind];
  if (!(amperes > 0) || (amperes > low / 100 && amperes < high * 100)) return null;
  return `${a(amperes)} for this ${kind}? Typical is ${a(low)} to ${a(high)}. Is it mA or A?`;
}

export interface SwitchOnStep {
  readonly atS: number;
  readonly title: string;
}

/**
 * Order of switching on: what warms up longest first, so that all are ready together as early as can be; loads that would
 * break the supply's limit together wait for the ones before.
 */
export function switchOnOrder(
  loads: readonly (PowerLoad & { readonly warmUpS: number })[],
  limitA: number,
): { readonly steps: SwitchOnStep[]; readonly readyS: number; readonly problem: string | null } {
  const order = [...loads].sort((x, y) => y.warmUpS - x.warmUpS);
  const steps: SwitchOnStep[] = [];
  const on: { load: (typeof order)[number]; atS: number }[] = [];
  let atS = 0;
  for (const load of order) {
    const draw = (t: number) =>
      on.reduce(
        (s, o) => s + (t < o.atS + o.load.warmUpS ? Math.max(o.load.onA, o.load.warmUpA) : o.load.onA),
        0,
      );
    const wants = Math.max(load.onA, load.warmUpA);
    const times = [atS, ...on.map((o) => o.atS + o.load.warmUpS)]
      .filter((t) => t >= atS)
      .sort((p, q) => p - q);
    const free = times.find((t) => draw(t) + wants <= limitA + 1e-12);
    if (free === undefined)
      return {
        steps,
        readyS: Number.NaN,
        problem: `${load.title} needs ${a(wants)}, more than the supply has left next to the other loads.`,
      };
    atS = free;
    on.push({ load, atS });
    steps.push({ atS, title: load.title });
  }
  return { steps, readyS: Math.max(0, ...on.map((o) => o.atS + o.load.warmUpS)), problem: null };
}
