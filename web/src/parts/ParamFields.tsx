import type { TObject, TSchema } from 'typebox';
import type { ParamValue } from '@lucky-needle/core/model';
import { UNITS, type UnitId } from '@lucky-needle/core/units';
import { ChannelsField } from './ChannelsField.tsx';
import { ListField } from './ListField.tsx';
import { NumberField } from './NumberField.tsx';
import { CHOICE_WORDS } from '@lucky-needle/core/words';

export type ParamRule = TSchema & {
  type?: string;
  title?: string;
  unit?: string;
  enum?: string[];
  minimum?: number;
  maximum?: number;
  exclusiveMinimum?: number;
  exclusiveMaximum?: number;
  minItems?: number;
  maxItems?: number;
  /** So many other channels it may name. */
  mostChannels?: number;
};

interface Props {
  readonly schema: TObject;
  readonly values: Readonly<Record<string, ParamValue>>;
  /** Unit of a parameter that its schema cannot know, such as a level of the reading. */
  unitOf?(name: string): string | undefined;
  /** Choices of a parameter that make sense here; all when not given. */
  choicesOf?(name: string, all: readonly string[]): readonly string[];
  hintOf?(name: string): string | undefined;
  /** Other channels that can be named. */
  readonly others?: readonly { readonly id: string; readonly name: string }[];
  /** Limits that are beyond anything are not shown in a field: so much is as good as nothing. */
  onChange(name: string, value: ParamValue): void;
}

/** A field for each parameter of a stage, a detector or a figure, made from its schema. */
export function ParamFields({ schema, values, unitOf, choicesOf, hintOf, others = [], onChange }: Props) {
  return rulesOf(schema).map(([name, rule]) => {
    const label = rule.title ?? name;
    const value = values[name];
    const unit = unitOf?.(name) ?? (rule.unit && symbolOf(rule.unit));
    if (rule.enum) {
      const choices = choicesOf?.(name, rule.enum) ?? rule.enum;
      return (
        <label key={name} className="block">
          <span className="muted mb-1 block text-xs">{label}</span>
          <select
            className="select select-sm w-full"
            value={String(value ?? choices[0])}
            onChange={(e) => onChange(name, e.target.value)}
          >
            {choices.map((v) => (
              <option key={v} value={v}>
                {wordFor(v)}
              </option>
            ))}
          </select>
        </label>
      );
    }
    if (rule.type === 'boolean')
      return (
        <label key={name} className="flex items-center gap-2 text-sm sm:mt-5">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={value === true}
            onChange={(e) => onChange(name, e.target.checked)}
          />
          {label}
        </label>
      );
    if (rule.type === 'array')
      return (
        <ListField
          key={name}
          label={label}
          unit={unit}
          value={(value as number[] | undefined) ?? []}
          least={rule.minItems ?? 0}
          most={rule.maxItems ?? Infinity}
          onChange={(v) => onChange(name, v)}
        />
      );
    if (rule.mostChannels !== undefined)
      return (
        <ChannelsField
          key={name}
          label={label}
          value={String(value ?? '')}
          others={others}
          most={rule.mostChannels}
          onChange={(v) => onChange(name, v)}
        />
      );
    if (rule.type === 'string')
      return (
        <label key={name} className="block sm:col-span-2">
          <span className="muted mb-1 block text-xs">{label}</span>
          <input
            className="input input-sm num w-full"
            autoComplete="off"
            spellCheck={false}
            value={String(value ?? '')}
            onChange={(e) => onChange(name, e.target.value)}
          />
        </label>
      );
    const hint = hintOf?.(name);
    return (
      <NumberField
        key={name}
        label={label}
        unit={unit}
        value={value === undefined ? null : Number(value)}
        check={(v) => outside(v, rule)}
        onChange={(v) => onChange(name, v)}
        {...(hint ? { hint } : {})}
      />
    );
  });
}

export const rulesOf = (schema: TObject): [string, ParamRule][] =>
  Object.entries(schema.properties as Record<string, ParamRule>);

/** Units in schemas are ids of the table where they can be. */
export function symbolOf(unit: string): string {
  return unit in UNITS ? UNITS[unit as UnitId].symbol : unit;
}

/** The word of a choice: a unit of the table by its symbol, anything else from the list of words. */
export function wordFor(value: string): string {
  if (CHOICE_WORDS[value]) return CHOICE_WORDS[value];
  return value in UNITS ? UNITS[value as UnitId].symbol || UNITS[value as UnitId].name : value;
}

function outside(value: number, rule: ParamRule): string | null {
  if (rule.type === 'integer' && !Number.isInteger(value)) return 'Enter a whole number.';
  if (rule.exclusiveMinimum !== undefined && value <= rule.exclusiveMinimum)
    return `Enter a value above ${rule.exclusiveMinimum}.`;
  if (rule.exclusiveMaximum !== undefined && value >= rule.exclusiveMaximum)
    return `Enter a value below ${rule.exclusiveMaximum}.`;
  if (rule.minimum !== undefined && value < rule.minimum) return `Enter ${rule.minimum} or more.`;
  if (rule.maximum !== undefined && value > rule.maximum) return `Enter ${rule.maximum} or less.`;
  return null;
}
