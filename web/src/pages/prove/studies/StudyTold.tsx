import type { ParamValue, Study } from '@lucky-needle/core/model';
import type { StudyKind } from '@lucky-needle/core/study';
import { UNITS, type UnitId } from '@lucky-needle/core/units';
import { rulesOf, symbolOf, wordFor } from '../../../parts/ParamFields.tsx';

/** What the maker said for a study, on paper: whoever reads the result must see what stands behind it. */
export function StudyTold({ study, kind, unit }: { study: Study; kind: StudyKind; unit: UnitId }) {
  const rules = rulesOf(kind.settings);
  if (rules.length === 0) return null;
  return (
    <section className="panel print-only">
      <h2>Study settings</h2>
      <dl className="mt-2 grid grid-cols-[minmax(9rem,auto)_1fr] gap-x-4 gap-y-1 text-sm">
        {rules.map(([name, rule]) => (
          <div key={name} className="contents">
            <dt className="muted">{rule.title ?? name}</dt>
            <dd>
              {toldText(
                study.settings[name],
                kind.inUnit.includes(name) ? UNITS[unit].symbol : rule.unit ? symbolOf(rule.unit) : '',
              )}
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

function toldText(value: ParamValue | undefined, symbol: string): string {
  if (value === undefined || value === '') return 'not specified';
  if (Array.isArray(value)) return value.length === 0 ? 'none' : `${value.join('; ')} ${symbol}`.trim();
  return typeof value === 'number' ? `${value} ${symbol}`.trim() : wordFor(String(value));
}
