import { Type, type Static } from 'typebox';
import { Id, Instant, nullable, oneOf, strictObject } from './common.ts';

export const LOG_STEPS = [
  'workshop',
  'brief',
  'pick',
  'hook-up',
  'line',
  'true-up',
  'prove',
  'runs',
  'face',
  'note',
] as const;

export const LogEntry = strictObject({
  id: Id,
  gadgetId: nullable(Id),
  at: Instant,
  step: oneOf(LOG_STEPS),
  text: Type.String({ minLength: 1, maxLength: 2000 }),
});
export type LogEntry = Static<typeof LogEntry>;

export const NewNote = strictObject({ text: Type.String({ minLength: 1, maxLength: 2000 }) });
export type NewNote = Static<typeof NewNote>;
