import { Type, type Static } from 'typebox';
import { Calibration } from './calibration.ts';
import { Id, Instant, Note, nullable, strictObject, Unit } from './common.ts';

const finite = Type.Number();
const positive = Type.Number({ exclusiveMinimum: 0 });
const Triple = Type.Tuple([finite, finite, finite]);
/** Some seconds of a fast column. */
const Wave = Type.Array(finite, { minItems: 20, maxItems: 20_000 });
/** What a meter beside shows, with its expanded uncertainty (k = 2). */
const Shown = strictObject({ value: positive, uncertainty: positive });

/** What a guided true-up is worked out from, beside points that hold one column still. */
export const Evidence = Type.Union([
  /** Mean counts of three axes at rest, with the standard uncertainty of each mean. */
  strictObject({ kind: Type.Literal('rest'), raw: Triple, u: positive }),
  /** Counts of three axes while turned through all directions. */
  strictObject({ kind: Type.Literal('cloud'), rows: Type.Array(Triple, { minItems: 1, maxItems: 4000 }) }),
  /** Voltage and current with the load off. */
  strictObject({ kind: Type.Literal('ac-middle'), voltage: Wave, current: Wave }),
  /** The same with a load that has no lag of its own. */
  strictObject({ kind: Type.Literal('ac-lag'), voltage: Wave, current: Wave }),
  /** The same with a meter beside: effective volts and amperes. */
  strictObject({
    kind: Type.Literal('ac-scale'),
    voltage: Wave,
    current: Wave,
    volts: Shown,
    amperes: Shown,
  }),
  /** Steps of both axes over a known length, mm; the tolerance of the rule is one, the ends are set anew each time. */
  strictObject({
    kind: Type.Literal('drag'),
    counts: Type.Tuple([finite, finite]),
    lengthMm: positive,
    /** Limits of error of the rule and of setting each end. */
    toleranceMm: positive,
    placementMm: Type.Number({ minimum: 0 }),
  }),
  /** What the gadget gave over a stretch, and what was true, both a second; the reading's standard uncertainty. */
  strictObject({
    kind: Type.Literal('rate'),
    title: Type.String({ minLength: 1, maxLength: 120 }),
    referenceHz: positive,
    /** Expanded uncertainty (k = 2). */
    uncertaintyHz: positive,
    readingHz: positive,
    uReadingHz: Type.Number({ minimum: 0 }),
    seconds: positive,
  }),
  /** What every channel reads while a known amount of the quantity of one of them, and of no other, is there. */
  strictObject({
    kind: Type.Literal('exposure'),
    title: Type.String({ minLength: 1, maxLength: 120 }),
    /** The channel whose quantity it is. */
    of: Id,
    /** In that channel's unit, with its expanded uncertainty (k = 2). */
    dose: positive,
    uncertainty: positive,
    unit: Unit,
    readings: Type.Array(
      strictObject({
        channelId: Id,
        mean: finite,
        /** Standard uncertainty of the mean. */
        u: Type.Number({ minimum: 0 }),
        /** What it reads where nothing is there, below which it tells nothing; null for none. */
        clean: nullable(finite),
      }),
      { minItems: 2, maxItems: 16 },
    ),
  }),
  /** Mean course shown while pointing along a known one, degrees; the mean's standard uncertainty. */
  strictObject({
    kind: Type.Literal('bearing'),
    title: Type.String({ minLength: 1, maxLength: 120 }),
    shownDeg: finite,
    uShownDeg: Type.Number({ minimum: 0 }),
    referenceDeg: finite,
    /** Expanded uncertainty (k = 2). */
    uncertaintyDeg: positive,
  }),
]);
export type Evidence = Static<typeof Evidence>;
export type EvidenceKind = Evidence['kind'];

export const EvidencePoint = strictObject({
  id: Id,
  channelId: Id,
  evidence: Evidence,
  /** Why it is left out; null when it counts. */
  excluded: nullable(Type.String({ minLength: 1, maxLength: 200 })),
  keptAt: Instant,
});
export type EvidencePoint = Static<typeof EvidencePoint>;

export const NewEvidence = strictObject({
  channelId: Id,
  evidence: Evidence,
  /** What it takes the place of: left out in the same act, with the reason that it was done again. */
  replaces: Type.Optional(Type.Array(Id, { maxItems: 20 })),
});
export type NewEvidence = Static<typeof NewEvidence>;

export const EvidencePatch = strictObject({
  excluded: nullable(Type.String({ minLength: 1, maxLength: 200 })),
});
export type EvidencePatch = Static<typeof EvidencePatch>;

/** A version from evidence, for every channel that reads the same columns in the same way. */
export const NewGuidedCalibration = strictObject({
  channelIds: Type.Array(Id, { minItems: 1, maxItems: 16 }),
  fit: Type.String({ maxLength: 40 }),
  evidenceIds: Type.Array(Id, { maxItems: 100 }),
  /** Kept in the same act, before what is kept already: all of it, or nothing. */
  evidence: Type.Optional(Type.Array(Evidence, { maxItems: 10 })),
  note: Note,
});
export type NewGuidedCalibration = Static<typeof NewGuidedCalibration>;

export const GuidedCalibrations = strictObject({ items: Type.Array(Calibration) });
export type GuidedCalibrations = Static<typeof GuidedCalibrations>;
