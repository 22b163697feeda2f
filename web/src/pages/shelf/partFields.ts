import { PART_SCHEMAS, type PartKind, type SensorPart } from '@lucky-needle/core/model';
import {
  APPEARANCE_WORDS,
  CHEMISTRY_WORDS,
  ENVIRONMENT_WORDS,
  HAZARD_WORDS,
  MEASURAND_WORDS,
  PIN_WORDS,
  PROCESSING_WORDS,
  SIGNAL_WORDS,
} from '@lucky-needle/core/words';

/** A field of a part as a form shows it. */
export interface PartField {
  readonly name: string;
  readonly label: string;
  readonly unit: string;
  /** Choices of a field that has them. */
  readonly choices: readonly string[] | null;
  /** The word of a choice. */
  wordOf(choice: string): string;
  readonly input: 'text' | 'number' | 'yes-no' | 'choice' | 'list';
}

export interface FieldGroup {
  readonly title: string;
  readonly fields: readonly PartField[];
}

const LABELS: Readonly<Record<string, string>> = {
  id: 'Id',
  title: 'Name',
  bus: 'Interface',
  pinNeeds: 'Additional pins',
  addresses: 'I2C addresses',
  bears: 'Suitable for',
  fails: 'Not suitable for',
  hazards: 'Hazards',
  measurand: 'Measures',
  unit: 'Unit',
  signal: 'Output',
  processing: 'Processing',
  takes: 'Accepts',
  digitises: 'Digital output',
  pins: 'Pins',
  usbHost: 'USB host',
  radio: 'Radio',
  storage: 'File storage',
  chemistry: 'Chemistry',
  valueUnit: 'Value unit',
};

/** Fields of a sensor that only some signals have. */
const ONLY_FOR: Readonly<Record<string, readonly SensorPart['signal'][]>> = {
  step: ['number', 'codes', 'edges', 'echo'],
  zeroV: ['voltage', 'bridge', 'light'],
  fullV: ['voltage', 'bridge'],
  r0Ohm: ['thermistor', 'heated element'],
  betaK: ['thermistor'],
  seriesOhm: ['thermistor', 'heated element'],
  baseline: ['heated element'],
  exponent: ['heated element'],
  frameRateHz: ['number'],
  shiftM: ['number'],
};

const CHOICES: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  bears: ENVIRONMENT_WORDS,
  fails: ENVIRONMENT_WORDS,
  hazards: HAZARD_WORDS,
  measurand: MEASURAND_WORDS,
  signal: SIGNAL_WORDS,
  processing: PROCESSING_WORDS,
  takes: SIGNAL_WORDS,
  chemistry: CHEMISTRY_WORDS,
  look: APPEARANCE_WORDS,
  pinNeeds: PIN_WORDS,
};

const WHAT = ['id', 'title', 'summary', 'price'];
const ELECTRIC = [
  'supplyLowV',
  'supplyHighV',
  'onA',
  'peakA',
  'warmUpA',
  'sleepA',
  'warmUpS',
  'logicV',
  'bearsV',
  'bus',
  'pinNeeds',
  'addresses',
];
const PLACE = ['bears', 'fails', 'hazards'];

/** The fields of a kind of part in groups; those that its signal has no use for are left out. */
export function fieldGroups(kind: PartKind, signal: string | undefined): FieldGroup[] {
  const shown = Object.keys(PART_SCHEMAS[kind].properties).filter(
    (name) => name !== 'kind' && (!ONLY_FOR[name] || ONLY_FOR[name].some((s) => s === signal)),
  );
  const known = [...WHAT, ...ELECTRIC, ...PLACE];
  const group = (title: string, names: readonly string[]): FieldGroup => ({
    title,
    fields: names.map((name) => fieldOf(kind, name)),
  });
  return [
    group('Identification', WHAT),
    group(
      'Function',
      shown.filter((name) => !known.includes(name)),
    ),
    group('Electrical', ELECTRIC),
    group('Environment', PLACE),
  ];
}

interface FieldRule {
  readonly type: string;
  readonly title?: string;
  readonly unit?: string;
  readonly enum?: readonly string[];
  readonly items?: { readonly enum?: readonly string[] };
}

function fieldOf(kind: PartKind, name: string): PartField {
  const rule = (PART_SCHEMAS[kind].properties as unknown as Record<string, FieldRule>)[name]!;
  return {
    name,
    label: LABELS[name] ?? rule.title ?? name,
    unit: rule.unit ?? '',
    choices: rule.enum ?? rule.items?.enum ?? null,
    wordOf: (choice) => CHOICES[name]?.[choice] ?? choice,
    input:
      rule.type === 'array'
        ? 'list'
        : rule.enum
          ? 'choice'
          : rule.type === 'boolean'
            ? 'yes-no'
            : rule.type === 'string'
              ? 'text'
              : 'number',
  };
}
