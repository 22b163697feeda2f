import type { TObject, TSchema } from 'typebox';
import type { ParamValue } from '../model/line.ts';

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
    if (value === undefined) throw new TypeError(`${label}: no value. Set it, as ${describeRule(rule)}.`);
    if (rule.type === 'string') checkChoice(label, value, rule);
    else if (rule.type === 'array') checkNumbers(label, value, rule);
    else if (rule.type === 'boolean') {
      if (typeof value !== 'boolean')
        throw new TypeError(`${label} must be yes or no; received ${JSON.stringify(value)}.`);
    } else checkNumber(label, value, rule);
  }
  for (const name of Object.keys(params)) {
    if (!rules.has(name))
      throw new TypeError(
        `${kind.title} has no parameter "${name}". It takes ${[...rules.keys()].join(', ')}.`,
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
    throw new TypeError(`${label} must be ${describeRule(rule)}; received ${JSON.stringify(value)}.`);
  }
}

function checkNumber(label: string, value: unknown, rule: NumberRule): void {
  if (typeof value !== 'number')
    throw new TypeError(`${label} must be a number; received ${JSON.stringify(value)}.`);
  const good =
    Number.isFinite(value) &&
    (rule.type !== 'integer' || Number.isInteger(value)) &&
    value >= (rule.minimum ?? -Infinity) &&
    value <= (rule.maximum ?? Infinity) &&
    value > (rule.exclusiveMinimum ?? -Infinity) &&
    value < (rule.exclusiveMaximum ?? Infinity);
  if (!good) throw new RangeError(`${label} must be ${describeRule(rule)}; received ${value}.`);
}

function checkNumbers(label: string, value: unknown, rule: NumberRule): void {
  if (!Array.isArray(value))
    throw new TypeError(`${label} must be ${describeRule(rule)}; received ${JSON.stringify(value)}.`);
  if (value.length < (rule.minItems ?? 0) || value.length > (rule.maxItems ?? Infinity))
    throw new RangeError(`${label} must be ${describeRule(rule)}; received ${value.length} numbers.`);
  value.forEach((entry, i) => checkNumber(`${label} ${i + 1}`, entry, rule.items ?? {}));
}

function describeRule(rule: NumberRule): string {
  if (rule.type === 'array') {
    const few = rule.minItems ?? 0;
    return rule.minItems === rule.maxItems
      ? `a list of ${few} numbers`
      : `a list of ${few} to ${rule.maxItems} numbers`;
  }
  if (rule.type === 'string' && !rule.enum) return `a text of at most ${rule.maxLength} characters`;
  if (rule.enum) return rule.enum.map((v) => `"${v}"`).join(' or ');
  const parts = [rule.type === 'integer' ? 'a whole number' : 'a number'];
  if (rule.exclusiveMinimum !== undefined) parts.push(`above ${rule.exclusiveMinimum}`);
  if (rule.minimum !== undefined) parts.push(`from ${rule.minimum}`);
  if (rule.maximum !== undefined) parts.push(`to ${rule.maximum}`);
  if (rule.exclusiveMaximum !== undefined) parts.push(`below ${rule.exclusiveMaximum}`);
  return parts.join(' ') + (rule.unit ? ` ${rule.unit}` : '');
}
