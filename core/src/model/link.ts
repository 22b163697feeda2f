import { Type, type Static } from 'typebox';
import { Id, Name, Unit, nullable, oneOf, strictObject } from './common.ts';
import { LineMapping } from './lineMapping.ts';

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

/** Where the readings of a link come from. */
export const LinkSettings = Type.Union([
  strictObject({ kind: Type.Literal('simulated') }),
  /** The gadget sends readings to the server, with the link's token. */
  strictObject({ kind: Type.Literal('push') }),
  /** Lines published under a topic; the bench's own broker, or another one's address. */
  strictObject({
    kind: Type.Literal('mqtt'),
    broker: nullable(Type.String({ pattern: '^mqtts?://[^\\s/]+$', maxLength: 200 })),
    topic: Type.String({ pattern: '^[^\\s\\u0000]+$', minLength: 1, maxLength: 200 }),
  }),
  /** A log file that another program writes. */
  strictObject({ kind: Type.Literal('file'), path: Type.String({ minLength: 1, maxLength: 1000 }) }),
  /** A board on a cable of the computer that the page is open on. */
  strictObject({
    kind: Type.Literal('serial'),
    baud: Type.Integer({ minimum: 300, maximum: 4_000_000 }),
  }),
]);
export type LinkSettings = Static<typeof LinkSettings>;
export type LinkKind = LinkSettings['kind'];

/** A fault of a simulated gadget, switched on and off while it runs. */
export const LinkFaults = strictObject({
  /** Share of readings that are swallowed. */
  dropOuts: Type.Number({ minimum: 0, maximum: 0.9 }),
  /** Column that stands still from now on. */
  stuck: nullable(Name),
  /** Share of lines that arrive as noise. */
  noise: Type.Number({ minimum: 0, maximum: 0.9 }),
});
export type LinkFaults = Static<typeof LinkFaults>;

export const NewLink = strictObject({ settings: LinkSettings, mapping: nullable(LineMapping) });
export type NewLink = Static<typeof NewLink>;

/** A link as the page sees it: without the hidden truth and without its token. */
export const Link = strictObject({
  id: Id,
  gadgetId: Id,
  kind: oneOf(['simulated', 'push', 'mqtt', 'file', 'serial'] as const),
  name: Name,
  state: oneOf(LINK_STATES),
  settings: LinkSettings,
  /** As the maker set it; null where it is told from the lines themselves. */
  mapping: nullable(LineMapping),
  speed: Type.Number(),
  conditions: Type.Array(strictObject({ id: Id, title: Type.String() })),
  condition: nullable(Id),
  faults: nullable(LinkFaults),
});
export type Link = Static<typeof Link>;

/** A link just made, with the token of a push link: it is told this once. */
export const MadeLink = strictObject({ link: Link, token: nullable(Type.String()) });
export type MadeLink = Static<typeof MadeLink>;

export const LinkPatch = Type.Partial(
  strictObject({
    condition: Id,
    speed: Type.Number({ minimum: 0.1, maximum: 50 }),
    plugged: Type.Boolean(),
    faults: LinkFaults,
    mapping: nullable(LineMapping),
    /** Another baud rate, topic or file; the kind stays. */
    settings: LinkSettings,
  }),
  { additionalProperties: false, minProperties: 1 },
);
export type LinkPatch = Static<typeof LinkPatch>;

/** The newest lines as they came, with what they are taken for. */
export const LinkLines = strictObject({
  lines: Type.Array(Type.String()),
  fields: Type.Array(
    strictObject({
      field: Type.String(),
      title: Type.String(),
      sample: Type.String(),
      numeric: Type.Boolean(),
    }),
  ),
  /** What the lines themselves suggest; null when no format fits. */
  suggested: nullable(LineMapping),
  /** What is used now. */
  used: nullable(LineMapping),
  /** Of the lines shown, how many `used` reads, and how many it does not. */
  read: Type.Integer(),
  unread: Type.Integer(),
});
export type LinkLines = Static<typeof LinkLines>;

/** What the foot line and the link's page need, several times a second. */
export const LinkStatus = strictObject({
  linkId: Id,
  state: oneOf(LINK_STATES),
  achievedHz: Type.Number(),
  /** Scatter of the arrivals about the gadget's own time, ms; null where it tells none. */
  jitterMs: nullable(Type.Number()),
  /** Silences after which readings came again. */
  gaps: Type.Integer(),
  lost: Type.Integer(),
  /** Readings that came twice and were dropped, and those that came too late to be put in order. */
  duplicated: Type.Integer(),
  late: Type.Integer(),
  /** Columns that have not moved at all for a while. */
  stuck: Type.Array(Type.String()),
  /** By how much the gadget's clock has fallen behind the server's since the link came up, s; null without gadget time. */
  clockBehindS: nullable(Type.Number()),
  badLines: Type.Integer(),
  lastBadLine: nullable(Type.String()),
  /** What hinders the link, in words. */
  problem: nullable(Type.String()),
  condition: nullable(Id),
  speed: Type.Number(),
  /** Instruments that stand beside the probes in the simulated world, to be read by the maker. */
  instruments: Type.Array(
    strictObject({
      title: Type.String(),
      value: Type.Number(),
      unit: Unit,
      uncertainty: Type.Number(),
      /** The raw column that it stands beside, where there is one for each. */
      column: Type.Optional(Type.String()),
    }),
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

/** Readings that a gadget sends by itself: one or many, oldest first. */
const Pushed = strictObject({
  /** The gadget's own time, s or an ISO date; left out, the time of arrival counts. */
  t: Type.Optional(Type.Union([Type.Number(), Type.String({ maxLength: 40 })])),
  /** Grows by one with each reading, so that lost and doubled ones are told. */
  seq: Type.Optional(Type.Integer({ minimum: 0 })),
  values: Type.Record(Type.String({ maxLength: 80 }), nullable(Type.Number())),
});
export const PushBody = Type.Union([
  strictObject({ readings: Type.Array(Pushed, { minItems: 1, maxItems: 10_000 }) }),
  Pushed,
]);
export type PushBody = Static<typeof PushBody>;

export const PushAnswer = strictObject({
  accepted: Type.Integer(),
  duplicated: Type.Integer(),
  late: Type.Integer(),
  /** With the reading's place in what was sent, from 0. */
  refused: Type.Array(strictObject({ index: Type.Integer(), reason: Type.String() })),
});
export type PushAnswer = Static<typeof PushAnswer>;

/** Text that a page reads from a cable and passes on. */
export const LinkText = strictObject({ text: Type.String({ maxLength: 900_000 }) });
export type LinkText = Static<typeof LinkText>;
