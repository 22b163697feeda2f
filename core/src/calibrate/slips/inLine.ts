import { compileLine } from '../../line/compile.ts';
import { readingAtRest } from '../../line/atRest.ts';
import type { LineEdit, LineSpec, StageSpec } from '../../model/line.ts';
import { printSignificant } from '../../units/index.ts';
import type { Slip, SlipObservation } from './slip.ts';

interface Variant {
  readonly id: string;
  readonly title: string;
  readonly test: string;
  readonly cost?: number;
  readonly edit: LineEdit;
}

/** Slips in the line itself: what it would read from the same raw numbers with another constant. */
export function slipsInLine(
  line: LineSpec,
  sampleRateHz: number,
  observations: readonly SlipObservation[],
): Slip[] {
  if (!observations.every((o) => o.raw !== undefined) || line.sources.length !== 1) return [];
  return line.stages
    .filter((stage) => !stage.off)
    .flatMap((stage) => variantsOf(stage))
    .flatMap(({ id, title, test, cost = 0, edit }) => {
      try {
        const compiled = compileLine(changed(line, edit), { sampleRateHz });
        return [
          { ids: [id], title, test, cost, edit, correct: (o) => readingAtRest(compiled, o.raw!) },
        ] satisfies Slip[];
      } catch (error) {
        if (error instanceof RangeError) return [];
        throw error;
      }
    });
}

const changed = (line: LineSpec, edit: LineEdit): LineSpec => ({
  ...line,
  stages: line.stages.map((s) =>
    s.id === edit.stageId ? { ...s, params: { ...s.params, ...edit.params } } : s,
  ),
});

/** Values that parts come in, without the one in the line. */
const others = (values: readonly number[], now: unknown): number[] =>
  values.filter((v) => Math.abs(v / Number(now) - 1) > 0.02);

/** Resistors of drawers and kits, ohm. */
const RESISTORS = [
  100, 220, 330, 470, 1000, 2200, 3300, 4700, 6800, 10_000, 22_000, 33_000, 47_000, 68_000, 100_000, 220_000,
  470_000, 1e6,
];

/** A constant of a stage as it may truly be. */
interface Other extends Omit<Variant, 'edit'> {
  readonly params: StageSpec['params'];
}

/** What constants are mistaken for, by stage. A new one is one line. */
const VARIANTS: Readonly<Record<string, (params: StageSpec['params']) => readonly Other[]>> = {
  divider: ({ side, seriesOhm }) => [
    {
      id: 'divider-side',
      title: 'The divider is the other way round',
      test: 'Warm the probe: an NTC to ground makes the counts fall.',
      params: { side: side === 'top' ? 'bottom' : 'top' },
    },
    ...others([Number(seriesOhm) * 10, Number(seriesOhm) / 10, ...RESISTORS], seriesOhm).map((ohm) => ({
      id: `series-${printSignificant(ohm / Number(seriesOhm), 3)}`,
      title: `The series resistor is ${printSignificant(ohm)} Ω, not ${printSignificant(Number(seriesOhm))} Ω`,
      test: 'Read its rings again, or measure it out of the circuit.',
      cost: isTenfold(ohm / Number(seriesOhm)) ? 0.1 : 0.4,
      params: { seriesOhm: ohm },
    })),
  ],
  'thermistor-beta': ({ r0Ohm, betaK }) => [
    ...others([1000, 2200, 5000, 10_000, 47_000, 50_000, 100_000], r0Ohm).map((ohm) => ({
      id: `bead-${ohm}`,
      title: `The bead has ${printSignificant(ohm / 1000)} kΩ at 25 °C, not ${printSignificant(Number(r0Ohm) / 1000)} kΩ`,
      test: 'Measure it out of the circuit at room temperature.',
      cost: 0.1,
      params: { r0Ohm: ohm },
    })),
    ...[3380, 3435, 3470, 3950, 3977, 4250]
      .filter((b) => Math.abs(b - Number(betaK)) > 60)
      .map((beta) => ({
        id: `beta-${beta}`,
        title: `The bead’s B is ${beta} K, not ${printSignificant(Number(betaK))} K`,
        test: 'Put it in hot water beside a thermometer: B shows far from 25 °C only.',
        cost: 0.5,
        params: { betaK: beta },
      })),
  ],
  'platinum-rtd': ({ r0Ohm }) =>
    others([100, 500, 1000], r0Ohm).map((ohm) => ({
      id: `platinum-${ohm}`,
      title: `The element has ${ohm} Ω at 0 °C, not ${printSignificant(Number(r0Ohm))} Ω`,
      test: 'Measure it out of the circuit: 108 or 1080 Ω at room temperature.',
      params: { r0Ohm: ohm },
    })),
  thermocouple: ({ type }) =>
    ['K', 'J', 'T', 'N', 'E']
      .filter((t) => t !== type)
      .map((t) => ({
        id: `thermocouple-${t}`,
        title: `The wire is of type ${t}, not ${String(type)}`,
        test: 'Put it in boiling water, and look at the colours of its sheath in your country’s table.',
        cost: 0.2,
        params: { type: t },
      })),
  adc: ({ bits, referenceV, gives, coding }) => [
    ...[8, 10, 12, 16, 24]
      .filter((b) => b !== bits)
      .map((b) => ({
        id: `bits-${b}`,
        title: `The converter has ${b} bits, not ${String(bits)}`,
        test: `Tie the input to the reference: it must count to ${2 ** b - 1}.`,
        cost: b === 24 ? 0.3 : 0,
        params: { bits: b },
      })),
    ...(gives === 'volt' ? others([1.024, 1.1, 1.25, 2.048, 2.5, 3, 3.3, 4.096, 5], referenceV) : []).map(
      (v) => ({
        id: `reference-${v}`,
        title: `The reference is ${v} V, not ${String(referenceV)} V`,
        test: 'Measure the reference pin with a meter.',
        cost: [5, 3.3].includes(v) ? 0 : 0.2,
        params: { referenceV: v },
      }),
    ),
    {
      id: coding === 'signed' ? 'coding-unsigned' : 'coding-signed',
      title:
        coding === 'signed' ? 'The codes have no sign' : 'The codes are signed: half of them lie below zero',
      test: 'Short the input: a signed converter reads about 0, another its middle.',
      cost: 0.4,
      params: { coding: coding === 'signed' ? 'unsigned' : 'signed' },
    },
  ],
  bridge: ({ gain, ratedMvPerV, capacityKg, fullScaleCode, range }) => [
    ...others([1, 2, 16, 32, 64, 128], gain).map((g) => ({
      id: `gain-${g}`,
      title: `The amplifier’s gain is ${g}, not ${String(gain)}`,
      test: 'Read the gain setting back from the amplifier, or follow its gain pin.',
      params: { gain: g },
    })),
    ...others([1, 1.5, 2, 3], ratedMvPerV).map((r) => ({
      id: `rated-${r}`,
      title: `The cell gives ${r} mV/V, not ${String(ratedMvPerV)} mV/V`,
      test: 'Read the rating on the cell’s label.',
      cost: 0.1,
      params: { ratedMvPerV: r },
    })),
    ...others([1, 2, 5, 10, 20, 40, 50, 100, 200, 300, 500], capacityKg).map((kg) => ({
      id: `capacity-${kg}`,
      title: `The cell is for ${kg} kg, not ${String(capacityKg)} kg`,
      test: 'Read the capacity on the cell’s label.',
      cost: 0.2,
      params: { capacityKg: kg },
    })),
    ...others([32_767, 8_388_607, 16_777_215], fullScaleCode).map((code) => ({
      id: `full-scale-${code}`,
      title: `The converter’s full scale is ${code}, not ${String(fullScaleCode)}`,
      test: 'Read the data sheet: how many bits, and whether one of them is the sign.',
      cost: 0.3,
      params: { fullScaleCode: code },
    })),
    ...others([0.5, 1], range).map((r) => ({
      id: `bridge-range-${r}`,
      title: `Full scale is ${r} of the excitation, not ${String(range)}`,
      test: 'Read the data sheet: full scale as plus and minus half of the reference, or all of it.',
      cost: 0.3,
      params: { range: r },
    })),
  ],
  'load-resistor': ({ loadOhm, supplyV }) => [
    ...others(RESISTORS, loadOhm).map((ohm) => ({
      id: `load-${ohm}`,
      title: `The load resistor is ${printSignificant(ohm)} Ω, not ${printSignificant(Number(loadOhm))} Ω`,
      test: 'Read its rings, or measure it with the element unplugged.',
      cost: isTenfold(ohm / Number(loadOhm)) ? 0.1 : 0.4,
      params: { loadOhm: ohm },
    })),
    ...others([3.3, 5], supplyV).map((v) => ({
      id: `supply-${v}`,
      title: `The divider stands at ${v} V, not ${String(supplyV)} V`,
      test: 'Measure across element and load together.',
      params: { supplyV: v },
    })),
  ],
  'time-of-flight': ({ path, from, airC }) => [
    {
      id: 'one-way',
      title: path === 'one way' ? 'The echo time counts there and back' : 'The time counts one way only',
      test: 'Put a board at 1 m: half or double tells which.',
      params: { path: path === 'one way' ? 'there and back' : 'one way' },
    },
    ...(['us', 'ms', 's'] as const)
      .filter((unit) => unit !== from)
      .map((unit) => ({
        id: `time-in-${unit}`,
        title: `The times come in ${unit}, not ${String(from)}`,
        test: 'Put a board at 1 m: the echo takes 5.8 ms.',
        cost: 0.2,
        params: { from: unit },
      })),
    ...[0, 40]
      .filter((c) => Math.abs(c - Number(airC)) > 15)
      .map((c) => ({
        id: `air-${c}`,
        title: `The air has about ${c} °C, not ${String(airC)} °C`,
        test: 'Put a thermometer beside it: sound changes by 0.2 % a degree.',
        cost: 1,
        params: { airC: c },
      })),
  ],
  'counts-to-length': ({ perMmX, perMmY }) => [
    ...[25.4, 1 / 25.4, 2, 0.5, 4, 0.25].map((f) => ({
      id: `per-mm-${printSignificant(f, 3)}`,
      title:
        f === 25.4 || f === 1 / 25.4
          ? `Counts per ${f > 1 ? 'millimetre' : 'inch'} taken as counts per ${f > 1 ? 'inch' : 'millimetre'}`
          : `${printSignificant(Number(perMmX) * f, 3)} counts a millimetre, not ${printSignificant(Number(perMmX), 3)}`,
      test: 'Drag it along a rule of 100 mm and read the sum of the counts.',
      cost: f === 25.4 || f === 1 / 25.4 ? 0 : 0.2,
      params: { perMmX: Number(perMmX) * f, perMmY: Number(perMmY) * f },
    })),
  ],
  'gate-rate': marked,
  'period-rate': (params) => [
    ...marked(params),
    ...(['us', 'ms', 's'] as const)
      .filter((unit) => unit !== params['from'])
      .map((unit) => ({
        id: `time-in-${unit}`,
        title: `The times come in ${unit}, not ${String(params['from'])}`,
        test: 'Turn it once a second by hand and read the raw time.',
        cost: 0.2,
        params: { from: unit },
      })),
  ],
  'power-law': ({ factor, exponent }): Other[] => [
    {
      id: 'exponent-sign',
      title: 'The exponent of the curve has the wrong sign',
      test: 'Bring more of it near: the reading must rise.',
      params: { exponent: -Number(exponent) },
    },
    {
      id: 'exponent-inverse',
      title: 'The slope of the curve is turned round: ratio over level taken for level over ratio',
      test: 'Take two points of the data sheet’s curve and work one of them out by hand.',
      cost: 0.2,
      params: { exponent: 1 / Number(exponent) },
    },
    {
      id: 'factor-inverse',
      title: 'The factor of the curve is one over what it should be',
      test: 'Take one point of the data sheet’s curve and work it out by hand.',
      cost: 0.4,
      params: { factor: 1 / Number(factor) },
    },
  ],
  'ratio-to-baseline': ({ factor }) => [
    {
      id: 'clean-air-factor',
      title: 'The data sheet’s ratio in clean air is not in it, or twice',
      test: 'Air the element for a while: it must show what clean air has.',
      cost: 0.3,
      params: { factor: Number(factor) === 1 ? 9.8 : 1 },
    },
  ],
  absorbance: ({ gives, fullScale }) => [
    {
      id: 'gives-other',
      title:
        gives === 'absorbance'
          ? 'The share that passes is meant, not the absorbance'
          : 'The absorbance is meant, not the share that passes',
      test: 'Put clear water in: absorbance is 0, the share 1.',
      cost: 0.2,
      params: { gives: gives === 'absorbance' ? 'transmittance' : 'absorbance' },
    },
    ...others([1023, 4095, 65_535], fullScale).map((code) => ({
      id: `light-codes-${code}`,
      title: `The sensor counts to ${code}, not ${String(fullScale)}`,
      test: 'Hold it into the sun: it stops at its last code.',
      cost: 0.6,
      params: { fullScale: code },
    })),
  ],
  concentration: ({ dilution }) =>
    others([1, 2, 5, 10, 20, 50, 100], dilution).map((d) => ({
      id: `dilution-${d}`,
      title: `The sample is diluted ${d} times, not ${String(dilution)} times`,
      test: 'Measure it once more, diluted twice as far: the result must stay.',
      cost: [1, 10].includes(d) ? 0 : 0.3,
      params: { dilution: d },
    })),
  'weight-force': () => [],
  'beat-rate': ({ to }) =>
    to === 'perMin'
      ? [
          {
            id: 'beats-a-second',
            title: 'Beats a second are meant, not a minute',
            test: 'Count ten by hand.',
            cost: 0.3,
            params: { to: 'Hz' },
          },
        ]
      : [],
};

function marked({ marks }: StageSpec['params']) {
  return others([1, 2, 3, 4, 5, 6, 7, 8, 10, 12, 16, 20, 24, 30, 32, 36, 48, 60], marks).map((m) => ({
    id: `marks-${m}`,
    title: `There are ${m} marks a turn, not ${String(marks)}`,
    test: 'Turn it once by hand and count the edges.',
    cost: m <= 8 ? 0 : 0.2,
    params: { marks: m },
  }));
}

const isTenfold = (ratio: number) => Math.abs(Math.abs(Math.log10(ratio)) - 1) < 1e-6;

const variantsOf = (stage: StageSpec): Variant[] =>
  (VARIANTS[stage.kind]?.(stage.params) ?? []).map(({ params, ...variant }) => ({
    ...variant,
    edit: { stageId: stage.id, params },
  }));
