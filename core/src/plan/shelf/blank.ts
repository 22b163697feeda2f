import type {
  BoardPart,
  ConnectorPart,
  ConverterPart,
  DisplayPart,
  Part,
  PartKind,
  PassivePart,
  SensorPart,
  SounderPart,
  SupplyPart,
} from '../../model/part.ts';

const base = {
  price: 0,
  supplyLowV: 0,
  supplyHighV: 0,
  onA: 0,
  peakA: 0,
  warmUpA: 0,
  sleepA: 0,
  warmUpS: 0,
  logicV: 0,
  bearsV: 0,
  bus: 'none' as const,
  pinNeeds: [],
  addresses: [],
  bears: [],
  fails: [],
  hazards: [],
};

const BLANKS = {
  sensor: {
    kind: 'sensor',
    ...base,
    id: 'new-sensor',
    title: 'New sensor',
    summary: '',
    measurand: 'other',
    unit: '1',
    low: 0,
    high: 1,
    signal: 'number',
    processing: 'raw',
    step: 0,
    noise: 0,
    accuracyFixed: 0,
    accuracyShare: 0,
    afterTrueUp: 0,
    temperatureShare: 0,
    rateHz: 1,
    responseS: 0,
    perPart: 1,
    columns: 1,
    bitsPerReading: 0,
    zeroV: 0,
    fullV: 0,
    r0Ohm: 0,
    betaK: 0,
    seriesOhm: 0,
    baseline: 0,
    exponent: 0,
    frameRateHz: 0,
    shiftM: 0,
  } satisfies SensorPart,
  converter: {
    kind: 'converter',
    ...base,
    id: 'new-converter',
    title: 'New converter',
    summary: '',
    takes: ['voltage'],
    digitises: true,
    bits: 12,
    referenceV: 3.3,
    gain: 1,
    noiseCounts: 1,
    inputs: 1,
    rateHz: 100,
    bitsPerReading: 40,
  } satisfies ConverterPart,
  display: {
    kind: 'display',
    ...base,
    id: 'new-display',
    title: 'New display',
    summary: '',
    columns: 16,
    rows: 2,
    widthPx: 0,
    heightPx: 0,
    refreshS: 0.25,
  } satisfies DisplayPart,
  board: {
    kind: 'board',
    ...base,
    id: 'new-board',
    title: 'New board',
    summary: '',
    bits: 10,
    referenceV: 5,
    analogHz: 9000,
    noiseCounts: 0.5,
    pins: ['A0: analog digital'],
    usbHost: false,
    radio: false,
    storage: false,
    railA: 0.2,
  } satisfies BoardPart,
  supply: {
    kind: 'supply',
    ...base,
    id: 'new-supply',
    title: 'New supply',
    summary: '',
    volts: 5,
    limitA: 1,
    chemistry: 'wall',
    capacityAh: 0,
    usable: 1,
    ratedA: 1,
    peukert: 1,
  } satisfies SupplyPart,
  sounder: {
    kind: 'sounder',
    ...base,
    id: 'new-sounder',
    title: 'New sounder',
    summary: '',
    loudnessDb: 80,
    frequencyHz: 2000,
  } satisfies SounderPart,
  connector: {
    kind: 'connector',
    ...base,
    id: 'new-connector',
    title: 'New connector',
    summary: '',
    contacts: 2,
    ratedV: 50,
    ratedA: 1,
  } satisfies ConnectorPart,
  passive: {
    kind: 'passive',
    ...base,
    id: 'new-passive',
    title: 'New passive part',
    summary: '',
    value: 0,
    valueUnit: 'ohm',
    toleranceShare: 0.05,
    ratedW: 0.25,
  } satisfies PassivePart,
} as const;

/** A part of a kind with every field at its plain value: what a form starts from and what an empty cell of a file means. */
export function blankPart<K extends PartKind>(kind: K): Extract<Part, { kind: K }> {
  return structuredClone(BLANKS[kind]) as unknown as Extract<Part, { kind: K }>;
}

type Declared<K extends PartKind> = Partial<Omit<Extract<Part, { kind: K }>, 'kind'>> & {
  id: string;
  title: string;
  summary: string;
  price: number;
};

/** Declares parts of a kind; peaks and warm-up draw at least what the part draws while on. */
export function declare<K extends PartKind>(
  kind: K,
  parts: readonly Declared<K>[],
): Extract<Part, { kind: K }>[] {
  return parts.map((part) => {
    const onA = part.onA ?? 0;
    return { ...blankPart(kind), peakA: onA, warmUpA: onA, ...part } as Extract<Part, { kind: K }>;
  });
}
