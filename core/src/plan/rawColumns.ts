import type { Gadget } from '../model/gadget.ts';

/** Raw columns that a gadget's lines start from, each once. */
export const rawColumns = (gadget: Pick<Gadget, 'channels'>): string[] => [
  ...new Set(gadget.channels.flatMap((c) => c.line.sources.map((s) => s.column))),
];
