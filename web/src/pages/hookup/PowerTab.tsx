import { useMemo } from 'react';
import { Link } from 'react-router';
import { powerPlan, runtimeCurves } from '@lucky-needle/core/plan';
import { printNominal } from '@lucky-needle/core/units';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { NumberField } from '../../parts/NumberField.tsx';
import type { HookupTabProps } from './tabProps.ts';
import { DUTIES, PowerCurves } from './PowerCurves.tsx';
import { Rails } from './Rails.tsx';
import { SwitchOn } from './SwitchOn.tsx';
import { hoursInWords, mA } from './powerInWords.ts';

export function PowerTab({ plan, saveHookup, saving }: HookupTabProps) {
  const power = useMemo(() => powerPlan(plan), [plan]);
  const curves = useMemo(() => runtimeCurves(plan, DUTIES), [plan]);
  if (!power)
    return (
      <EmptyState title="Pick a board and a supply first">
        They determine the rails, battery life and heat.{' '}
        <Link
          className="link link-primary"
          to={`../pick?slot=${plan.board ? 'supply' : 'board'}`}
          relative="path"
        >
          Pick a {plan.board ? 'supply' : 'board'}
        </Link>
      </EmptyState>
    );
  const { budget, supply, questions } = power;
  const wanted = plan.brief.enduranceH;
  return (
    <div className="grid gap-4">
      <section className="panel" aria-label="Power summary">
        <div className="flex flex-wrap items-baseline gap-x-8 gap-y-2">
          {budget.runtimeH === null ? (
            <Figure title={supply.title} value="unlimited (mains powered)" />
          ) : (
            <Figure
              title="Battery life"
              value={hoursInWords(budget.runtimeH)}
              note={
                wanted === null
                  ? 'no battery life required'
                  : `${budget.runtimeH >= wanted ? '✓' : '✕ too short:'} ${hoursInWords(wanted)} required`
              }
              bad={wanted !== null && budget.runtimeH < wanted}
            />
          )}
          <Figure
            title="Average current"
            value={mA(budget.averageA)}
            note={`${printNominal(budget.averageW, 2)} W`}
          />
          <Figure title="Peak current" value={mA(budget.peakA)} note={`supply limit ${mA(supply.limitA)}`} />
        </div>
        {budget.problems.map((text) => (
          <p key={text} role="alert" className="mt-2 text-sm text-error">
            ✕ {text}
          </p>
        ))}
        {questions.map((text) => (
          <p key={text} role="alert" className="mt-2 text-sm text-warning">
            ? {text}
          </p>
        ))}
        <details className="mt-2">
          <summary className="muted cursor-pointer text-xs">Calculation</summary>
          <ul className="muted mt-1 text-xs">
            {budget.arithmetic.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </details>
        <div className="mt-3 max-w-xs">
          <NumberField
            label="Time awake"
            unit="%"
            value={Math.round(plan.hookup.duty * 1000) / 10}
            hint="Parts with a long warm-up stay on all the time."
            check={(v) => (v > 0 && v <= 100 ? null : 'Enter a value above 0 and up to 100 %.')}
            onChange={(v) => !saving && saveHookup({ duty: v / 100 }, 'Time awake saved.')}
          />
        </div>
      </section>
      {curves.length > 0 && <PowerCurves curves={curves} wanted={wanted} duty={plan.hookup.duty} />}
      <Rails power={power} saveHookup={saveHookup} plan={plan} saving={saving} />
      <SwitchOn power={power} />
    </div>
  );
}

function Figure({
  title,
  value,
  note,
  bad = false,
}: {
  title: string;
  value: string;
  note?: string;
  bad?: boolean;
}) {
  return (
    <div>
      <p className="muted text-xs">{title}</p>
      <p className="num text-xl font-semibold">{value}</p>
      {note && <p className={`text-xs ${bad ? 'font-semibold text-error' : 'muted'}`}>{note}</p>}
    </div>
  );
}
