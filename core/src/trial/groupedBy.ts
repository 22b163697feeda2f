/** What trials are put together by: all that their label says, one part of it, the run or the day. */
export type GroupedBy = 'label' | 'run' | 'day' | `part ${number}`;

interface Grouped {
  readonly label: string;
  readonly runName: string;
  /** Day on which it began, as it is told. */
  readonly day: string;
}

/** A label may say several things, such as who and which: "oak / Wren". */
export const partsOf = (label: string): string[] =>
  label
    .split('/')
    .map((part) => part.trim())
    .filter(Boolean);

/** The group that a trial is in; empty for none. */
export function groupOf({ label, runName, day }: Grouped, by: GroupedBy): string {
  if (by === 'label') return label;
  if (by === 'run') return runName;
  if (by === 'day') return day;
  return partsOf(label)[Number(by.slice('part '.length)) - 1] ?? '';
}

/** What trials can be put together by: parts only where labels have several. */
export function groupings(trials: readonly Grouped[]): GroupedBy[] {
  const parts = Math.max(0, ...trials.map((t) => partsOf(t.label).length));
  return [
    'label',
    ...(parts > 1 ? Array.from({ length: parts }, (_, k): GroupedBy => `part ${k + 1}`) : []),
    ...(new Set(trials.map((t) => t.runName)).size > 1 ? (['run'] as const) : []),
    ...(new Set(trials.map((t) => t.day)).size > 1 ? (['day'] as const) : []),
  ];
}
