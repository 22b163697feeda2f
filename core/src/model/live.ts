import { Type, type Static } from 'typebox';
import { Id, strictObject } from './common.ts';
import { LinkStatus } from './link.ts';

/** Text messages on the live socket. Samples travel beside them as binary sample blocks. */
export const ClientMessage = strictObject({ type: Type.Literal('watch'), gadgetId: Id });
export type ClientMessage = Static<typeof ClientMessage>;

export const ServerMessage = Type.Union([
  strictObject({ type: Type.Literal('status'), gadgetId: Id, status: LinkStatus }),
  strictObject({ type: Type.Literal('changed'), gadgetId: Id, what: Type.String() }),
  strictObject({ type: Type.Literal('refused'), reason: Type.String() }),
]);
export type ServerMessage = Static<typeof ServerMessage>;
