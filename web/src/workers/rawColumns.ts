import type { SampleBlock } from '@lucky-needle/core/formats';
import type { LineSpec } from '@lucky-needle/core/model';

/** The raw columns that a line starts from; null when the samples have not all of them. */
export function rawColumns(block: SampleBlock, line: LineSpec): Float64Array[] | null {
  const found = line.sources.flatMap(
    (s) => block.columns[block.header.columns.findIndex((c) => c.name === s.column)] ?? [],
  );
  return found.length === line.sources.length ? found : null;
}

/** Samples a second of a block: thinned ones come in pairs, the lowest and the highest. */
export const rateOf = (sampleRateHz: number, { header }: SampleBlock): number =>
  sampleRateHz / (header.reducedBy > 1 ? header.reducedBy / 2 : 1);
