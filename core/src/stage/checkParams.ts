import type { TObject, TSchema } from 'typebox';
import type { ParamValue } from '../model/line.ts';
import { UNITS, type UnitId } from '../units/index.ts';
import { CHOICE_WORDS } from '../words/index.ts';

interface NumberRule {
  type?: string;
  title?: string;
  unit?: string;
  minimum?: number;
  maximum?: number;
  exclusiveMinimum?: number;
  exclusiveMaximum?: number;
  enum?: readonly string[];
  minItems?: number;
  maxItems?: number;
  maxLength?: number;
  items?: NumberRule;
}

/** What has parameters: a stage, a detector or a figure. */
interface Parametrised {
  readonly title: string;
  readonly params: TObject;
}

/**
 * Checks parameters against the schema of their own kind: presence, limits, choices.
 * @throws {TypeError} for a missing or wrong kind of value
 * @throws {RangeError} for a value outside its limits
 */
export function checkParams(kind: Parametrised, params: Readonly<Record<string, ParamValue>>): void {
  const rules = rulesOf(kind);
  for (const { name, label, rule, isRequired } of rules.values()) {
    const value = params[name];
    if (value === undefined && !isRequired) continue;
    if (value === undefined)
      throw new TypeError(`${label}: ${rule.enum ? 'choose' : 'enter'} ${describeRule(rule)}.`);
    if (rule.type === 'string') checkChoice(label, value, rule);
    else if (rule.type === 'array') checkNumbers(label, value, rule);
    else if (rule.type === 'boolean') {
      if (typeof value !== 'boolean')
        throw new TypeError(`${label}: choose yes or no; received ${JSON.stringify(value)}.`);
    } else checkNumber(label, value, rule);
  }
  for (const name of Object.keys(params)) {
    if (!rules.has(name))
      throw new TypeError(
        `${kind.title} has no parameter “${name}”. Its parameters are ${[...rules.keys()].join(', ')}.`,
      );
  }
}

interface ParamRule {
  readonly name: string;
  readonly label: string;
  readonly rule: TSchema & NumberRule;
  readonly isRequired: boolean;
}

/** Rules by the name of a parameter; lines are checked thousands of times with other numbers. */
const known = new WeakMap<Parametrised, ReadonlyMap<string, ParamRule>>();

function rulesOf(kind: Parametrised): ReadonlyMap<string, ParamRule> {
  const found = known.get(kind);
  if (found) return found;
  const required: readonly string[] = kind.params.required ?? [];
  const rules = new Map(
    Object.entries(kind.params.properties as Record<string, TSchema & NumberRule>).map(([name, rule]) => [
      name,
      { name, label: `${kind.title}, ${rule.title ?? name}`, rule, isRequired: required.includes(name) },
    ]),
  );
  known.set(kind, rules);
  return rules;
}

function checkChoice(label: string, value: unknown, rule: NumberRule): void {
  const tooLong = typeof value === 'string' && value.length > (rule.maxLength ?? Infinity);
  if (typeof value !== 'string' || tooLong || (rule.enum && !rule.enum.includes(value))) {
    throw new TypeError(
      `${label}: ${rule.enum ? 'choose' : 'enter'} ${describeRule(rule)}; received ${JSON.stringify(value)}.`,
    );
  }
}

function checkNumber(label: string, value: unknown, rule: NumberRule): void {
  if (typeof value !== 'number')
    throw new TypeError(`${label}: enter a number; received ${JSON.stringify(value)}.`);
  const good =
    Number.isFinite(value) &&
    (rule.type !== 'integer' || Number.isInteger(value)) &&
    value >= (rule.minimum ?? -Infinity) &&
    value <= (rule.maximum ?? Infinity) &&
    value > (rule.exclusiveMinimum ?? -Infinity) &&
    value < (rule.exclusiveMaximum ?? Infinity);
  if (!good) throw new RangeError(`${label}: enter ${describeRule(rule)}; received ${value}.`);
}

function checkNumbers(label: string, value: unknown, rule: NumberRule): void {
  if (!Array.isArray(value))
    throw new TypeError(`${label}: enter ${describeRule(rule)}; received ${JSON.stringify(value)}.`);
  if (value.length < (rule.minItems ?? 0) || value.length > (rule.maxItems ?? Infinity))
    throw new RangeError(`${label}: enter ${describeRule(rule)}; received ${value.length} numbers.`);
  value.forEach((entry, i) => checkNumber(`${label} ${i + 1}`, entry, rule.items ?? {}));
}

/** Beyond anything that is measured: a limit of this size is no help to who reads it. */
const BOUNDLESS = 1e12;
const MOST_CHOICES = 12;

function describeRule(rule: NumberRule): string {
  if (rule.type === 'array') {
    const few = rule.minItems ?? 0;
    return rule.minItems === rule.maxItems
      ? `a list of ${few} numbers`
      : `a list of ${few} to ${rule.maxItems} numbers`;
  }
  if (rule.type === 'string' && !rule.enum) return `a text of up to ${rule.maxLength} characters`;
  if (rule.enum)
    return rule.enum.length > MOST_CHOICES
      ? 'one of the choices in the list'
      : rule.enum.map((v) => `“${wordOf(v)}”`).join(' or ');
  const { minimum, maximum, exclusiveMinimum: above, exclusiveMaximum: below } = rule;
  const parts = [rule.type === 'integer' ? 'a whole number' : 'a number'];
  if (above !== undefined) parts.push(`above ${above}`);
  else if (minimum !== undefined && minimum > -BOUNDLESS) parts.push(`from ${minimum}`);
  if (below !== undefined) parts.push(`below ${below}`);
  else if (maximum !== undefined && maximum < BOUNDLESS) parts.push(`up to ${maximum}`);
  const text = parts
    .join(' ')
    .replace(/(from \S+) up to/, '$1 to')
    .replace(/(above \S+) (below|up to)/, '$1 and $2');
  return rule.unit ? `${text}, in ${unitOf(rule.unit)}` : text;
}

const unitOf = (unit: string) => (unit in UNITS ? UNITS[unit as UnitId].symbol : unit);
const wordOf = (choice: string) =>
  CHOICE_WORDS[choice] ?? (choice in UNITS ? unitOf(choice) || choice : choice);
