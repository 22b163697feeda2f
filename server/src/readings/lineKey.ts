import { createHash } from 'node:crypto';
import type { ReadoutChannel } from '@lucky-needle/core/reading';

/** What a line gives depends on this, and on nothing else: two with the same key go on with each other's memory. */
export function lineKey({ line, slowestHz }: ReadoutChannel, sampleRateHz: number): string {
  const made = {
    sources: line.sources,
    stages: line.stages.filter((s) => !s.off).map(({ kind, params }) => ({ kind, params })),
    slowestHz: slowestHz ?? null,
    ...(line.beside ? { beside: line.beside } : {}),
    sampleRateHz,
  };
  return createHash('sha256').update(JSON.stringify(made)).digest('hex');
}
