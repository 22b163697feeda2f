import { Type, type Static } from 'typebox';
import { Id, Name, nullable, strictObject } from './common.ts';
import { ParamValue } from './line.ts';

/** What counts as an event on a channel. */
export const WatchSpec = strictObject({
  id: Id,
  name: Name,
  /** A detector kind. */
  kind: Type.String({ minLength: 1, maxLength: 40 }),
  /** Raw column that is looked at; null for the channel's reading. */
  column: nullable(Name),
  params: Type.Record(Type.String(), ParamValue),
  /** An event this soon after the last one that counted does not count, s. */
  deadTimeS: Type.Number({ minimum: 0, maximum: 1e6 }),
  /** Another watch, after whose last event nothing counts before `leastS`; null for none. */
  after: nullable(Id),
  leastS: Type.Number({ minimum: 0, maximum: 1e6 }),
});
export type WatchSpec = Static<typeof WatchSpec>;

/** A number made of readings and events. */
export const FigureSpec = strictObject({
  id: Id,
  /** A figure kind. */
  kind: Type.String({ minLength: 1, maxLength: 40 }),
  name: Name,
  /** Which watch plays which part, such as "from" and "to". */
  watches: Type.Record(Type.String({ maxLength: 20 }), Id),
  /** Other channels whose readings it needs, in order. */
  others: Type.Array(Id, { maxItems: 15 }),
  params: Type.Record(Type.String(), ParamValue),
  /** What of the brief it answers, beside what its channel shows; null for none. */
  askId: nullable(Id),
});
export type FigureSpec = Static<typeof FigureSpec>;
