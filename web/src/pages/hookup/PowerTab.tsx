import { useMemo } from 'react';
import { Link } from 'react-router';
import { powerPlan, runtimeCurves, type PowerPlan, type RuntimeCurve } from '@lucky-needle/core/plan';
import { printNominal } from '@lucky-needle/core/units';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { NumberField } from '../../parts/NumberField.tsx';
import { Plot, type PlotInk } from '../../parts/Plot.tsx';
import type { HookupTabProps } from './HookupPage.tsx';

const mA = (a: number) => (a >= 1 ? `${printNominal(a)} A` : `${printNominal(a * 1e3)} mA`);
const DUTIES = [0.02, 0.03, 0.05, 0.07, 0.1, 0.15, 0.2, 0.3, 0.4, 0.5, 0.7, 1];
const INKS: readonly PlotInk[] = ['trace', 'trace2', 'trace3', 'reference', 'check', 'muted'];

/** Rails, currents, runtime and its curve, heat, plausibility and the order of switching on. */
export function PowerTab({ plan, saveHookup, saving }: HookupTabProps) {
  const power = useMemo(() => powerPlan(plan), [plan]);
  const curves = useMemo(() => runtimeCurves(plan, DUTIES), [plan]);
  if (!power)
    return (
      <EmptyState title="Power wants a board and a supply">
        Rails, runtime and heat follow from them.{' '}
        <Link
          className="link link-primary"
          to={`../pick?slot=${plan.board ? 'supply' : 'board'}`}
          relative="path"
        >
          Pick the {plan.board ? 'supply' : 'board'}
        </Link>
      </EmptyState>
    );
  const { budget, supply, questions } = power;
  const wanted = plan.brief.enduranceH;
  return (
    <div className="grid gap-4">
      <section className="panel" aria-label="Runtime">
        <div className="flex flex-wrap items-baseline gap-x-8 gap-y-2">
          {budget.runtimeH === null ? (
            <Figure title={supply.title} value="as long as the wall gives" />
          ) : (
            <Figure
              title="Runs for"
              value={hoursInWords(budget.runtimeH)}
              note={
                wanted === null
                  ? 'the brief asks for no endurance'
                  : `${budget.runtimeH >= wanted ? '✓' : '✕ short:'} ${hoursInWords(wanted)} asked`
              }
              bad={wanted !== null && budget.runtimeH < wanted}
            />
          )}
          <Figure
            title="On average"
            value={mA(budget.averageA)}
            note={`${printNominal(budget.averageW, 2)} W`}
          />
          <Figure title="At the peak" value={mA(budget.peakA)} note={`${mA(supply.limitA)} given at most`} />
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
          <summary className="muted cursor-pointer text-xs">Arithmetic</summary>
          <ul className="muted mt-1 text-xs">
            {budget.arithmetic.map((text) => (
              <li key={text}>{text}</li>
            ))}
          </ul>
        </details>
        <div className="mt-3 max-w-xs">
          <NumberField
            label="Awake, share of the time"
            unit="%"
            value={Math.round(plan.hookup.duty * 1000) / 10}
            hint="What warms up for minutes stays on all the same."
            check={(v) => (v > 0 && v <= 100 ? null : 'Above 0 and at most 100 %.')}
            onChange={(v) => !saving && saveHookup({ duty: v / 100 }, 'Share saved.')}
          />
        </div>
      </section>
      {curves.length > 0 && <Curves curves={curves} wanted={wanted} duty={plan.hookup.duty} />}
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

function hoursInWords(h: number): string {
  return h >= 72
    ? `${printNominal(h / 24, 2)} days`
    : h >= 2
      ? `${printNominal(h, 2)} h`
      : `${printNominal(h * 60, 2)} min`;
}

/** Runtime over the share of time awake, a line for each battery that carries the peaks. */
function Curves({
  curves,
  wanted,
  duty,
}: {
  curves: readonly RuntimeCurve[];
  wanted: number | null;
  duty: number;
}) {
  const shown = curves.slice(0, INKS.length);
  const most = Math.max(...shown.flatMap((c) => c.hours));
  const inDays = most > 96;
  const scale = inDays ? 24 : 1;
  return (
    <section className="panel" aria-label="Runtime by share of time awake">
      <h2>How long, by how much it sleeps</h2>
      <div className="mt-2">
        <Plot
          title="Runtime by share of time awake"
          height={240}
          x={{ label: 'Awake', unit: '%', min: 0, max: 100 }}
          y={{ label: 'Runtime', unit: inDays ? 'days' : 'h', min: 0 }}
          series={shown.map((c, i) => ({
            label: c.supply.title,
            x: c.duties.map((d) => 100 * d),
            y: c.hours.map((h) => h / scale),
            ink: INKS[i]!,
            style: i < 3 ? 'line' : 'dashed',
          }))}
          bands={
            wanted === null
              ? []
              : [{ from: wanted / scale, to: Math.max(most, wanted) / scale, axis: 'y', ink: 'tolerance' }]
          }
          needleAt={100 * duty}
        />
      </div>
      <table className="table-xs mt-2 table">
        <tbody>
          {shown.map((c, i) => (
            <tr key={c.supply.id}>
              <td className="pl-0">
                <span
                  className="mr-2 inline-block h-1 w-5 align-middle"
                  style={{ background: inkColor(INKS[i]!) }}
                />
                {c.supply.title} <span className="muted">{c.supply.chemistry}</span>
              </td>
              <td className="num text-right">{hoursInWords(c.hours.at(-1)!)} awake</td>
              <td className="num text-right">{hoursInWords(c.hours[c.duties.indexOf(0.1)]!)} at 10 %</td>
            </tr>
          ))}
        </tbody>
      </table>
      <p className="muted mt-1 text-xs">
        The red line is the present share{wanted === null ? '' : '; green is what the brief asks for or more'}
        .
      </p>
    </section>
  );
}

function inkColor(ink: PlotInk): string {
  const name = {
    trace: 'primary',
    trace2: 'info',
    trace3: 'secondary',
    reference: 'secondary',
    check: 'success',
    muted: 'base-content',
    fit: 'primary',
    needle: 'accent',
    error: 'error',
  }[ink];
  return `var(--color-${name})`;
}

function Rails({
  power,
  plan,
  saving,
  saveHookup,
}: { power: PowerPlan } & Pick<HookupTabProps, 'plan' | 'saving' | 'saveHookup'>) {
  const { budget, loads } = power;
  return (
    <section className="panel" aria-label="Rails">
      <h2>Rails</h2>
      <div className="mt-2 grid gap-4">
        {budget.rails.map((b) => {
          const own = loads.filter((l) => l.rail === b.rail.id);
          const byHand = plan.hookup.regulators.find((r) => r.volts === b.rail.volts);
          return (
            <div key={b.rail.id} className="overflow-x-auto">
              <div className="flex flex-wrap items-center gap-x-4 gap-y-1">
                <h3 className="num font-semibold">{b.rail.id}</h3>
                <label className="flex items-center gap-2 text-sm">
                  <span className="muted">from the supply</span>
                  <select
                    className="select select-xs"
                    aria-label={`Regulator of ${b.rail.id}`}
                    value={byHand?.kind ?? ''}
                    disabled={saving}
                    onChange={(e) => {
                      const others = plan.hookup.regulators.filter((r) => r.volts !== b.rail.volts);
                      const kind = e.target.value as 'none' | 'linear' | 'switching' | '';
                      saveHookup(
                        { regulators: kind ? [...others, { volts: b.rail.volts, kind }] : others },
                        'Regulator saved.',
                      );
                    }}
                  >
                    <option value="">as found: {words(b.rail.regulator.kind)}</option>
                    <option value="none">straight</option>
                    <option value="linear">linear regulator</option>
                    <option value="switching">switching regulator</option>
                  </select>
                </label>
                <span className="num text-sm">
                  {mA(b.averageA)} <span className="muted">average,</span> {mA(b.peakA)}{' '}
                  <span className="muted">peak of {mA(b.rail.limitA)}</span>
                </span>
                {b.rail.regulator.kind !== 'none' && (
                  <span className={`num text-sm ${b.peakHeatW > 1 ? 'text-error' : ''}`}>
                    {printNominal(b.peakHeatW, 2)} W{' '}
                    <span className="muted">
                      of heat, about {printNominal(60 * b.peakHeatW, 2)} K above the room
                    </span>
                  </span>
                )}
              </div>
              <table className="table-xs mt-1 table">
                <thead>
                  <tr>
                    <th className="pl-0">Load</th>
                    <th className="text-right">On</th>
                    <th className="text-right">Peak</th>
                    <th className="text-right">Warm-up</th>
                    <th className="text-right">Asleep</th>
                    <th className="text-right">Awake</th>
                  </tr>
                </thead>
                <tbody className="num">
                  {own.map((l, i) => (
                    <tr key={l.title + i}>
                      <td className="pl-0 font-sans">{l.title}</td>
                      <td className="text-right">{mA(l.onA)}</td>
                      <td className="text-right">{mA(l.peakA)}</td>
                      <td className="text-right">{l.warmUpS > 0 ? mA(l.warmUpA) : '–'}</td>
                      <td className="text-right">{mA(l.sleepA)}</td>
                      <td className="text-right">{printNominal(100 * l.duty, 2)} %</td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
          );
        })}
      </div>
    </section>
  );
}

const words = (kind: 'none' | 'linear' | 'switching') =>
  ({ none: 'straight', linear: 'linear regulator', switching: 'switching regulator' })[kind];

function SwitchOn({ power }: { power: PowerPlan }) {
  const { steps, readyS, problem } = power.switchOn;
  return (
    <section className="panel" aria-label="Order of switching on">
      <h2>Order of switching on</h2>
      {problem ? (
        <p role="alert" className="mt-1 text-sm text-error">
          ✕ {problem}
        </p>
      ) : readyS === 0 ? (
        <p className="muted mt-1 text-sm">Nothing warms up: all at once.</p>
      ) : (
        <>
          <ol className="num mt-2 grid gap-1 text-sm">
            {groupByTime(steps).map(([atS, titles]) => (
              <li key={atS} className="flex gap-4">
                <span className="w-16 shrink-0 text-right font-semibold">{clock(atS)}</span>
                <span className="font-sans">{titles.join(', ')}</span>
              </li>
            ))}
            <li className="flex gap-4 text-success">
              <span className="w-16 shrink-0 text-right font-semibold">{clock(readyS)}</span>
              <span className="font-sans">Everything is warm. Readings before do not count.</span>
            </li>
          </ol>
        </>
      )}
    </section>
  );
}

function groupByTime(steps: readonly { atS: number; title: string }[]): [number, string[]][] {
  const at = new Map<number, string[]>();
  for (const { atS, title } of steps) at.set(atS, [...(at.get(atS) ?? []), title]);
  return [...at];
}

const clock = (s: number) => `${Math.floor(s / 60)}:${String(Math.round(s % 60)).padStart(2, '0')}`;
