import { format } from 'date-fns';
import type { NowFigure, Trial, TrialRule } from '@lucky-needle/core/model';
import { changePoint, trendOfDays } from '@lucky-needle/core/trial';
import { printNumber, printWithin, UNITS } from '@lucky-needle/core/units';
import { Plot } from '../../../parts/Plot.tsx';
import { axisOf } from './axisOf.ts';
import { countingResults } from './labels.ts';

interface Props {
  readonly trials: readonly Trial[];
  readonly rule: TrialRule;
  readonly figure: NowFigure;
}

const DAY_MS = 86_400_000;
/** Day of a moment where the page stands. */
const dayOf = (at: string) => {
  const date = new Date(at);
  return Math.floor((date.getTime() - date.getTimezoneOffset() * 60_000) / DAY_MS);
};

/** Best and mean of each day, and whether they change more than scatter explains. */
export function DaysCard({ trials, rule, figure }: Props) {
  const results = countingResults(trials, figure.id).map(({ trial, value }) => ({
    trial,
    day: dayOf(trial.at),
    value,
  }));
  const { days, aWeek } = trendOfDays(results, rule.more);
  const inOrder = results
    .toSorted((a, b) => Date.parse(a.trial.at) - Date.parse(b.trial.at))
    .map((r) => ({ trial: r.trial, label: r.trial.label, value: r.value }));
  const change = changePoint(inOrder);
  const symbol = UNITS[figure.unit].symbol;
  const ordered = results.toSorted((a, b) => (rule.more ? b.value - a.value : a.value - b.value));
  const [best] = ordered;
  if (!best) return null;
  const first = days[0]!.day;
  const when = format(new Date(best.trial.at), 'd MMM, HH:mm');
  return (
    <section className="panel" aria-label="Results by day">
      <h2>Best result of each day</h2>
      {days.length > 1 && (
        <Plot
          title="Daily best and mean"
          height={160}
          x={{ label: `Days since ${format(new Date(first * DAY_MS), 'd MMM')}`, unit: 'd' }}
          y={axisOf(
            figure,
            results.map((r) => r.value),
          )}
          series={[
            {
              label: 'best',
              x: days.map((d) => d.day - first),
              y: days.map((d) => d.best),
              ink: 'needle',
              style: 'diamonds',
            },
            {
              label: 'mean',
              x: days.map((d) => d.day - first),
              y: days.map((d) => d.mean),
              ink: 'fit',
              style: 'rings',
            },
          ]}
        />
      )}
      <p className="mt-2 text-sm">
        Best so far: <span className="num font-semibold">{printNumber(best.value, figure.decimals)}</span>{' '}
        {symbol}, {best.trial.runName}, trial {best.trial.number}, {when}.{' '}
        {aWeek
          ? aWeek.isShown
            ? `The daily mean ${aWeek.by > 0 ? 'rises' : 'falls'} by ${printWithin(Math.abs(aWeek.by), aWeek.half95)} ${symbol} per week.`
            : 'No significant trend from day to day.'
          : 'A trend needs results from at least three days.'}
        {change &&
          ` From ${inOrder[change.at]!.trial.runName}, trial ${inOrder[change.at]!.trial.number}, onward, results are ${change.by > 0 ? 'higher' : 'lower'} by ${printWithin(Math.abs(change.by), change.half95)} ${symbol}. The labels do not explain this; something else changed.`}
      </p>
    </section>
  );
}
