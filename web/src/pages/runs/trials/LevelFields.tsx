import { useState } from 'react';
import { detectorKind } from '@lucky-needle/core/detect';
import type { WatchSpec } from '@lucky-needle/core/model';
import { UNITS, type UnitId } from '@lucky-needle/core/units';

interface Props {
  readonly watch: WatchSpec;
  /** Of the channel's reading; null where its line does not run. */
  readonly unit: UnitId | null;
  onChange(watch: WatchSpec): void;
}

interface NumberSchema {
  readonly type?: string;
  readonly title?: string;
  readonly unit?: string;
}

/** Numbers that a detector goes by, to be tried on old runs before they are kept. */
export function LevelFields({ watch, unit, onChange }: Props) {
  const kind = detectorKind(watch.kind);
  if (!kind) return null;
  const fields = Object.entries(kind.params.properties as unknown as Record<string, NumberSchema>).filter(
    ([, schema]) => schema.type === 'number',
  );
  if (fields.length === 0) return null;
  return (
    <fieldset className="flex flex-wrap items-end gap-3">
      <legend className="mb-1 text-xs font-semibold">{watch.name} settings</legend>
      {fields.map(([name, schema]) => (
        <NumberField
          key={name}
          label={schema.title ?? name}
          unit={kind.levels.includes(name) ? (unit ? UNITS[unit].symbol : '') : (schema.unit ?? '')}
          value={Number(watch.params[name] ?? (kind.defaults as Record<string, unknown>)[name])}
          onChange={(value) => onChange({ ...watch, params: { ...watch.params, [name]: value } })}
        />
      ))}
      <NumberField
        label="Dead time"
        unit="s"
        value={watch.deadTimeS}
        onChange={(deadTimeS) => onChange({ ...watch, deadTimeS })}
      />
    </fieldset>
  );
}

interface NumberFieldProps {
  readonly label: string;
  readonly unit: string;
  readonly value: number;
  onChange(value: number): void;
}

/** What is typed stays as it is typed; what is no number is told by the fault of the rule. */
function NumberField({ label, unit, value, onChange }: NumberFieldProps) {
  const [typed, setTyped] = useState<string | null>(null);
  return (
    <label className="block">
      <span className="muted mb-1 block text-xs">
        {label}
        {unit && `, ${unit}`}
      </span>
      <input
        className="input input-sm num w-24"
        inputMode="decimal"
        value={typed ?? String(value)}
        onChange={(e) => {
          setTyped(e.target.value);
          const text = e.target.value.trim().replace(',', '.').replace('−', '-');
          onChange(text === '' ? Number.NaN : Number(text));
        }}
        onBlur={() => {
          if (Number.isFinite(value)) setTyped(null);
        }}
      />
    </label>
  );
}

/** What is wrong with the numbers of a watch; null where nothing is. */
export function faultOfWatch({ name, params, deadTimeS }: WatchSpec): string | null {
  const bad = Object.values(params).some((v) => typeof v === 'number' && Number.isNaN(v));
  return bad || !(deadTimeS >= 0) ? `Every field of ${name} must be a number.` : null;
}
