import type { TLocalizedValidationError } from 'typebox/error';

/** The rule of a part's schema that a value breaks, as a maker would say it. */
export function ruleInWords(error: TLocalizedValidationError, field: string, rule: unknown): string {
  const allowed = (rule as { items?: { enum?: string[] }; enum?: string[] } | undefined) ?? {};
  const choices = allowed.enum ?? allowed.items?.enum;
  if (choices) return `must be one of ${choices.join(', ')}`;
  switch (error.keyword) {
    case 'type':
      return (
        {
          number: 'must be a number',
          integer: 'must be a whole number',
          boolean: 'must be yes or no',
        }[String(error.params.type)] ?? error.message
      );
    case 'minimum':
      return `must be ${error.params.limit} or more`;
    case 'exclusiveMinimum':
      return `must be above ${error.params.limit}`;
    case 'maximum':
      return `must be at most ${error.params.limit}`;
    case 'minLength':
      return 'must not be empty';
    case 'maxLength':
      return `may have at most ${error.params.limit} characters`;
    case 'pattern':
      return field === 'pins'
        ? 'must each be a pin name and its functions, such as "A4: analog digital i2c-data"'
        : 'may contain only letters, digits, "_" and "-", at most 40';
    default:
      return error.message;
  }
}
