import { Type, type Static } from 'typebox';
import { Id, Name, Unit, nullable, oneOf, strictObject } from './common.ts';

/** Hidden truth of one simulated thermistor probe. */
export const ThermistorProbeTruth = strictObject({
  column: Name,
  a: Type.Number(),
  b: Type.Number(),
  c: Type.Number(),
  seriesOhm: Type.Number({ exclusiveMinimum: 0 }),
  timeConstantS: Type.Number({ exclusiveMinimum: 0 }),
  noiseCounts: Type.Number({ minimum: 0 }),
  /** How far this probe sits from the mean temperature of the kiln. */
  kilnOffsetC: Type.Number(),
});
export type ThermistorProbeTruth = Static<typeof ThermistorProbeTruth>;

export const ThermistorBankTruth = strictObject({
  kind: Type.Literal('thermistor-bank'),
  seed: Type.Integer(),
  adcBits: Type.Integer({ minimum: 8, maximum: 24 }),
  seriesSide: oneOf(['top', 'bottom'] as const),
  pressureHpa: Type.Number(),
  roomC: Type.Number(),
  iceC: Type.Number(),
  /** Error of the reference thermometer that stands in the bath. */
  referenceErrorC: Type.Number(),
  probes: Type.Array(ThermistorProbeTruth, { minItems: 1, maxItems: 8 }),
});
export type ThermistorBankTruth = Static<typeof ThermistorBankTruth>;

export const LINK_STATES = ['up', 'lost', 'unplugged'] as const;

/** A link as the page sees it: without the hidden truth. */
export const Link = strictObject({
  id: Id,
  gadgetId: Id,
  kind: Type.Literal('simulated'),
  name: Name,
  state: oneOf(LINK_STATES),
  speed: Type.Number(),
  conditions: Type.Array(strictObject({ id: Id, title: Type.String() })),
  condition: Id,
});
export type Link = Static<typeof Link>;

export const LinkPatch = Type.Partial(
  strictObject({
    condition: Id,
    speed: Type.Number({ minimum: 0.1, maximum: 50 }),
    plugged: Type.Boolean(),
  }),
  { additionalProperties: false, minProperties: 1 },
);
export type LinkPatch = Static<typeof LinkPatch>;

/** What the foot line and the simulated-gadget card need, several times a second. */
export const LinkStatus = strictObject({
  linkId: Id,
  state: oneOf(LINK_STATES),
  achievedHz: Type.Number(),
  lost: Type.Integer(),
  badLines: Type.Integer(),
  lastBadLine: nullable(Type.String()),
  condition: Id,
  speed: Type.Number(),
  /** Instruments that stand beside the probes in the simulated world, to be read by the maker. */
  instruments: Type.Array(
    strictObject({ title: Type.String(), value: Type.Number(), unit: Unit, uncertainty: Type.Number() }),
  ),
  recording: nullable(
    strictObject({
      id: Id,
      committed: Type.Integer(),
      waiting: Type.Integer(),
      problem: nullable(Type.String()),
    }),
  ),
});
export type LinkStatus = Static<typeof LinkStatus>;
