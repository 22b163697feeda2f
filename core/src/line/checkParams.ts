import type { TSchema } from 'typebox';
import type { StageKind, StageParams } from './stage.ts';

interface NumberRule {
  type?: string;
  title?: string;
  unit?: string;
  minimum?: number;
  maximum?: number;
  exclusiveMinimum?: number;
  exclusiveMaximum?: number;
  enum?: readonly string[];
}

/**
 * Checks a stage's parameters against its own schema: kind, presence, limits, choices.
 * @throws {TypeError} for a missing or wrong kind of value
 * @throws {RangeError} for a value outside its limits
 */
export function checkParams(kind: StageKind, params: StageParams): void {
  const rules = kind.params.properties as Record<string, TSchema & NumberRule>;
  for (const [name, rule] of Object.entries(rules)) {
    const label = `${kind.title}, ${rule.title ?? name}`;
    const value = params[name];
    if (value === undefined) throw new TypeError(`${label}: no value. Set it, as ${describeRule(rule)}.`);
    if (rule.type === 'string') checkChoice(label, value, rule);
    else if (rule.type === 'boolean') {
      if (typeof value !== 'boolean')
        throw new TypeError(`${label} must be yes or no; received ${JSON.stringify(value)}.`);
    } else checkNumber(label, value, rule);
  }
  for (const name of Object.keys(params)) {
    if (!(name in rules))
      throw new TypeError(
        `${kind.title} has no parameter "${name}". It takes ${Object.keys(rules).join(', ')}.`,
      );
  }
}

function checkChoice(label: string, value: unknown, rule: NumberRule): void {
  if (typeof value !== 'string' || (rule.enum && !rule.enum.includes(value))) {
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

function describeRule(rule: NumberRule): string {
  if (rule.enum) return rule.enum.map((v) => `"${v}"`).join(' or ');
  const parts = [rule.type === 'integer' ? 'a whole number' : 'a number'];
  if (rule.exclusiveMinimum !== undefined) parts.push(`above ${rule.exclusiveMinimum}`);
  if (rule.minimum !== undefined) parts.push(`from ${rule.minimum}`);
  if (rule.maximum !== undefined) parts.push(`to ${rule.maximum}`);
  if (rule.exclusiveMaximum !== undefined) parts.push(`below ${rule.exclusiveMaximum}`);
  return parts.join(' ') + (rule.unit ? ` ${rule.unit}` : '');
}
