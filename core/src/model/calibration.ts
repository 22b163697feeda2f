import { Type, type Static } from 'typebox';
import { Day, Id, Instant, Note, Unit, nullable, oneOf, strictObject } from './common.ts';
import { LineEdit } from './line.ts';

const finite = Type.Number();
const positive = Type.Number({ exclusiveMinimum: 0 });

/** What the maker tells about a reference; its value and uncertainty are worked out from this. */
export const ReferenceInput = Type.Union([
  strictObject({ kind: Type.Literal('ice-slurry') }),
  strictObject({
    kind: Type.Literal('boiling-elevation'),
    elevationM: Type.Number({ minimum: -430, maximum: 9000 }),
  }),
  strictObject({
    kind: Type.Literal('boiling-pressure'),
    pressureHpa: Type.Number({ minimum: 300, maximum: 1100 }),
    uncertaintyHpa: Type.Number({ minimum: 0, maximum: 50 }),
  }),
  strictObject({
    kind: Type.Literal('instrument'),
    reading: finite,
    /** Expanded uncertainty (k = 2) of that instrument, in the same unit. */
    uncertainty: positive,
  }),
  strictObject({
    kind: Type.Literal('meter'),
    reading: finite,
    /** Accuracy as meters state it: so much of the reading and so many of the last digit. */
    percentOfReading: Type.Number({ minimum: 0, maximum: 100 }),
    digits: Type.Number({ minimum: 0, maximum: 1000 }),
    /** Value of one step of the last digit, in the reading's unit. */
    resolution: positive,
  }),
  strictObject({
    kind: Type.Literal('mass'),
    kilograms: Type.Number({ minimum: 0 }),
    toleranceKg: Type.Number({ minimum: 0 }),
  }),
  strictObject({
    kind: Type.Literal('water'),
    litres: positive,
    toleranceLitres: Type.Number({ minimum: 0 }),
    waterC: Type.Number({ minimum: 0, maximum: 90 }),
  }),
  strictObject({
    kind: Type.Literal('weight-force'),
    kilograms: Type.Number({ minimum: 0 }),
    toleranceKg: Type.Number({ minimum: 0 }),
    latitudeDeg: Type.Number({ minimum: -90, maximum: 90 }),
    elevationM: Type.Number({ minimum: -430, maximum: 9000 }),
  }),
  strictObject({
    kind: Type.Literal('length'),
    metres: Type.Number({ minimum: 0 }),
    toleranceM: positive,
    placementM: Type.Number({ minimum: 0 }),
  }),
  strictObject({
    kind: Type.Literal('stopwatch'),
    seconds: positive,
    reactionS: Type.Number({ exclusiveMinimum: 0, maximum: 2 }),
  }),
  strictObject({
    kind: Type.Literal('tally'),
    count: Type.Integer({ minimum: 1 }),
    /** How many the counter may have missed or counted twice. */
    doubt: Type.Number({ minimum: 0 }),
    seconds: positive,
    reactionS: Type.Number({ exclusiveMinimum: 0, maximum: 2 }),
  }),
  strictObject({ kind: Type.Literal('crystal'), seconds: positive, ppm: positive }),
  strictObject({
    kind: Type.Literal('dilution'),
    stock: positive,
    stockPercent: Type.Number({ minimum: 0, maximum: 100 }),
    /** Each step: so much taken, made up to so much, with the tolerance of each vessel in per cent. */
    steps: Type.Array(
      strictObject({
        taken: positive,
        madeUpTo: positive,
        takenPercent: Type.Number({ minimum: 0 }),
        madeUpPercent: Type.Number({ minimum: 0 }),
      }),
      { minItems: 0, maxItems: 8 },
    ),
  }),
  strictObject({
    kind: Type.Literal('nothing'),
    within: positive,
    what: Type.String({ minLength: 1, maxLength: 80 }),
  }),
  /** Air that is known to be clean, once the element is warm: the level that its curve starts from. */
  strictObject({
    kind: Type.Literal('clean-air'),
    ppm: Type.Number({ minimum: 0, maximum: 1e6 }),
    within: positive,
  }),
  /** One of the maker's own references, as it was when the point was kept. */
  strictObject({
    kind: Type.Literal('own'),
    referenceId: Id,
    title: Type.String({ minLength: 1, maxLength: 80 }),
    value: finite,
    /** Expanded uncertainty (k = 2). */
    uncertainty: positive,
    unit: Unit,
    checkedOn: Day,
  }),
  strictObject({
    kind: Type.Literal('bearing'),
    from: strictObject({
      latitudeDeg: Type.Number({ minimum: -90, maximum: 90 }),
      longitudeDeg: Type.Number({ minimum: -180, maximum: 180 }),
    }),
    to: strictObject({
      latitudeDeg: Type.Number({ minimum: -90, maximum: 90 }),
      longitudeDeg: Type.Number({ minimum: -180, maximum: 180 }),
    }),
    positionM: positive,
  }),
]);
export type ReferenceInput = Static<typeof ReferenceInput>;

/** A reference's worth: value and expanded uncertainty (k = 2), with the arithmetic. */
export const ReferenceValue = strictObject({
  title: Type.String(),
  value: finite,
  unit: Unit,
  uncertainty: Type.Number({ minimum: 0 }),
  workings: Type.Array(Type.String()),
});
export type ReferenceValue = Static<typeof ReferenceValue>;

/** From which side a reading came to rest: gadgets with play or friction read differently from above and from below. */
export const Approach = oneOf(['from below', 'from above'] as const);
export type Approach = Static<typeof Approach>;

/** A steady window of raw readings. */
export const Capture = strictObject({
  mean: finite,
  sd: Type.Number({ minimum: 0 }),
  n: Type.Integer({ minimum: 2 }),
  nEffective: Type.Number({ minimum: 1 }),
  durationS: Type.Number({ minimum: 0 }),
  /** Left out where the reading had not moved before, and in captures kept before it was looked at. */
  approach: Type.Optional(Approach),
});
export type Capture = Static<typeof Capture>;

export const PointRole = oneOf(['fit', 'check'] as const);
export type PointRole = Static<typeof PointRole>;

export const CalibrationPoint = strictObject({
  id: Id,
  channelId: Id,
  role: PointRole,
  reference: ReferenceInput,
  worth: ReferenceValue,
  capture: Capture,
  /** Why the point is left out; null when it counts. */
  excluded: nullable(Type.String({ minLength: 1, maxLength: 200 })),
  keptAt: Instant,
});
export type CalibrationPoint = Static<typeof CalibrationPoint>;

export const NewPoint = strictObject({
  channelId: Id,
  role: PointRole,
  reference: ReferenceInput,
  capture: Capture,
});
export type NewPoint = Static<typeof NewPoint>;

export const PointPatch = Type.Partial(
  strictObject({
    role: PointRole,
    excluded: nullable(Type.String({ minLength: 1, maxLength: 200 })),
    /** In the place of one that was typed wrongly. */
    reference: ReferenceInput,
  }),
  { additionalProperties: false, minProperties: 1 },
);
export type PointPatch = Static<typeof PointPatch>;

export const FittedParameter = strictObject({
  stageId: Id,
  param: Type.String(),
  title: Type.String(),
  unit: Type.String(),
  before: nullable(finite),
  value: finite,
  /** Standard uncertainty. */
  u: Type.Number(),
});
export type FittedParameter = Static<typeof FittedParameter>;

/**
 * What a fit leaves unexplained, as a standard uncertainty in the reading's unit: one for all readings, or at rising readings
 * with straight lines between.
 */
export const LeftOver = Type.Union([
  finite,
  strictObject({
    readings: Type.Array(finite, { minItems: 1 }),
    u: Type.Array(Type.Number({ minimum: 0 }), { minItems: 1 }),
  }),
]);
export type LeftOver = Static<typeof LeftOver>;

export const FitResult = strictObject({
  fit: Type.String(),
  title: Type.String(),
  parameters: Type.Array(FittedParameter),
  covariance: Type.Array(Type.Array(finite)),
  edits: Type.Array(LineEdit),
  residuals: Type.Array(
    strictObject({
      pointId: Id,
      before: nullable(finite),
      after: nullable(finite),
      u: finite,
      leftOut: nullable(finite),
    }),
  ),
  /** Root mean square of the errors at each point when it is left out of the fit; null when too few points. */
  leaveOneOutRms: nullable(finite),
  aicc: nullable(finite),
  chiSquare: nullable(finite),
  degreesOfFreedom: Type.Integer(),
  /** Factor by which the covariance was widened because the points scatter more than their uncertainties allow. */
  birge: finite,
  /**
   * Degrees of freedom that the uncertainties are known with, where scatter made or widened them. Not there where they are
   * those that were stated, and in versions that were kept before it was: those then have the fit's own when widened.
   */
  uDegreesOfFreedom: Type.Optional(finite),
  /**
   * How far the shape of the fit misses that of the sensor; null where the points cannot tell. Not there in versions that were
   * kept before it was worked out, and of one size over the range in those from before it was a curve.
   */
  misfit: Type.Optional(nullable(LeftOver)),
  /** Half of what points differed by that were come to from below and from above, where that was seen when it was made. */
  hysteresis: Type.Optional(strictObject({ half: Type.Number({ minimum: 0 }), unit: Unit })),
  converged: Type.Boolean(),
  reason: Type.String(),
  /** Range of the points in raw units and in the reading's unit; outside it the fit is a guess. */
  validRaw: Type.Tuple([finite, finite]),
  validReading: Type.Tuple([finite, finite]),
});
export type FitResult = Static<typeof FitResult>;

const GoodForMonths = Type.Integer({ minimum: 1, maximum: 120 });

export const Calibration = strictObject({
  id: Id,
  channelId: Id,
  number: Type.Integer({ minimum: 1 }),
  state: oneOf(['draft', 'in use', 'replaced'] as const),
  result: FitResult,
  pointIds: Type.Array(Id),
  note: Note,
  createdAt: Instant,
  usedAt: nullable(Instant),
  /** Months after which it is to be checked; a year where nobody has said. */
  goodForMonths: Type.Optional(GoodForMonths),
});
export type Calibration = Static<typeof Calibration>;

export const CalibrationPatch = strictObject({ goodForMonths: GoodForMonths });
export type CalibrationPatch = Static<typeof CalibrationPatch>;

export const NewCalibration = strictObject({
  channelId: Id,
  fit: Type.String({ maxLength: 40 }),
  use: Type.Boolean(),
  note: Note,
});
export type NewCalibration = Static<typeof NewCalibration>;

/** Points of several channels, each put in use by the same fit: one act, kept whole or not at all. */
export const NewPointCalibrations = strictObject({
  points: Type.Array(NewPoint, { minItems: 1, maxItems: 16 }),
  fit: Type.String({ maxLength: 40 }),
  note: Note,
});
export type NewPointCalibrations = Static<typeof NewPointCalibrations>;
