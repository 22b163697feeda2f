import type { Trial, TrialRule } from '@lucky-needle/core/model';
import { rankGroups } from '@lucky-needle/core/trial';
import { printNumber, printWithin, readingDecimals, UNITS } from '@lucky-needle/core/units';
import { countingResults } from './labels.ts';

interface Props {
  readonly title: string;
  /** All of the group, also those on other pages. */
  readonly trials: readonly Trial[];
  readonly rule: TrialRule;
  readonly columns: number;
}

/** Stands above the rows of a group: how many count, and their mean with its interval. */
export function GroupRow({ title, trials, rule, columns }: Props) {
  const results = countingResults(trials, rule.figureId);
  const [group] = rankGroups(
    results.map(({ value }) => ({ label: '', value })),
    rule.more,
  ).groups;
  const figure = trials.at(-1)?.figures.find((f) => f.id === rule.figureId);
  return (
    <tr className="bg-base-200" data-testid="group">
      <th scope="rowgroup" colSpan={columns} className="text-left font-semibold text-base-content">
        {title}
        <span className="muted num ml-3 text-xs font-normal">
          {results.length} of {trials.length} included
          {group && figure && (
            <>
              , mean{' '}
              {Number.isFinite(group.half95)
                ? printWithin(group.mean, group.half95)
                : printNumber(group.mean, readingDecimals(null, figure.tolerance))}{' '}
              {UNITS[figure.unit].symbol}
            </>
          )}
        </span>
      </th>
    </tr>
  );
}
