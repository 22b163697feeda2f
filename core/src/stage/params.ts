import { Type } from 'typebox';
import { UNIT_IDS } from '../units/index.ts';

// Short hands for the parameter schemas of stages: title, unit and limits make the form and the checks.

interface Limits {
  readonly min?: number;
  readonly max?: number;
  readonly above?: number;
  readonly below?: number;
  readonly unit?: string;
}

const rules = ({ min, max, above, below, unit }: Limits) => ({
  ...(min === undefined ? {} : { minimum: min }),
  ...(max === undefined ? {} : { maximum: max }),
  ...(above === undefined ? {} : { exclusiveMinimum: above }),
  ...(below === undefined ? {} : { exclusiveMaximum: below }),
  ...(unit === undefined ? {} : { unit }),
});

export const number = (title: string, limits: Limits = {}) =>
  Type.Number({ minimum: -1e12, maximum: 1e12, ...rules(limits), title });

export const whole = (title: string, limits: Limits = {}) => Type.Integer({ ...rules(limits), title });

export const choice = (title: string, values: readonly string[]) => Type.String({ enum: [...values], title });

export const numbers = (title: string, minItems: number, maxItems: number, unit?: string) =>
  Type.Array(Type.Number(), { minItems, maxItems, title, ...(unit ? { unit } : {}) });

/** Ids of other channels, with a space between. */
export const channelIds = (title: string, most: number) =>
  Type.String({
    maxLength: 500,
    pattern: '^([A-Za-z0-9_-]+( [A-Za-z0-9_-]+)*)?$',
    title,
    mostChannels: most,
  });

/** The unit that a stage shall give. */
export const unitChoice = (title = 'Output unit') => choice(title, UNIT_IDS);

export const text = (title: string, maxLength = 200) => Type.String({ maxLength, title });
