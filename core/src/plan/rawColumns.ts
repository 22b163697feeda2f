import type { Channel, Gadget } from '../model/gadget.ts';

/** Raw columns that a gadget's lines start from and its watches look at, each once. */
export const rawColumns = (gadget: Pick<Gadget, 'channels'>): string[] => [
  ...new Set([...gadget.channels.flatMap(sourcesOf), ...gadget.channels.flatMap(watchedColumns)]),
];

/** A channel that goes on from another one has no raw columns of its own. */
const sourcesOf = ({ line, feed }: Channel): string[] => (feed ? [] : line.sources.map((s) => s.column));

const watchedColumns = ({ watches = [] }: Channel): string[] =>
  watches.flatMap((w) => (w.column === null ? [] : [w.column]));
