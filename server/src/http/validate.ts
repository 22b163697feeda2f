import { Ajv, type AnySchemaObject, type ErrorObject, type ValidateFunction } from 'ajv';
import formats from 'ajv-formats';
import type { TSchema } from 'typebox';
import { ProblemError } from './problem.ts';

const ajv = new Ajv({
  allErrors: false,
  strict: true,
  // Errors carry the schema that they break, so that a union can be told by its kinds.
  verbose: true,
  keywords: ['unit'],
  strictTypes: false,
  allowUnionTypes: true,
});
(formats as unknown as (a: Ajv) => void)(ajv);

export type Check = (value: unknown) => void;

const compiled = new WeakMap<object, ValidateFunction>();
/** Compiled when it is first asked for: all of them at once would hold up the start by seconds. */
function validatorOf(schema: TSchema | AnySchemaObject): ValidateFunction {
  let validate = compiled.get(schema);
  if (!validate) {
    validate = ajv.compile(schema);
    compiled.set(schema, validate);
  }
  return validate;
}

/** The check throws a problem that names the field, the rule and the value. */
export function bodyCheck(schema: TSchema): Check {
  return (value) => {
    const validate = validatorOf(schema);
    if (validate(value)) return;
    const error = tellingError(validate.errors!);
    const extra = (error.params as { additionalProperty?: string }).additionalProperty;
    const missing = (error.params as { missingProperty?: string }).missingProperty;
    const field = [error.instancePath.slice(1).replaceAll('/', '.'), missing].filter(Boolean).join('.');
    const allowed = (error.params as { allowedValues?: unknown[] }).allowedValues;
    const rule = `${error.message ?? 'is not valid'}${extra ? ` ("${extra}")` : ''}${allowed ? `: ${allowed.join(', ')}` : ''}`;
    throw new ProblemError(
      422,
      'invalid-body',
      'Invalid value',
      `${field || 'The request'} ${rule}.`,
      'Correct the value and try again.',
      field || undefined,
    );
  };
}

/** The first error; within a union of kinds, that of the kind that was meant, or that there is no such kind. */
function tellingError(errors: readonly ErrorObject[], at = ''): ErrorObject {
  const union = errors.find((e) => e.keyword === 'anyOf' && kindsOf(e.parentSchema) !== null);
  if (!union) return { ...errors[0]!, instancePath: at + errors[0]!.instancePath };
  const kinds = kindsOf(union.parentSchema)!;
  const path = at + union.instancePath;
  const meant = (union.data as { kind?: unknown } | null)?.kind;
  const branch = kinds.get(meant);
  if (!branch)
    return {
      ...union,
      instancePath: `${path}/kind`,
      message: 'must be one of',
      params: { allowedValues: [...kinds.keys()] },
    };
  const validate = validatorOf(branch);
  return validate(union.data) ? { ...union, instancePath: path } : tellingError(validate.errors!, path);
}

/** The branches of a union by the kind that each asks for; null when some branch asks for none. */
function kindsOf(schema: AnySchemaObject | undefined): Map<unknown, AnySchemaObject> | null {
  const branches = (schema?.['anyOf'] ?? []) as AnySchemaObject[];
  const kinds = branches.map((b) => [b['properties']?.kind?.const as unknown, b] as const);
  return kinds.length > 1 && kinds.every(([kind]) => kind !== undefined) ? new Map(kinds) : null;
}

/** Why a value is not what a schema asks for; null when it is. */
export function whyInvalid(schema: TSchema, value: unknown): string | null {
  const validate = validatorOf(schema);
  return validate(value) ? null : ajv.errorsText(validate.errors);
}

/** Checks an answer before it leaves: a failure here is our own mistake, not the maker's. */
export function answerCheck(schema: TSchema): Check {
  return (value) => {
    const why = whyInvalid(schema, value);
    if (why !== null) throw new Error(`A response does not match its schema: ${why}`);
  };
}
