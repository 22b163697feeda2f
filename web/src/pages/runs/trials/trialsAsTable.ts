import type { Trial } from '@lucky-needle/core/model';
import { delimitedText } from '@lucky-needle/core/formats';
import { UNITS } from '@lucky-needle/core/units';

/** Trials as a table for other programs: full digits, a column each for a figure and its uncertainty. */
export function trialsAsTable(trials: readonly Trial[], delimiter: ',' | '\t'): string {
  const figures = trials.at(-1)?.figures ?? [];
  const head = [
    'run',
    'trial',
    'began',
    'from s',
    'to s',
    'label',
    ...figures.flatMap((f) => [`${f.name} ${UNITS[f.unit].symbol}`.trim(), `${f.name} uncertainty 95 %`]),
    'note',
    'excluded',
  ];
  const rows = trials.map((t) => [
    t.runName,
    t.number,
    t.at,
    t.fromS,
    t.toS,
    t.label,
    ...figures.flatMap(({ id }) => {
      const figure = t.figures.find((f) => f.id === id);
      return [figure?.value ?? '', figure?.uncertainty ?? ''];
    }),
    t.note,
    t.excluded ?? '',
  ]);
  return delimitedText([head, ...rows], delimiter);
}
