import type { LineSpec } from '../model/line.ts';

/** Raw columns that a line is run on: of its own sources, then those that the lines beside it need beyond them. */
export const lineColumns = ({ sources, beside = [] }: LineSpec): string[] => [
  ...new Set([...sources, ...beside.flatMap((of) => of.sources)].map((s) => s.column)),
];
