import { PART_SCHEMAS, type PartKind, type SensorPart } from '@lucky-needle/core/model';

/** A field of a part as a form shows it. */
export interface PartField {
  readonly name: string;
  readonly label: string;
  readonly unit: string;
  /** Choices of a field that has them. */
  readonly choices: readonly string[] | null;
  readonly input: 'text' | 'number' | 'yes-no' | 'choice' | 'list';
}

export interface FieldGroup {
  readonly title: string;
  readonly fields: readonly PartField[];
}

const LABELS: Readonly<Record<string, string>> = {
  id: 'Id',
  title: 'Title',
  bus: 'Talks over',
  pinNeeds: 'Further pins',
  addresses: 'Addresses on the two-wire bus',
  bears: 'Bears',
  fails: 'Does not bear',
  hazards: 'Dangers',
  measurand: 'Feels',
  unit: 'Unit',
  signal: 'Gives',
  processing: 'Processed',
  takes: 'Takes',
  digitises: 'Converts to codes',
  pins: 'Pins',
  usbHost: 'Can be USB host',
  radio: 'Has a radio',
  storage: 'Keeps files',
  chemistry: 'Chemistry',
  valueUnit: 'Unit of the value',
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
    group('What it is', WHAT),
    group(
      'What it does',
      shown.filter((name) => !known.includes(name)),
    ),
    group('Electrically', ELECTRIC),
    group('Where it can be', PLACE),
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
