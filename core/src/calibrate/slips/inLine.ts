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
      title: 'The divider is upside down',
      test: 'Warm the probe: with the NTC connected to ground, the raw counts fall.',
      params: { side: side === 'top' ? 'bottom' : 'top' },
    },
    ...others([Number(seriesOhm) * 10, Number(seriesOhm) / 10, ...RESISTORS], seriesOhm).map((ohm) => ({
      id: `series-${printSignificant(ohm / Number(seriesOhm), 3)}`,
      title: `The series resistor is ${printSignificant(ohm)} Ω, not ${printSignificant(Number(seriesOhm))} Ω`,
      test: 'Check its colour bands again, or measure it out of circuit.',
      cost: isTenfold(ohm / Number(seriesOhm)) ? 0.1 : 0.4,
      params: { seriesOhm: ohm },
    })),
  ],
  'thermistor-beta': ({ r0Ohm, betaK }) => [
    ...others([1000, 2200, 5000, 10_000, 47_000, 50_000, 100_000], r0Ohm).map((ohm) => ({
      id: `bead-${ohm}`,
      title: `The thermistor has ${printSignificant(ohm / 1000)} kΩ at 25 °C, not ${printSignificant(Number(r0Ohm) / 1000)} kΩ`,
      test: 'Measure it out of circuit at room temperature.',
      cost: 0.1,
      params: { r0Ohm: ohm },
    })),
    ...[3380, 3435, 3470, 3950, 3977, 4250]
      .filter((b) => Math.abs(b - Number(betaK)) > 60)
      .map((beta) => ({
        id: `beta-${beta}`,
        title: `The thermistor’s beta is ${beta} K, not ${printSignificant(Number(betaK))} K`,
        test: 'Put it in hot water with a thermometer: beta matters only far from 25 °C.',
        cost: 0.5,
        params: { betaK: beta },
      })),
  ],
  'platinum-rtd': ({ r0Ohm }) =>
    others([100, 500, 1000], r0Ohm).map((ohm) => ({
      id: `platinum-${ohm}`,
      title: `The RTD has ${ohm} Ω at 0 °C, not ${printSignificant(Number(r0Ohm))} Ω`,
      test: 'Measure it out of circuit: at room temperature a Pt100 has 108 Ω, a Pt500 540 Ω, a Pt1000 1080 Ω.',
      params: { r0Ohm: ohm },
    })),
  thermocouple: ({ type }) =>
    ['K', 'J', 'T', 'N', 'E']
      .filter((t) => t !== type)
      .map((t) => ({
        id: `thermocouple-${t}`,
        title: `The thermocouple is type ${t}, not ${String(type)}`,
        test: 'Put it in boiling water, and check its colour code for your country.',
        cost: 0.2,
        params: { type: t },
      })),
  adc: ({ bits, referenceV, gives, coding }) => [
    ...[8, 10, 12, 16, 24]
      .filter((b) => b !== bits)
      .map((b) => ({
        id: `bits-${b}`,
        title: `The ADC has ${b} bits, not ${String(bits)}`,
        test: `Connect the input to the reference voltage: the count should be ${2 ** b - 1}.`,
        cost: b === 24 ? 0.3 : 0,
        params: { bits: b },
      })),
    ...(gives === 'volt' ? others([1.024, 1.1, 1.25, 2.048, 2.5, 3, 3.3, 4.096, 5], referenceV) : []).map(
      (v) => ({
        id: `reference-${v}`,
        title: `The reference voltage is ${v} V, not ${String(referenceV)} V`,
        test: 'Measure the voltage at the reference pin with a meter.',
        cost: [5, 3.3].includes(v) ? 0 : 0.2,
        params: { referenceV: v },
      }),
    ),
    {
      id: coding === 'signed' ? 'coding-unsigned' : 'coding-signed',
      title:
        coding === 'signed'
          ? 'The ADC counts are unsigned'
          : 'The ADC counts are signed: half of them are below zero',
      test: 'Short the input: a signed ADC reads about 0, an unsigned one about half of its range.',
      cost: 0.4,
      params: { coding: coding === 'signed' ? 'unsigned' : 'signed' },
    },
  ],
  bridge: ({ gain, ratedMvPerV, capacityKg, fullScaleCode, range }) => [
    ...others([1, 2, 16, 32, 64, 128], gain).map((g) => ({
      id: `gain-${g}`,
      title: `The amplifier’s gain is ${g}, not ${String(gain)}`,
      test: 'Read back the amplifier’s gain setting, or trace its gain pin.',
      params: { gain: g },
    })),
    ...others([1, 1.5, 2, 3], ratedMvPerV).map((r) => ({
      id: `rated-${r}`,
      title: `The load cell’s rated output is ${r} mV/V, not ${String(ratedMvPerV)} mV/V`,
      test: 'Check the rating on the load cell’s label.',
      cost: 0.1,
      params: { ratedMvPerV: r },
    })),
    ...others([1, 2, 5, 10, 20, 40, 50, 100, 200, 300, 500], capacityKg).map((kg) => ({
      id: `capacity-${kg}`,
      title: `The load cell’s capacity is ${kg} kg, not ${String(capacityKg)} kg`,
      test: 'Check the capacity on the load cell’s label.',
      cost: 0.2,
      params: { capacityKg: kg },
    })),
    ...others([32_767, 8_388_607, 16_777_215], fullScaleCode).map((code) => ({
      id: `full-scale-${code}`,
      title: `The ADC’s full scale is ${code}, not ${String(fullScaleCode)}`,
      test: 'Check the datasheet: number of bits, and whether the counts are signed.',
      cost: 0.3,
      params: { fullScaleCode: code },
    })),
    ...others([0.5, 1], range).map((r) => ({
      id: `bridge-range-${r}`,
      title: `Full scale is ${r} × the excitation voltage, not ${String(range)} ×`,
      test: 'Check the datasheet: full scale is either ± half of the reference voltage or all of it.',
      cost: 0.3,
      params: { range: r },
    })),
  ],
  'load-resistor': ({ loadOhm, supplyV }) => [
    ...others(RESISTORS, loadOhm).map((ohm) => ({
      id: `load-${ohm}`,
      title: `The load resistor is ${printSignificant(ohm)} Ω, not ${printSignificant(Number(loadOhm))} Ω`,
      test: 'Check its colour bands, or measure it with the sensor unplugged.',
      cost: isTenfold(ohm / Number(loadOhm)) ? 0.1 : 0.4,
      params: { loadOhm: ohm },
    })),
    ...others([3.3, 5], supplyV).map((v) => ({
      id: `supply-${v}`,
      title: `The divider’s supply is ${v} V, not ${String(supplyV)} V`,
      test: 'Measure the voltage across sensor and load resistor together.',
      params: { supplyV: v },
    })),
  ],
  'time-of-flight': ({ path, from, airC }) => [
    {
      id: 'one-way',
      title: path === 'one way' ? 'The echo time is for the round trip' : 'The echo time is for one way only',
      test: 'Hold a board 1 m away: the reading shows whether it is half or double.',
      params: { path: path === 'one way' ? 'there and back' : 'one way' },
    },
    ...(['us', 'ms', 's'] as const)
      .filter((unit) => unit !== from)
      .map((unit) => ({
        id: `time-in-${unit}`,
        title: `The echo time is in ${unit}, not ${String(from)}`,
        test: 'Hold a board 1 m away: the echo takes 5.8 ms.',
        cost: 0.2,
        params: { from: unit },
      })),
    ...[0, 40]
      .filter((c) => Math.abs(c - Number(airC)) > 15)
      .map((c) => ({
        id: `air-${c}`,
        title: `The air temperature is about ${c} °C, not ${String(airC)} °C`,
        test: 'Measure the air temperature: the speed of sound changes by 0.2 % per °C.',
        cost: 1,
        params: { airC: c },
      })),
  ],
  'counts-to-length': ({ perMmX, perMmY }) => [
    ...[25.4, 1 / 25.4, 2, 0.5, 4, 0.25].map((f) => ({
      id: `per-mm-${printSignificant(f, 3)}`,
      title:
        f === 25.4 || f === 1 / 25.4
          ? `Counts per ${f > 1 ? 'millimetre' : 'inch'} entered as counts per ${f > 1 ? 'inch' : 'millimetre'}`
          : `${printSignificant(Number(perMmX) * f, 3)} counts per millimetre, not ${printSignificant(Number(perMmX), 3)}`,
      test: 'Drag it 100 mm along a ruler and check the total count.',
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
        title: `The period is in ${unit}, not ${String(params['from'])}`,
        test: 'Turn it by hand once per second and check the raw time.',
        cost: 0.2,
        params: { from: unit },
      })),
  ],
  'power-law': ({ factor, exponent }): Other[] => [
    {
      id: 'exponent-sign',
      title: 'The exponent of the curve has the wrong sign',
      test: 'Increase the gas concentration: the reading should rise.',
      params: { exponent: -Number(exponent) },
    },
    {
      id: 'exponent-inverse',
      title: 'The slope of the curve is inverted: ratio against level instead of level against ratio',
      test: 'Take two points from the datasheet curve and calculate one of them by hand.',
      cost: 0.2,
      params: { exponent: 1 / Number(exponent) },
    },
    {
      id: 'factor-inverse',
      title: 'The factor of the curve is inverted (1/x)',
      test: 'Take one point from the datasheet curve and calculate it by hand.',
      cost: 0.4,
      params: { factor: 1 / Number(factor) },
    },
  ],
  'ratio-to-baseline': ({ factor }) => [
    {
      id: 'clean-air-factor',
      title: 'The datasheet’s clean-air ratio is missing or applied twice',
      test: 'Leave the sensor in clean air for a while: the reading should be the clean-air level.',
      cost: 0.3,
      params: { factor: Number(factor) === 1 ? 9.8 : 1 },
    },
  ],
  absorbance: ({ gives, fullScale }) => [
    {
      id: 'gives-other',
      title:
        gives === 'absorbance'
          ? 'The sensor gives transmittance, not absorbance'
          : 'The sensor gives absorbance, not transmittance',
      test: 'Insert clear water: absorbance is 0, transmittance is 1.',
      cost: 0.2,
      params: { gives: gives === 'absorbance' ? 'transmittance' : 'absorbance' },
    },
    ...others([1023, 4095, 65_535], fullScale).map((code) => ({
      id: `light-codes-${code}`,
      title: `The sensor’s full scale is ${code} counts, not ${String(fullScale)}`,
      test: 'Point it at the sun: the count stops at full scale.',
      cost: 0.6,
      params: { fullScale: code },
    })),
  ],
  concentration: ({ dilution }) =>
    others([1, 2, 5, 10, 20, 50, 100], dilution).map((d) => ({
      id: `dilution-${d}`,
      title: `The dilution is ${d} times, not ${String(dilution)} times`,
      test: 'Measure again, diluted twice as much and entered as such: the result should not change.',
      cost: [1, 10].includes(d) ? 0 : 0.3,
      params: { dilution: d },
    })),
  'weight-force': () => [],
  'beat-rate': ({ to }) =>
    to === 'perMin'
      ? [
          {
            id: 'beats-a-second',
            title: 'Beats per second are meant, not beats per minute',
            test: 'Count ten beats by hand.',
            cost: 0.3,
            params: { to: 'Hz' },
          },
        ]
      : [],
};

function marked({ marks }: StageSpec['params']) {
  return others([1, 2, 3, 4, 5, 6, 7, 8, 10, 12, 16, 20, 24, 30, 32, 36, 48, 60], marks).map((m) => ({
    id: `marks-${m}`,
    title: `There are ${m} marks per turn, not ${String(marks)}`,
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
