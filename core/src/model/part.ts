import { Type, type Static } from 'typebox';
import { Id, Name, Unit, oneOf, strictObject } from './common.ts';
import { SURROUNDINGS } from './surroundings.ts';

/** What a sensor feels, and what an ask needs felt. "worked out" needs no sensor: it follows from other channels. */
export const MEASURANDS = [
  'temperature',
  'ferment vapour',
  'ammonia',
  'solvent vapour',
  'distance',
  'acceleration',
  'voltage',
  'current',
  'reflected light',
  'force',
  'light through a sample',
  'rotation',
  'speed over ground',
  'heading',
  'displacement',
  'pressure',
  'humidity',
  'sound',
  'other',
  'worked out',
] as const;
export type Measurand = (typeof MEASURANDS)[number];

/** How a part talks to the board. */
export const BUSES = [
  'none',
  'analog',
  'digital',
  'edge',
  'I2C',
  'SPI',
  'one-wire',
  'serial',
  'USB device',
] as const;
export type BusKind = (typeof BUSES)[number];

/** How a sensor's reading comes about. */
export const SIGNALS = [
  /** A finished number, processed on the module. */
  'number',
  /** Raw codes over a bus, `step` each. */
  'codes',
  /** Volts from `zeroV` at `low` to `fullV` at `high`. */
  'voltage',
  /** A bridge: `fullV` volts at `high`, a few millivolts. */
  'bridge',
  /** Light through a sample: `zeroV` volts with the blank, a tenth of it for each absorbance. */
  'light',
  /** A thermistor in a divider. */
  'thermistor',
  /** A heated element over a load resistor. */
  'heated element',
  /** Edges to be timed or counted. */
  'edges',
  /** Echo times. */
  'echo',
] as const;

/** Pin talents and parts' further needs. */
export const PIN_TALENTS = [
  'analog',
  'digital',
  'interrupt',
  'pwm',
  'i2c-data',
  'i2c-clock',
  'spi',
  'serial',
] as const;
export type PinTalent = (typeof PIN_TALENTS)[number];

/** Dangers that parts bring with them; the cautions that they call for are in core/plan. */
export const HAZARDS = [
  'hot',
  'mains',
  'lithium',
  'gas',
  'body',
  'impact',
  'laser',
  'spinning',
  'speed',
  'solder',
  'magnet',
] as const;
export type Hazard = (typeof HAZARDS)[number];

const quantity = (title: string, unit: string, maximum: number, minimum = 0) =>
  Type.Number({ title, unit, minimum, maximum });

const base = {
  id: Id,
  title: Name,
  summary: Type.String({ title: 'Summary', maxLength: 200 }),
  /** In the maker's own money. */
  price: quantity('Price', '', 1e6),
  /** Supply it takes; 0 to 0 for a part without one. */
  supplyLowV: quantity('Supply voltage, minimum', 'V', 400),
  supplyHighV: quantity('Supply voltage, maximum', 'V', 400),
  onA: quantity('Operating current', 'A', 100),
  peakA: quantity('Peak current', 'A', 100),
  warmUpA: quantity('Warm-up current', 'A', 100),
  sleepA: quantity('Sleep current', 'A', 100),
  warmUpS: quantity('Warm-up time', 's', 7 * 86400),
  /** What its outputs swing to; 0 without logic. */
  logicV: quantity('Logic voltage', 'V', 24),
  /** The most that its logic inputs bear; 0 without logic. */
  bearsV: quantity('Logic inputs, maximum', 'V', 48),
  bus: oneOf(BUSES),
  /** Pins beyond those of its bus. */
  pinNeeds: Type.Array(oneOf(PIN_TALENTS), { maxItems: 12 }),
  /** Two-wire addresses that it can be set to, the present one first. */
  addresses: Type.Array(Type.Integer({ minimum: 3, maximum: 119 }), { maxItems: 8 }),
  bears: Type.Array(oneOf(SURROUNDINGS), { maxItems: SURROUNDINGS.length }),
  fails: Type.Array(oneOf(SURROUNDINGS), { maxItems: SURROUNDINGS.length }),
  hazards: Type.Array(oneOf(HAZARDS), { maxItems: HAZARDS.length }),
};

export const SensorPart = strictObject({
  kind: Type.Literal('sensor'),
  ...base,
  measurand: oneOf(MEASURANDS),
  unit: Unit,
  low: Type.Number({ title: 'Measuring range, lowest' }),
  high: Type.Number({ title: 'Measuring range, highest' }),
  signal: oneOf(SIGNALS),
  processing: oneOf(['raw', 'own'] as const),
  /** Smallest step in the sensor's unit, for numbers and codes; 0 where the converter makes the step. */
  step: quantity('Resolution', '', 1e9),
  /** Standard deviation of single readings, in the sensor's unit. */
  noise: quantity('Noise (standard deviation)', '', 1e9),
  /** Half-width as bought: hypot(fixed, share x |reading|). */
  accuracyFixed: quantity('Datasheet accuracy ±, fixed part', '', 1e9),
  accuracyShare: quantity('Datasheet accuracy ±, share of reading', '', 1),
  /** Half-width that a true-up leaves: drift, hysteresis, noise. */
  afterTrueUp: quantity('Uncertainty ± left after calibration', '', 1e9),
  /** What a reading moves by as the sensor gets warmer, as its share for each kelvin; 0 or left out where nobody states it. */
  temperatureShare: Type.Optional(quantity('Temperature effect, share of reading per kelvin', '1/K', 1)),
  /** Most readings a second; for edges the most edges a second. */
  rateHz: Type.Number({
    title: 'Maximum readings per second',
    unit: 'Hz',
    exclusiveMinimum: 0,
    maximum: 1e9,
  }),
  /** Time to follow 63 % of a step. */
  responseS: quantity('Time constant', 's', 86400),
  /** Channels that one piece serves. */
  perPart: Type.Integer({ title: 'Channels per part', minimum: 1, maximum: 64 }),
  /** Raw columns that one piece gives. */
  columns: Type.Integer({ title: 'Columns per part', minimum: 1, maximum: 16 }),
  bitsPerReading: Type.Integer({ title: 'Bus bits per reading', minimum: 0, maximum: 100000 }),
  zeroV: quantity('Output voltage at lowest reading', 'V', 100, -100),
  fullV: quantity('Output voltage at highest reading', 'V', 100, -100),
  /** R0 of a thermistor or of a heated element in clean air. */
  r0Ohm: quantity('Reference resistance (R0)', 'ohm', 1e9),
  betaK: quantity('Beta', 'K', 20000),
  /** Series or load resistor. */
  seriesOhm: quantity('Series or load resistor', 'ohm', 1e9),
  /** Heated element: ppm = baseline x (Rs/R0)^exponent. */
  baseline: quantity('Level in clean air', '', 1e9),
  exponent: quantity('Curve exponent', '', 50, -50),
  /** Tracking by image shift: frames a second and the usable shift of one frame. */
  frameRateHz: quantity('Frames per second', 'Hz', 1e6),
  shiftM: quantity('Usable shift per frame', 'm', 1),
});
export type SensorPart = Static<typeof SensorPart>;

export const ConverterPart = strictObject({
  kind: Type.Literal('converter'),
  ...base,
  /** Signals it takes. */
  takes: Type.Array(oneOf(['voltage', 'bridge', 'light', 'thermistor', 'heated element'] as const), {
    minItems: 1,
  }),
  /** False for an amplifier that leaves the converting to the board. */
  digitises: Type.Boolean(),
  bits: Type.Integer({ title: 'Bits', minimum: 1, maximum: 32 }),
  referenceV: Type.Number({
    title: 'Full-scale input voltage',
    unit: 'V',
    exclusiveMinimum: 0,
    maximum: 400,
  }),
  gain: Type.Number({ title: 'Gain', exclusiveMinimum: 0, maximum: 1e5 }),
  noiseCounts: quantity('Noise (standard deviation)', 'counts', 1e6),
  inputs: Type.Integer({ title: 'Inputs', minimum: 1, maximum: 64 }),
  rateHz: Type.Number({ title: 'Conversions per second', unit: 'Hz', exclusiveMinimum: 0, maximum: 1e9 }),
  bitsPerReading: Type.Integer({ title: 'Bus bits per reading', minimum: 0, maximum: 100000 }),
});
export type ConverterPart = Static<typeof ConverterPart>;

export const DisplayPart = strictObject({
  kind: Type.Literal('display'),
  ...base,
  columns: Type.Integer({ title: 'Characters per row', minimum: 1, maximum: 200 }),
  rows: Type.Integer({ title: 'Rows', minimum: 1, maximum: 100 }),
  /** 0 for a display of characters. */
  widthPx: Type.Integer({ title: 'Width, pixels', minimum: 0, maximum: 10000 }),
  heightPx: Type.Integer({ title: 'Height, pixels', minimum: 0, maximum: 10000 }),
  refreshS: quantity('Refresh time', 's', 600),
  /** How it looks; dark on grey where nothing is said. */
  shows: Type.Optional(
    oneOf(['reflective', 'self-lit', 'paper', 'colour'] as const, { title: 'Appearance' }),
  ),
});
export type DisplayPart = Static<typeof DisplayPart>;

export const BoardPart = strictObject({
  kind: Type.Literal('board'),
  ...base,
  bits: Type.Integer({ title: 'ADC bits', minimum: 1, maximum: 24 }),
  referenceV: Type.Number({ title: 'ADC reference voltage', unit: 'V', exclusiveMinimum: 0, maximum: 10 }),
  analogHz: quantity('ADC conversions per second', 'Hz', 1e8),
  noiseCounts: quantity('ADC noise (standard deviation)', 'counts', 1000),
  /** "A4: analog digital i2c-data"; "D0: digital serial !console" is reserved; "A6: analog ~radio" fails beside the radio. */
  pins: Type.Array(
    Type.String({ pattern: '^[A-Za-z0-9_+-]{1,8}: [a-z0-9 -]+( ![a-z -]+)?( ~[a-z -]+)?$', maxLength: 100 }),
    { minItems: 1, maxItems: 80 },
  ),
  usbHost: Type.Boolean(),
  radio: Type.Boolean(),
  storage: Type.Boolean(),
  /** What its own regulator gives to others, and the supply that the regulator takes. */
  railA: quantity('Regulator output, maximum current', 'A', 10),
});
export type BoardPart = Static<typeof BoardPart>;

export const CHEMISTRIES = [
  'alkaline',
  'nickel-metal hydride',
  'lithium-ion',
  'lead-acid',
  'zinc-carbon',
  'wall',
] as const;

export const SupplyPart = strictObject({
  kind: Type.Literal('supply'),
  ...base,
  volts: Type.Number({ title: 'Output voltage', unit: 'V', exclusiveMinimum: 0, maximum: 60 }),
  limitA: Type.Number({ title: 'Maximum output current', unit: 'A', exclusiveMinimum: 0, maximum: 100 }),
  chemistry: oneOf(CHEMISTRIES),
  /** 0 for a wall supply. */
  capacityAh: quantity('Capacity', 'Ah', 1000),
  usable: Type.Number({ title: 'Usable capacity share', exclusiveMinimum: 0, maximum: 1 }),
  ratedA: Type.Number({ title: 'Rated current', unit: 'A', exclusiveMinimum: 0, maximum: 100 }),
  peukert: Type.Number({ title: 'Peukert exponent', minimum: 1, maximum: 2 }),
});
export type SupplyPart = Static<typeof SupplyPart>;

export const SounderPart = strictObject({
  kind: Type.Literal('sounder'),
  ...base,
  loudnessDb: quantity('Sound level at 0.1 m', 'dB', 140),
  frequencyHz: quantity('Frequency', 'Hz', 20000),
});
export type SounderPart = Static<typeof SounderPart>;

export const ConnectorPart = strictObject({
  kind: Type.Literal('connector'),
  ...base,
  contacts: Type.Integer({ title: 'Contacts', minimum: 1, maximum: 100 }),
  ratedV: quantity('Rated voltage', 'V', 1000),
  ratedA: quantity('Rated current', 'A', 100),
});
export type ConnectorPart = Static<typeof ConnectorPart>;

export const PassivePart = strictObject({
  kind: Type.Literal('passive'),
  ...base,
  value: Type.Number({ title: 'Value', minimum: 0, maximum: 1e12 }),
  valueUnit: Unit,
  toleranceShare: quantity('Tolerance', '', 1),
  ratedW: quantity('Rated power', 'W', 1000),
});
export type PassivePart = Static<typeof PassivePart>;

export const PART_SCHEMAS = {
  sensor: SensorPart,
  converter: ConverterPart,
  display: DisplayPart,
  board: BoardPart,
  supply: SupplyPart,
  sounder: SounderPart,
  connector: ConnectorPart,
  passive: PassivePart,
} as const;
export type PartKind = keyof typeof PART_SCHEMAS;
export const PART_KINDS = Object.keys(PART_SCHEMAS) as PartKind[];

export const Part = Type.Union([
  SensorPart,
  ConverterPart,
  DisplayPart,
  BoardPart,
  SupplyPart,
  SounderPart,
  ConnectorPart,
  PassivePart,
]);
export type Part = Static<typeof Part>;

/** A part of the maker's own, with its version for optimistic saving. */
export const OwnPart = strictObject({ part: Part, version: Type.Integer({ minimum: 1 }) });
export type OwnPart = Static<typeof OwnPart>;

/** What is wrong in a file of parts: rows count from 1, the first row of data. */
export const PartIssue = strictObject({
  row: Type.Integer({ minimum: 0 }),
  code: oneOf(['not-a-part', 'unknown-kind', 'bad-field', 'unknown-field', 'rule', 'twice'] as const),
  field: Type.String(),
  message: Type.String(),
});
export type PartIssue = Static<typeof PartIssue>;

export const PartsImported = strictObject({
  added: Type.Array(Id),
  replaced: Type.Array(Id),
  issues: Type.Array(PartIssue),
});
export type PartsImported = Static<typeof PartsImported>;
