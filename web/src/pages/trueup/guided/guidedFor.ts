import type { Channel, LineSpec } from '@lucky-needle/core/model';

export type Guided = 'rotate' | 'six-rests' | 'ac' | 'drags' | 'rate';

/** The guided form that a line calls for, by what it starts from; null for lines that points hold still. */
export function guidedFor(line: LineSpec): Guided | null {
  const kinds = line.stages.filter((s) => !s.off).map((s) => s.kind);
  if (kinds.includes('ac-power') && line.sources.length === 2) return 'ac';
  if (kinds.includes('heading') && line.sources.length === 6) return 'rotate';
  if (line.sources.length === 3 && kinds[0] === 'vector-correction') return 'six-rests';
  if (kinds.includes('counts-to-length')) return 'drags';
  if (kinds.some((k) => ['period-rate', 'gate-rate', 'beat-rate'].includes(k))) return 'rate';
  return null;
}

/** Channels that read the same columns in the same way as a line: they are put right together. */
export function alikeChannels(channels: readonly Channel[], line: LineSpec): Channel[] {
  const columns = (l: LineSpec) => l.sources.map((s) => s.column).join();
  return channels.filter((c) => columns(c.line) === columns(line) && guidedFor(c.line) === guidedFor(line));
}
