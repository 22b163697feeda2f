import { type PowerPlan } from '@lucky-needle/core/plan';
import { printNominal } from '@lucky-needle/core/units';
import type { HookupTabProps } from './tabProps.ts';
import { mA } from './powerInWords.ts';

export function Rails({
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
                  <span className="muted">Regulator</span>
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
                    <option value="">automatic: {words(b.rail.regulator.kind)}</option>
                    <option value="none">direct</option>
                    <option value="linear">linear regulator</option>
                    <option value="switching">switching regulator</option>
                  </select>
                </label>
                <span className="num text-sm">
                  {mA(b.averageA)} <span className="muted">average,</span> {mA(b.peakA)}{' '}
                  <span className="muted">peak, limit {mA(b.rail.limitA)}</span>
                </span>
                {b.rail.regulator.kind !== 'none' && (
                  <span className={`num text-sm ${b.peakHeatW > 1 ? 'text-error' : ''}`}>
                    {printNominal(b.peakHeatW, 2)} W{' '}
                    <span className="muted">
                      of heat, about {printNominal(60 * b.peakHeatW, 2)} K above room temperature
                    </span>
                  </span>
                )}
              </div>
              <table className="table-xs mt-1 table">
                <thead>
                  <tr>
                    <th className="pl-0">Load</th>
                    <th className="text-right">Current on</th>
                    <th className="text-right">Peak current</th>
                    <th className="text-right">Warm-up current</th>
                    <th className="text-right">Sleep current</th>
                    <th className="text-right">Time awake</th>
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
  ({ none: 'direct', linear: 'linear regulator', switching: 'switching regulator' })[kind];
