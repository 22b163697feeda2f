// What people read in the place of keys that are stored, sent or compared. Keys never reach a page, a report or a message.

/** What a sensor measures. */
export const MEASURAND_WORDS = {
  temperature: 'temperature',
  'ferment vapour': 'fermentation vapour',
  ammonia: 'ammonia',
  'solvent vapour': 'solvent vapour',
  distance: 'distance',
  acceleration: 'acceleration',
  voltage: 'voltage',
  current: 'current',
  'reflected light': 'reflected light',
  force: 'force',
  'light through a sample': 'transmitted light',
  rotation: 'rotation',
  'speed over ground': 'ground speed',
  heading: 'heading',
  displacement: 'displacement',
  pressure: 'pressure',
  humidity: 'humidity',
  sound: 'sound',
  other: 'something else',
  'worked out': 'nothing (calculated from the other quantities)',
} as const;

/** What a sensor outputs, and what a converter accepts. */
export const SIGNAL_WORDS = {
  number: 'a finished number',
  codes: 'raw counts',
  voltage: 'voltage',
  bridge: 'bridge voltage',
  light: 'photocurrent or voltage',
  thermistor: 'thermistor resistance',
  'heated element': 'heated gas sensor resistance',
  edges: 'edges',
  echo: 'echo times',
} as const;

/** What the place does to a gadget. */
export const ENVIRONMENT_WORDS = {
  sun: 'sunlight',
  damp: 'moisture',
  heat: 'heat',
  shaking: 'vibration',
  magnets: 'magnetic fields',
  dust: 'dust',
} as const;

export const CHEMISTRY_WORDS = {
  alkaline: 'alkaline',
  'nickel-metal hydride': 'nickel–metal hydride (NiMH)',
  'lithium-ion': 'lithium-ion',
  'lead-acid': 'lead–acid',
  'zinc-carbon': 'zinc–carbon',
  wall: 'mains adapter',
} as const;

/** What a pin can do. */
export const PIN_WORDS = {
  analog: 'analog input',
  digital: 'digital',
  interrupt: 'interrupt',
  pwm: 'PWM',
  'i2c-data': 'I2C data',
  'i2c-clock': 'I2C clock',
  spi: 'SPI',
  serial: 'serial',
} as const;

/** What a pin can do; a maker's own board may name something else, which stays as it is written. */
export const pinWord = (key: string): string => PIN_WORDS[key as keyof typeof PIN_WORDS] ?? key;

export const HAZARD_WORDS = {
  hot: 'hot surface',
  mains: 'mains voltage',
  lithium: 'lithium cell',
  gas: 'gas',
  body: 'worn on the body',
  impact: 'impact',
  laser: 'laser',
  spinning: 'rotating parts',
  speed: 'speed',
  solder: 'soldering',
  magnet: 'strong magnet',
} as const;

/** How the display of a part looks. */
export const APPEARANCE_WORDS = {
  reflective: 'reflective LCD',
  'self-lit': 'OLED',
  paper: 'e-paper',
  colour: 'colour LCD',
} as const;

/** Where a sensor's readings are processed. */
export const PROCESSING_WORDS = { raw: 'on the board (raw readings)', own: 'on the module' } as const;

export const VERDICT_WORDS = { pass: 'Pass', fail: 'Fail', 'not shown': 'Not proven' } as const;

export const CALIBRATION_WORDS = { draft: 'draft', 'in use': 'active', replaced: 'replaced' } as const;

export const ALARM_WORDS = { unknown: 'unknown', quiet: 'OK', caution: 'caution', limit: 'limit' } as const;

export const LINK_WORDS = { up: 'connected', lost: 'no data', unplugged: 'unplugged' } as const;

export const CABLE_WORDS = {
  out: 'not connected',
  opening: 'opening the port…',
  reading: 'reading',
  'trying again': 'reconnecting…',
} as const;

export const CELL_WORDS = {
  good: 'good',
  worn: 'worn',
  spent: 'at the end of its life',
  'not shown': 'not proven',
  empty: 'empty slot',
  reversed: 'reversed cell',
  dead: 'dead cell',
  'wrong chemistry': 'wrong type of cell',
  ready: 'ready',
} as const;

/** Values that a parameter of a stage, an event detector, a result or a study can be set to. */
export const CHOICE_WORDS: Readonly<Record<string, string>> = {
  ratio: 'fraction of the reference',
  volt: 'voltage',
  top: 'supply',
  bottom: 'ground',
  unsigned: 'unsigned',
  signed: 'signed',
  'one turn': 'one turn',
  'one edge': 'one edge',
  'there and back': 'both ways (echo)',
  'one way': 'one way',
  linear: 'straight lines',
  pchip: 'shape-preserving (PCHIP)',
  'natural-cubic': 'natural cubic spline',
  'not-a-knot-cubic': 'not-a-knot cubic spline',
  lagrange: 'single polynomial (Lagrange)',
  'no number': 'no reading',
  'go on': 'extrapolate',
  'along x': 'along x',
  'along y': 'along y',
  path: 'along the path',
  net: 'net, from start to end',
  hamming: 'Hamming',
  hann: 'Hann',
  blackman: 'Blackman',
  mean: 'mean',
  last: 'last',
  absorbance: 'absorbance',
  transmittance: 'transmittance',
  centre: 'centre of the window',
  newest: 'latest reading',
  value: 'reading',
  size: 'magnitude',
  rising: 'rising',
  falling: 'falling',
  either: 'either direction',
  up: 'going up',
  down: 'going down',
  above: 'above',
  below: 'below',
  'both ways': 'all, with sign',
  'only above zero': 'positive only',
  'only below zero': 'negative only',
  sizes: 'absolute values',
  'run-down time': 'run-down time',
  'run-up time': 'spin-up time',
  'time constant': 'time constant of the run-down',
  highest: 'highest',
  lowest: 'lowest',
  largest: 'largest magnitude',
  longest: 'longest',
};

/** Kinds of quantity that units measure, where the key is not the word. */
const DIMENSION_WORDS: Readonly<Record<string, string>> = {
  'turning rate': 'angular velocity',
  house: 'an arbitrary unit',
  level: 'level',
  count: 'a count',
};

/** A kind of quantity as a sentence has it: "an angle", "pressure". */
export const dimensionWord = (dimension: string): string => DIMENSION_WORDS[dimension] ?? dimension;

/** Why a line that a board sent could not be read. */
export const LINE_FAULT_WORDS = {
  'too-long': 'too long',
  'not-that-format': 'different format',
  'unknown-format': 'unknown format',
  'wrong-columns': 'missing or extra values',
  'not-a-number': 'not a number',
  'no-time': 'no valid time',
} as const;
