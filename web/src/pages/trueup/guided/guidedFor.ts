import type { LineSpec } from '@lucky-needle/core/model';

export type Guided = 'rotate' | 'six-rests' | 'ac';

/** The guided form that a line calls for, by what it starts from; null for lines of one column. */
export function guidedFor(line: LineSpec): Guided | null {
  const kinds = line.stages.filter((s) => !s.off).map((s) => s.kind);
  if (kinds.includes('ac-power') && line.sources.length === 2) return 'ac';
  if (kinds.includes('heading') && line.sources.length === 6) return 'rotate';
  if (line.sources.length === 3 && kinds[0] === 'vector-correction') return 'six-rests';
  return null;
}
