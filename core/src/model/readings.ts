import { Type, type Static } from 'typebox';
import { Unit, nullable, oneOf, strictObject } from './common.ts';
import { LineSpec } from './line.ts';

/** A line to read a recording by, with what it is run with. */
export const LookLine = strictObject({
  /** What the answer calls it. */
  id: Type.String({ minLength: 1, maxLength: 80 }),
  line: LineSpec,
  slowestHz: nullable(Type.Number({ exclusiveMinimum: 0 })),
  warmUpS: Type.Number({ minimum: 0 }),
});
export type LookLine = Static<typeof LookLine>;

const stretch = {
  /** In the recording's time, s; null for its begin or its end. */
  fromS: nullable(Type.Number()),
  toS: nullable(Type.Number()),
};

/** Asks how the readings of one line lie in a stretch of a recording. */
export const ShapeBody = strictObject({ line: LookLine, ...stretch });
export type ShapeBody = Static<typeof ShapeBody>;

const SteadyRule = strictObject({
  /** It stands still for at least so long, s. */
  windowS: Type.Number({ exclusiveMinimum: 0, maximum: 1e5 }),
  /** In the unit of the leading line. */
  drift: Type.Number({ minimum: 0 }),
  scatter: Type.Number({ minimum: 0 }),
});

/** Asks for the steps of a load: stretches in which the first line stands still, and what all lines come to in each. */
export const StepsBody = strictObject({
  lines: Type.Array(LookLine, { minItems: 1, maxItems: 40 }),
  ...stretch,
  /** Null for what the noise of the first line proposes. */
  rule: nullable(SteadyRule),
});
export type StepsBody = Static<typeof StepsBody>;

export const StepsAnswer = strictObject({
  rule: SteadyRule,
  /** Why that rule, where it was proposed; empty where it was asked for. */
  why: Type.String(),
  /** Of all that were found, also of those that are not told. */
  count: Type.Integer(),
  steps: Type.Array(
    strictObject({
      fromS: Type.Number(),
      toS: Type.Number(),
      channels: Type.Array(
        strictObject({
          id: Type.String(),
          mean: nullable(Type.Number()),
          sd: nullable(Type.Number()),
          n: Type.Integer(),
        }),
      ),
    }),
  ),
});
export type StepsAnswer = Static<typeof StepsAnswer>;

/** Asks for readings of a recording, or of a stretch of it, to draw. */
export const LookBody = strictObject({
  lines: Type.Array(LookLine, { minItems: 1, maxItems: 40 }),
  ...stretch,
  points: Type.Integer({ minimum: 2, maximum: 20_000 }),
});
export type LookBody = Static<typeof LookBody>;

/** Readings of one line: few are told whole, of many the lowest and highest of each stretch. NaN is null; it breaks the curve. */
export const LookedAt = strictObject({
  id: Type.String(),
  unit: Unit,
  times: Type.Array(nullable(Type.Number())),
  values: Type.Array(nullable(Type.Number())),
  thinned: Type.Boolean(),
  good: Type.Integer(),
  bad: Type.Integer(),
  low: nullable(Type.Number()),
  high: nullable(Type.Number()),
  /** Weighted by time, by straight lines between readings. */
  mean: nullable(Type.Number()),
  /** Raw first, then after each stage: how many values, and how many bad ones of each reason. */
  stages: Type.Array(
    strictObject({ length: Type.Integer(), bad: Type.Record(Type.String(), Type.Integer()) }),
  ),
});
export type LookedAt = Static<typeof LookedAt>;

/** The readings, or how much of working them out is done: then ask again. */
export const LookAnswer = Type.Union([
  strictObject({ looks: Type.Array(LookedAt) }),
  strictObject({ share: Type.Number({ minimum: 0, maximum: 1 }) }),
]);
export type LookAnswer = Static<typeof LookAnswer>;

/** Asks what is read at two moments, and in the mean between them. */
export const BetweenBody = strictObject({
  lines: Type.Array(LookLine, { minItems: 1, maxItems: 40 }),
  aS: Type.Number(),
  bS: Type.Number(),
});
export type BetweenBody = Static<typeof BetweenBody>;

export const BetweenAnswer = strictObject({
  readings: Type.Array(
    strictObject({
      id: Type.String(),
      a: nullable(Type.Number()),
      b: nullable(Type.Number()),
      mean: nullable(Type.Number()),
    }),
  ),
});
export type BetweenAnswer = Static<typeof BetweenAnswer>;

/** Asks where a reading lies beyond a level. */
export const StretchesBody = strictObject({
  line: LookLine,
  ...stretch,
  side: oneOf(['above', 'below'] as const),
  level: Type.Number(),
  comesBack: Type.Number({ minimum: 0 }),
  /** Of a direction: the sector from the level clockwise to here, whichever the side. */
  untilDeg: Type.Optional(nullable(Type.Number({ minimum: 0, maximum: 360 }))),
});
export type StretchesBody = Static<typeof StretchesBody>;

export const StretchesAnswer = strictObject({
  /** The first of them, as many as can be drawn. */
  stretches: Type.Array(
    strictObject({
      startS: Type.Number(),
      endS: Type.Number(),
      extreme: Type.Number(),
      extremeS: Type.Number(),
      cutShort: Type.Boolean(),
    }),
  ),
  count: Type.Integer(),
  togetherS: Type.Number(),
});
export type StretchesAnswer = Static<typeof StretchesAnswer>;

/** Asks for a recording read by two lines, and for what lies between them. */
export const CompareBody = strictObject({
  first: LookLine,
  second: LookLine,
  points: Type.Integer({ minimum: 2, maximum: 20_000 }),
});
export type CompareBody = Static<typeof CompareBody>;

export const CompareAnswer = strictObject({
  readings: Type.Array(LookedAt),
  /** Difference (second − first) where both have a reading. */
  difference: LookedAt,
  meanDifference: nullable(Type.Number()),
});
export type CompareAnswer = Static<typeof CompareAnswer>;

/** Asks when a reading first passes a value, either way. */
export const PassesBody = strictObject({ line: LookLine, level: Type.Number() });
export type PassesBody = Static<typeof PassesBody>;
export const PassesAnswer = strictObject({ timeS: nullable(Type.Number()) });
export type PassesAnswer = Static<typeof PassesAnswer>;

/** Readings of one channel of a recording, as a script asks for them. */
export const RecordingReadings = strictObject({
  channelId: Type.String(),
  name: Type.String(),
  sampleRateHz: Type.Number(),
  ...LookedAt.properties,
});
export type RecordingReadings = Static<typeof RecordingReadings>;
