import { format } from 'date-fns';
import { Link } from 'react-router';
import type { Gadget, LinkStatus, OwnReference, ReferenceInput } from '@lucky-needle/core/model';
import {
  instrumentFor,
  dueState,
  referencesFor,
  startReference,
  type ReferenceKind,
} from '@lucky-needle/core/references';
import { printNominal, UNITS, type UnitId } from '@lucky-needle/core/units';
import { useOwnReferencesQuery } from '../../api/shelfApi.ts';
import { NumberField } from '../../parts/NumberField.tsx';

interface Props {
  readonly value: ReferenceInput;
  onChange(value: ReferenceInput): void;
  /** Told which field is wrong, by its label, and when it no longer is. */
  onFault(field: string, isWrong: boolean): void;
  readonly unit: UnitId;
  readonly gadget: Gadget;
  readonly instruments: LinkStatus['instruments'];
  /** Raw columns of the channel, for the instrument that stands beside them. */
  readonly columns: readonly string[];
  /** Whether its zero lies at the converter's end, where nothing below is told: then zero is no reference. */
  readonly zeroAtEnd?: boolean;
  /** What the line shows in clean air, for gas lines. */
  readonly cleanAir?: number | null;
}

interface Field {
  readonly name: string;
  readonly label: string;
  readonly unit: string;
  readonly low?: number;
  readonly high?: number;
  /** The lowest itself is not allowed. */
  readonly above?: boolean;
}

const positive = { low: 0, above: true };

/** Figures that the maker gives of a reference, by its kind; `of` stands for the reading's own unit. */
const FIELDS: Partial<Record<ReferenceKind, readonly Field[]>> = {
  'boiling-elevation': [{ name: 'elevationM', label: 'Elevation', unit: 'm', low: -430, high: 9000 }],
  'boiling-pressure': [
    { name: 'pressureHpa', label: 'Air pressure', unit: 'hPa', low: 300, high: 1100 },
    { name: 'uncertaintyHpa', label: 'Uncertainty ±', unit: 'hPa', low: 0, high: 50 },
  ],
  instrument: [
    { name: 'reading', label: 'Reading', unit: 'of' },
    { name: 'uncertainty', label: 'Uncertainty ±', unit: 'of', ...positive },
  ],
  meter: [
    { name: 'reading', label: 'Reading', unit: 'of' },
    { name: 'percentOfReading', label: 'Accuracy, of reading', unit: '%', low: 0, high: 100 },
    { name: 'digits', label: 'plus digits', unit: '', low: 0, high: 1000 },
    { name: 'resolution', label: 'One digit equals', unit: 'of', ...positive },
  ],
  mass: [
    { name: 'kilograms', label: 'Mass', unit: 'kg', low: 0 },
    { name: 'toleranceKg', label: 'Uncertainty ±', unit: 'kg', low: 0 },
  ],
  water: [
    { name: 'litres', label: 'Volume', unit: 'l', ...positive },
    { name: 'toleranceLitres', label: 'Uncertainty ±', unit: 'l', low: 0 },
    { name: 'waterC', label: 'Water temperature', unit: '°C', low: 0, high: 90 },
  ],
  'weight-force': [
    { name: 'kilograms', label: 'Mass', unit: 'kg', low: 0 },
    { name: 'toleranceKg', label: 'Uncertainty ±', unit: 'kg', low: 0 },
    { name: 'latitudeDeg', label: 'Latitude', unit: '°', low: -90, high: 90 },
    { name: 'elevationM', label: 'Elevation', unit: 'm', low: -430, high: 9000 },
  ],
  length: [
    { name: 'metres', label: 'Length', unit: 'm', low: 0 },
    { name: 'toleranceM', label: 'Ruler uncertainty ±', unit: 'm', ...positive },
    { name: 'placementM', label: 'Placement of each end ±', unit: 'm', low: 0 },
  ],
  stopwatch: [
    { name: 'seconds', label: 'Reading', unit: 's', ...positive },
    { name: 'reactionS', label: 'Reaction time', unit: 's', low: 0, high: 2, above: true },
  ],
  tally: [
    { name: 'count', label: 'Count', unit: '', low: 1 },
    { name: 'doubt', label: 'Uncertainty ±', unit: '', low: 0 },
    { name: 'seconds', label: 'Counting time', unit: 's', ...positive },
    { name: 'reactionS', label: 'Reaction time', unit: 's', low: 0, high: 2, above: true },
  ],
  crystal: [
    { name: 'seconds', label: 'Reading', unit: 's', ...positive },
    { name: 'ppm', label: 'Uncertainty ±', unit: 'ppm', ...positive },
  ],
  dilution: [
    { name: 'stock', label: 'Stock concentration', unit: 'of', ...positive },
    { name: 'stockPercent', label: 'Uncertainty ±', unit: '%', low: 0, high: 100 },
    { name: 'steps.0.taken', label: 'Volume taken', unit: 'ml', ...positive },
    { name: 'steps.0.takenPercent', label: 'Pipette uncertainty ±', unit: '%', low: 0, high: 100 },
    { name: 'steps.0.madeUpTo', label: 'Made up to', unit: 'ml', ...positive },
    { name: 'steps.0.madeUpPercent', label: 'Flask uncertainty ±', unit: '%', low: 0, high: 100 },
  ],
  'clean-air': [
    { name: 'ppm', label: 'Level in clean air', unit: 'ppm', low: 0 },
    { name: 'within', label: 'Uncertainty ±', unit: 'ppm', ...positive },
  ],
  nothing: [{ name: 'within', label: 'Zero uncertainty ±', unit: 'of', ...positive }],
  bearing: [
    { name: 'from.latitudeDeg', label: 'Your latitude', unit: '°', low: -90, high: 90 },
    { name: 'from.longitudeDeg', label: 'Your longitude', unit: '°', low: -180, high: 180 },
    { name: 'to.latitudeDeg', label: 'Landmark, latitude', unit: '°', low: -90, high: 90 },
    { name: 'to.longitudeDeg', label: 'Landmark, longitude', unit: '°', low: -180, high: 180 },
    { name: 'positionM', label: 'Position uncertainty ±', unit: 'm', ...positive },
  ],
};

/** Which reference the gadget is held against, of those that suit its reading, and what the maker knows of it. */
export function ReferenceFields(props: Props) {
  const { value, onChange, onFault, unit, gadget, instruments, columns, cleanAir = null } = props;
  const { zeroAtEnd = false } = props;
  const symbol = UNITS[unit].symbol;
  const beside = instrumentFor(instruments, unit, columns);
  const barometer = instruments.find((i) => i.unit === 'hPa');
  const start = (kind: ReferenceKind): ReferenceInput => {
    const plain = startReference(kind, unit, gadget.place);
    if (plain.kind === 'clean-air' && cleanAir !== null)
      return { ...plain, ppm: cleanAir, within: cleanAir / 5 };
    if (plain.kind === 'instrument' && beside)
      return { ...plain, reading: beside.value, uncertainty: beside.uncertainty };
    if (plain.kind === 'boiling-pressure' && barometer)
      return { ...plain, pressureHpa: barometer.value, uncertaintyHpa: barometer.uncertainty };
    return plain;
  };
  const all = referencesFor(unit);
  const offered = all.filter(({ kind }) => kind !== 'nothing' || !zeroAtEnd);
  const own = useOwnReferencesQuery().data ?? NONE;
  const mine = own.filter((r) => UNITS[r.unit].dimension === UNITS[unit].dimension);
  const today = new Date().toISOString().slice(0, 10);
  const chosen = value.kind === 'own' ? own.find((r) => r.id === value.referenceId) : undefined;
  const state = chosen && dueState(chosen, today);
  const fields = value.kind === 'own' ? [] : (FIELDS[value.kind] ?? []);
  const choose = (id: string) => {
    const reference = mine.find((r) => `own ${r.id}` === id);
    onChange(reference ? asInput(reference) : start(id as ReferenceKind));
  };
  return (
    <div className="grid gap-2">
      <select
        className="select select-sm w-full"
        aria-label="Reference"
        value={value.kind === 'own' ? `own ${value.referenceId}` : value.kind}
        onChange={(e) => {
          choose(e.target.value);
          // Nothing more is chosen here: the page's keys work again.
          e.target.blur();
        }}
      >
        {offered.map(({ kind, title }) => (
          <option key={kind} value={kind}>
            {title}
          </option>
        ))}
        {mine.length > 0 && (
          <optgroup label="Your references">
            {mine.map((r) => (
              <option key={r.id} value={`own ${r.id}`}>
                {r.title}
                {dueState(r, today).overdue ? ' (overdue)' : ''}
              </option>
            ))}
          </optgroup>
        )}
      </select>
      {offered.length < all.length && (
        <p className="muted text-xs">
          Zero is at the end of the ADC’s range, where values below it cannot be measured. Use a reference
          slightly above zero.
        </p>
      )}
      {state && (
        <p className={`text-xs ${state.overdue ? 'text-warning' : 'muted'}`}>
          Last checked {format(new Date(chosen.checkedOn), 'd MMM yyyy')},{' '}
          {state.overdue ? 'check overdue since' : 'next check due'}{' '}
          {format(new Date(state.dueOn), 'd MMM yyyy')}.
          {state.overdue && ' Have it checked before relying on it.'}
        </p>
      )}
      <Link to="/shelf/references" className="link muted justify-self-start text-xs">
        Manage your references
      </Link>
      {fields.length > 0 && (
        <div className={`grid gap-2 ${fields.length > 1 ? 'grid-cols-2' : ''}`}>
          {fields.map((field) => (
            <NumberField
              key={`${value.kind} ${field.name}`}
              label={field.label}
              unit={field.unit === 'of' ? symbol : field.unit}
              value={numberAt(value, field.name)}
              onChange={(v) => onChange(withNumberAt(value, field.name, v))}
              check={(v) => outside(v, field)}
              onFault={(fault) => onFault(field.label, fault !== null)}
            />
          ))}
        </div>
      )}
      {value.kind === 'instrument' && beside && beside.value !== value.reading && (
        <button
          type="button"
          className="btn btn-xs justify-self-start"
          onClick={() => onChange({ ...value, reading: beside.value, uncertainty: beside.uncertainty })}
        >
          {beside.title} reads {printNominal(beside.value, 4)} {UNITS[beside.unit].symbol} now: use this value
        </button>
      )}
    </div>
  );
}

const NONE: readonly OwnReference[] = [];

/** A reference of one's own as it stands today: the point keeps its value and day. */
const asInput = ({ id, title, value, uncertainty, unit, checkedOn }: OwnReference): ReferenceInput => ({
  kind: 'own',
  referenceId: id,
  title,
  value,
  uncertainty,
  unit,
  checkedOn,
});

function outside(v: number, { low, high, above }: Field): string | null {
  if (low !== undefined && (above ? v <= low : v < low))
    return above
      ? `Enter a value above ${low}.`
      : high === undefined
        ? `Enter ${low} or more.`
        : `Enter ${low} to ${high}.`;
  return high !== undefined && v > high ? `Enter ${high} or less.` : null;
}

const numberAt = (value: ReferenceInput, path: string): number =>
  Number(path.split('.').reduce<unknown>((v, key) => (v as Record<string, unknown>)[key], value));

function withNumberAt(value: ReferenceInput, path: string, number: number): ReferenceInput {
  const copy = structuredClone(value);
  const keys = path.split('.');
  const last = keys.pop()!;
  const owner = keys.reduce<unknown>((v, key) => (v as Record<string, unknown>)[key], copy);
  (owner as Record<string, unknown>)[last] = number;
  return copy;
}
