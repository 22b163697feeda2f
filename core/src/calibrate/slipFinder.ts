import { compileLine } from '../line/compile.ts';
import { readingAtRest } from '../line/atRest.ts';
import type { LineEdit, LineSpec, StageSpec } from '../model/line.ts';
import { convertUnit, printSignificant, UNITS, type UnitId } from '../units/index.ts';
import { SLIP_FACTORS } from './slipFactors.ts';

export interface SlipObservation {
  readonly shown: number;
  readonly expected: number;
  /** Raw value behind it, for slips in the line itself. */
  readonly raw?: number;
}

export interface SlipExplanation {
  readonly ids: readonly string[];
  readonly title: string;
  /** What the first observation would read without the slip. */
  readonly corrected: number;
  /** Largest relative misfit left over all observations. */
  readonly misfit: number;
  /** The one step that would confirm it. */
  readonly test: string;
  /** Change of the line that takes the slip out, where there is one. */
  readonly edit: LineEdit | null;
}

export interface SlipContext {
  readonly unit: UnitId;
  readonly line?: LineSpec;
  readonly sampleRateHz?: number;
  /** How well the expected value is known, relative: 0.05 is "about". */
  readonly tolerance?: number;
}

interface Candidate {
  readonly ids: readonly string[];
  readonly title: string;
  readonly test: string;
  readonly rarity: number;
  readonly edit: LineEdit | null;
  correct(observation: SlipObservation): number;
}

/**
 * "It shows X, it should be about Y": explanations ranked by how well they fit and how common they are. Single factors and
 * their pairs, shifts of scale (kelvin, Fahrenheit, a missing tare, a wrong sign) and, with the line and raw values, slips in
 * the line itself (divider turned, bits, reference, gain).
 * @returns best first, at most ten, none that misses by more than three times the tolerance; empty when the shown value is
 *   right already
 * @throws {RangeError} for no observation or a value that is not finite
 */
export function findSlips(observations: readonly SlipObservation[], context: SlipContext): SlipExplanation[] {
  if (observations.length === 0)
    throw new RangeError('The slip finder needs a shown and an expected value; received none.');
  for (const o of observations) {
    if (!Number.isFinite(o.shown) || !Number.isFinite(o.expected))
      throw new RangeError(`Shown and expected must be numbers; received ${o.shown} and ${o.expected}.`);
  }
  const tolerance = context.tolerance ?? 0.05;
  const scale = Math.max(...observations.map((o) => Math.abs(o.expected)), 1e-12);
  const misfitOf = (correct: (o: SlipObservation) => number) =>
    Math.max(
      ...observations.map(
        (o) => Math.abs(correct(o) - o.expected) / Math.max(Math.abs(o.expected), 0.1 * scale),
      ),
    );
  if (misfitOf((o) => o.shown) <= tolerance) return [];
  const singles = factorCandidates();
  const candidates = [
    ...singles,
    ...pairs(singles),
    ...shiftCandidates(context.unit, observations),
    ...(context.line ? lineCandidates(context.line, context.sampleRateHz ?? 1, observations) : []),
  ];
  return (
    candidates
      .map((c) => ({ c, misfit: misfitOf(c.correct) }))
      .filter(({ misfit }) => misfit <= 3 * tolerance)
      // A pair must fit clearly better than a single to be believed: each slip costs as much as one tolerance of misfit.
      .sort((a, b) => rank(a, tolerance) - rank(b, tolerance))
      .slice(0, 10)
      .map(({ c, misfit }) => ({
        ids: c.ids,
        title: c.title,
        corrected: c.correct(observations[0]!),
        misfit,
        test: c.test,
        edit: c.edit,
      }))
  );
}

const rank = ({ c, misfit }: { c: Candidate; misfit: number }, tolerance: number) =>
  misfit / tolerance + c.ids.length + c.rarity - (c.edit ? 0.5 : 0);

type Single = Candidate & { factor: number };

function factorCandidates(): Single[] {
  return SLIP_FACTORS.flatMap((s) => [
    { ...s, title: s.title, by: s.factor, id: s.id },
    { ...s, title: s.inverse, by: 1 / s.factor, id: `${s.id}-inverse` },
  ]).map(({ id, title, test, rarity, by }) => ({
    ids: [id],
    title,
    test,
    rarity,
    edit: null,
    factor: by,
    correct: (o) => o.shown / by,
  }));
}

function pairs(singles: readonly Single[]): Candidate[] {
  return singles.flatMap((a, i) =>
    singles
      .slice(i + 1)
      // A slip and its own inverse cancel, and two that make another single are that single.
      .filter((b) => {
        const both = a.factor * b.factor;
        return (
          Math.abs(Math.log(both)) > 0.02 && !singles.some((s) => Math.abs(Math.log(both / s.factor)) < 0.01)
        );
      })
      .map((b) => ({
        ids: [...a.ids, ...b.ids],
        title: `${a.title}; and ${lowerFirst(b.title)}`,
        test: `${a.test} Then: ${lowerFirst(b.test)}`,
        rarity: a.rarity + b.rarity + 0.5,
        edit: null,
        correct: (o: SlipObservation) => o.shown / (a.factor * b.factor),
      })),
  );
}

const lowerFirst = (s: string) => s.charAt(0).toLowerCase() + s.slice(1);

function shiftCandidates(unit: UnitId, observations: readonly SlipObservation[]): Candidate[] {
  const sign: Candidate = {
    ids: ['sign'],
    title: 'The sign is turned round',
    test: 'Swap the two signal wires, or load it the other way: the sign must follow.',
    rarity: 0,
    edit: null,
    correct: (o) => -o.shown,
  };
  const shift = observations[0]!.shown - observations[0]!.expected;
  const tare: Candidate = {
    ids: ['tare'],
    title: `A tare or zero is missing: everything is ${printSignificant(shift)} ${UNITS[unit].symbol} off`,
    test: 'Take everything off and read: it must show zero.',
    // One observation always fits a shift; it is only worth something with a second one.
    rarity: observations.length > 1 ? 0.2 : 2.2,
    edit: null,
    correct: (o) => o.shown - shift,
  };
  if (UNITS[unit].dimension !== 'temperature') return [sign, tare];
  const temperature = (id: string, title: string, from: UnitId): Candidate => ({
    ids: [id],
    title,
    test: 'Hold the probe in your hand: 32 to 36 means Celsius, 90 to 97 Fahrenheit, about 307 kelvin.',
    rarity: 0,
    edit: null,
    correct: (o) => convertUnit(o.shown, from, unit),
  });
  return [
    sign,
    tare,
    ...(['degC', 'degF', 'K'] as const)
      .filter((from) => from !== unit)
      .map((from) =>
        temperature(`shown-in-${from}`, `It shows ${UNITS[from].name}, not ${UNITS[unit].name}`, from),
      ),
  ];
}

function lineCandidates(
  line: LineSpec,
  sampleRateHz: number,
  observations: readonly SlipObservation[],
): Candidate[] {
  if (!observations.every((o) => o.raw !== undefined) || line.sources.length !== 1) return [];
  return line.stages
    .flatMap((stage) => variants(stage))
    .flatMap(({ id, title, test, edit }) => {
      const changed = {
        ...line,
        stages: line.stages.map((s) =>
          s.id === edit.stageId ? { ...s, params: { ...s.params, ...edit.params } } : s,
        ),
      };
      try {
        const compiled = compileLine(changed, { sampleRateHz });
        return [
          {
            ids: [id],
            title,
            test,
            rarity: 0,
            edit,
            correct: (o: SlipObservation) => readingAtRest(compiled, o.raw!),
          },
        ];
      } catch (error) {
        if (error instanceof RangeError) return [];
        throw error;
      }
    });
}

interface Variant {
  readonly id: string;
  readonly title: string;
  readonly test: string;
  readonly edit: LineEdit;
}

/** Changes of one stage that would undo a common slip in it. */
function variants(stage: StageSpec): Variant[] {
  const edit = (params: StageSpec['params']): LineEdit => ({ stageId: stage.id, params });
  const { params } = stage;
  switch (stage.kind) {
    case 'divider': {
      const side = params['side'] === 'top' ? 'bottom' : 'top';
      const series = Number(params['seriesOhm']);
      return [
        {
          id: 'divider-side',
          title: 'The divider is the other way round',
          test: 'Warm the probe: an NTC to ground makes the counts fall.',
          edit: edit({ side }),
        },
        ...[10, 0.1].map((f) => ({
          id: `series-${f}`,
          title: `The series resistor is ${printSignificant(series * f)} Ω, not ${printSignificant(series)} Ω`,
          test: 'Read its rings again, or measure it out of the circuit.',
          edit: edit({ seriesOhm: series * f }),
        })),
      ];
    }
    case 'adc':
      return [8, 10, 12, 16]
        .filter((bits) => bits !== params['bits'])
        .map((bits) => ({
          id: `bits-${bits}`,
          title: `The converter has ${bits} bits, not ${String(params['bits'])}`,
          test: `Tie the input to the reference: it must count to ${2 ** bits - 1}.`,
          edit: edit({ bits }),
        }))
        .concat(
          [5, 3.3, 2.5, 1.1]
            .filter((v) => params['gives'] === 'volt' && Math.abs(v - Number(params['referenceV'])) > 0.05)
            .map((v) => ({
              id: `reference-${v}`,
              title: `The reference is ${v} V, not ${String(params['referenceV'])} V`,
              test: 'Measure the reference pin with a meter.',
              edit: edit({ referenceV: v }),
            })),
        );
    case 'bridge':
      return [1, 2, 32, 64, 128]
        .filter((gain) => gain !== params['gain'])
        .map((gain) => ({
          id: `gain-${gain}`,
          title: `The amplifier's gain is ${gain}, not ${String(params['gain'])}`,
          test: 'Read the gain setting back from the amplifier, or follow its gain pin.',
          edit: edit({ gain }),
        }));
    case 'time-of-flight':
      return [
        {
          id: 'one-way',
          title: 'The echo time counts there and back',
          test: 'Put a board at 1 m: half or double tells which.',
          edit: edit({ path: params['path'] === 'one way' ? 'there and back' : 'one way' }),
        },
      ];
    case 'gate-rate':
    case 'period-rate':
      return [1, 2, 4, 6, 8]
        .filter((marks) => marks !== params['marks'])
        .map((marks) => ({
          id: `marks-${marks}`,
          title: `There are ${marks} marks a turn, not ${String(params['marks'])}`,
          test: 'Turn it once by hand and count the edges.',
          edit: edit({ marks }),
        }));
    default:
      return [];
  }
}
