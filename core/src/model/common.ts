import { Type, type TSchema } from 'typebox';
import { UNIT_IDS, type UnitId } from '../units/index.ts';

export const Id = Type.String({ pattern: '^[A-Za-z0-9_-]{1,40}$' });
export const Name = Type.String({ minLength: 1, maxLength: 80 });
export const Note = Type.String({ maxLength: 2000 });
export const Instant = Type.String({ format: 'date-time' });
/** A day without a time, such as 2026-04-30. */
export const Day = Type.String({ format: 'date' });
export const Unit = Type.Unsafe<UnitId>(Type.String({ enum: UNIT_IDS }));

/** An object that refuses fields it does not know, so that a misspelt one is never silently dropped. */
export const strictObject = <P extends Record<string, TSchema>>(properties: P) =>
  Type.Object(properties, { additionalProperties: false });

export const oneOf = <const T extends readonly string[]>(
  values: T,
  options: { readonly title?: string } = {},
) => Type.Unsafe<T[number]>(Type.String({ enum: [...values], ...options }));

export const nullable = <T extends TSchema>(schema: T) => Type.Union([schema, Type.Null()]);
