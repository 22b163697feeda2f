import { Ajv } from 'ajv';
import formats from 'ajv-formats';
import type { TSchema } from 'typebox';
import { ProblemError } from './problem.ts';

const ajv = new Ajv({
  allErrors: false,
  strict: true,
  keywords: ['unit'],
  strictTypes: false,
  allowUnionTypes: true,
});
(formats as unknown as (a: Ajv) => void)(ajv);

export type Check = (value: unknown) => void;

/** Compiles a schema once; the check throws a problem that names the field, the rule and the value. */
export function bodyCheck(schema: TSchema): Check {
  const validate = ajv.compile(schema);
  return (value) => {
    if (validate(value)) return;
    const error = validate.errors![0]!;
    const extra = (error.params as { additionalProperty?: string }).additionalProperty;
    const missing = (error.params as { missingProperty?: string }).missingProperty;
    const field = [error.instancePath.slice(1).replaceAll('/', '.'), missing].filter(Boolean).join('.');
    const allowed = (error.params as { allowedValues?: unknown[] }).allowedValues;
    const rule = `${error.message ?? 'is not valid'}${extra ? ` ("${extra}")` : ''}${allowed ? `: ${allowed.join(', ')}` : ''}`;
    throw new ProblemError(
      422,
      'invalid-body',
      'Not valid',
      `${field || 'The request'} ${rule}.`,
      'Correct the value and send it again.',
      field || undefined,
    );
  };
}

/** Checks an answer before it leaves: a failure here is our own mistake, not the maker's. */
export function answerCheck(schema: TSchema): Check {
  const validate = ajv.compile(schema);
  return (value) => {
    if (!validate(value)) {
      throw new Error(`An answer broke its own schema: ${ajv.errorsText(validate.errors)}`);
    }
  };
}
