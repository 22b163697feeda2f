import { useState } from 'react';
import type { NowFigure, Trial, TrialRule } from '@lucky-needle/core/model';
import { groupings, groupOf, rankGroups, type GroupedBy, type Ranking } from '@lucky-needle/core/trial';
import { decimalsFor, printNumber, printWithin, readingDecimals, UNITS } from '@lucky-needle/core/units';
import { Choice } from '../../../parts/Choice.tsx';
import { Plot } from '../../../parts/Plot.tsx';
import { axisOf } from './axisOf.ts';
import { countingResults, daysOf, dotOf, groupedInWords, inkOf, labelsOf } from './labels.ts';

/** Characters that fit under the plot. */
const MOST_BESIDE = 48;

interface Props {
  readonly trials: readonly Trial[];
  readonly rule: TrialRule;
  readonly figure: NowFigure;
}

/** Groups of trials in order, each with its interval, and whether the first is really ahead. */
export function RankingCard({ trials: labelled, rule, figure }: Props) {
  const [wanted, setWanted] = useState<GroupedBy>('label');
  const dayOf = daysOf(labelled);
  const dated = labelled.map((t) => ({ ...t, day: dayOf(t) }));
  const choices = groupings(dated);
  const by = choices.includes(wanted) ? wanted : 'label';
  const trials = dated.map((t) => ({ ...t, label: groupOf(t, by) }));
  const results = countingResults(trials, figure.id);
  const labels = labelsOf(trials);
  const tried = results.map(({ trial, value }) => ({ label: trial.label, value }));
  const { groups, lead } = rankGroups(tried, rule.more);
  const symbol = UNITS[figure.unit].symbol;
  if (groups.length === 0) return null;
  const named = (label: string) => (label === '' ? 'Unlabelled trials' : label);
  const names = groups.map((g) => named(g.label));
  const isShort = names.join(', ').length <= MOST_BESIDE;
  return (
    <section className="panel" aria-label="Ranking">
      <h2>
        {figure.name}: {rule.more ? 'highest' : 'lowest'} first
      </h2>
      <Plot
        title={`${figure.name} by label`}
        height={180}
        x={{
          label: isShort ? '' : 'numbered as below',
          unit: '',
          names: isShort ? names : undefined,
          min: 0.4,
          max: groups.length + 0.6,
          step: 1,
        }}
        y={axisOf(
          figure,
          tried.map((t) => t.value),
        )}
        series={groups.flatMap((g, k) => {
          const values = tried.filter((t) => t.label === g.label).map((t) => t.value);
          const ink = inkOf(labels, g.label);
          return [
            {
              label: named(g.label),
              x: values.map((_, i) => k + 0.85 + (0.3 * (i + 1)) / (values.length + 1)),
              y: values,
              ink,
              style: 'rings' as const,
            },
            ...(Number.isFinite(g.half95)
              ? [
                  {
                    label: `Mean of ${named(g.label)}`,
                    x: [k + 1.25, k + 1.25],
                    y: [g.mean - g.half95, g.mean + g.half95],
                    ink,
                    style: 'line' as const,
                  },
                ]
              : []),
          ];
        })}
      />
      {choices.length > 1 && (
        <div className="mt-1">
          <Choice
            label="Group by"
            value={by}
            options={choices.map((c) => [c, groupedInWords(c)] as const)}
            onChange={(id) => setWanted(id as GroupedBy)}
          />
        </div>
      )}
      <ol className="mt-2 grid gap-1 text-sm">
        {groups.map((g, k) => (
          <li key={g.label} className="flex items-baseline gap-2">
            <span className="num muted w-5">{k + 1}</span>
            <span aria-hidden className={`size-2.5 shrink-0 rounded-full ${dotOf(labels, g.label)}`} />
            <span className="grow font-semibold">{named(g.label)}</span>
            <span className="num whitespace-nowrap">
              {Number.isFinite(g.half95) ? (
                <>
                  {printNumber(g.mean, decimalsFor(g.half95))}{' '}
                  <span className="muted">±{printNumber(g.half95, decimalsFor(g.half95))}</span>
                </>
              ) : (
                printNumber(g.mean, readingDecimals(null, figure.tolerance))
              )}{' '}
              {symbol}
            </span>
            <span className="num muted text-xs whitespace-nowrap">
              best {printNumber(g.best, figure.decimals)}, n {g.n}
            </span>
          </li>
        ))}
      </ol>
      <p className="mt-2 text-sm">{leadInWords({ groups, lead }, symbol, named)}</p>
    </section>
  );
}

function leadInWords({ groups, lead }: Ranking, symbol: string, named: (label: string) => string): string {
  const [first, second] = groups;
  if (!first || !second) return 'Label trials to compare groups.';
  if (!lead) return 'Comparing groups needs at least two trials in each.';
  if (lead.refused !== null) return lead.refused;
  const by = `${printWithin(lead.by, lead.half95)} ${symbol}`;
  if (lead.isShown)
    return `${named(first.label)} ${first.label === '' ? 'are' : 'is'} better than ${second.label === '' ? 'unlabelled trials' : second.label} by ${by} (95 % confidence).`;
  return `${named(first.label)} vs ${named(second.label)}: ${by}. No proven difference.${lead.needed === null ? '' : ` About ${lead.needed} trials of each are needed to decide.`}`;
}
