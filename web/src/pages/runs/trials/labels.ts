import { format } from 'date-fns';
import type { Trial, TrialRule } from '@lucky-needle/core/model';
import type { GroupedBy } from '@lucky-needle/core/trial';
import type { PlotInk } from '../../../parts/plotTypes.ts';

/** Labels in the order in which they were first used. */
export const labelsOf = (trials: readonly Trial[]): string[] => [
  ...new Set(trials.map((t) => t.label).filter((label) => label !== '')),
];

const INKS: readonly PlotInk[] = ['fit', 'trace2', 'trace3', 'check', 'needle', 'muted'];
const DOTS = ['bg-primary', 'bg-info', 'bg-secondary', 'bg-success', 'bg-accent', 'bg-base-content'];

/** Colour of a label; from the seventh on they begin anew. */
export const inkOf = (labels: readonly string[], label: string): PlotInk =>
  label === '' ? 'muted' : INKS[labels.indexOf(label) % INKS.length]!;
export const dotOf = (labels: readonly string[], label: string): string =>
  label === '' ? 'bg-base-300' : DOTS[labels.indexOf(label) % DOTS.length]!;

/** The figure that trials are ranked by, of one trial; null where it has none. */
export const resultOf = (trial: Trial, figureId: string | null) =>
  trial.figures.find((f) => f.id === figureId) ?? null;

/** Trials that count, with their result. */
export const countingResults = (trials: readonly Trial[], figureId: string | null) =>
  trials.flatMap((trial) => {
    const value =
      trial.excluded === null && !trial.isOpen ? (resultOf(trial, figureId)?.value ?? null) : null;
    return value === null ? [] : [{ trial, value }];
  });

/** The best trial of each label, to lay them over each other before anybody has chosen. */
export function bestOfEach(trials: readonly Trial[], rule: TrialRule | null): string[] {
  const results = countingResults(trials, rule?.figureId ?? null);
  return labelsOf(trials)
    .slice(0, 6)
    .flatMap((label) => {
      const own = results.filter((r) => r.trial.label === label);
      const best = own.toSorted((a, b) => (rule?.more ? b.value - a.value : a.value - b.value))[0];
      return best ? [best.trial.id] : [];
    });
}

/** How days are called: with the year where there are several. */
export function daysOf(trials: readonly Trial[]): (trial: Trial) => string {
  const isOneYear = new Set(trials.map((t) => new Date(t.at).getFullYear())).size < 2;
  return ({ at }) => format(new Date(at), isOneYear ? 'd MMM' : 'd MMM yyyy');
}

export const groupedInWords = (by: GroupedBy): string => (by.startsWith('part ') ? `${by} of the label` : by);
