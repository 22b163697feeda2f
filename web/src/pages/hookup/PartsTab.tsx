import { Download } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import { listCost, partsList, partsListCsv } from '@lucky-needle/core/plan';
import type { Hookup } from '@lucky-needle/core/model';
import { parseTyped } from '../../parts/NumberField.tsx';
import { saveText } from '../../parts/saveText.ts';
import type { HookupTabProps } from './tabProps.ts';

/** What to buy and what lies in the drawer, against the budget and a ready-made one. */
export function PartsTab({ gadget, plan, saving, saveHookup }: HookupTabProps) {
  const list = partsList(plan);
  const cost = listCost(plan);
  const [adding, setAdding] = useState('');
  const change = (partId: string, next: Partial<Hookup['extras'][number]>) => {
    const old = plan.hookup.extras.find((e) => e.partId === partId) ?? {
      partId,
      quantity: 0,
      owned: 0,
      secondHand: 1,
    };
    saveHookup(
      { extras: [...plan.hookup.extras.filter((e) => e.partId !== partId), { ...old, ...next }] },
      'Parts list saved.',
    );
  };
  return (
    <div className="grid gap-4">
      <section className="panel" aria-label="Parts list">
        <header className="flex flex-wrap items-center gap-3">
          <div className="grow">
            <h2 className="section-title">Parts and cost</h2>
            <p className={`text-sm ${cost.overBudget !== null && cost.overBudget > 0 ? 'text-error' : ''}`}>
              {cost.sentence}
            </p>
          </div>
          <button
            type="button"
            className="btn btn-sm no-print"
            onClick={() =>
              saveText(
                `${gadget.name.toLowerCase().replace(/[^a-z0-9]+/g, '-')}-parts.csv`,
                'text/csv',
                partsListCsv(plan),
              )
            }
          >
            <Download className="size-4" aria-hidden /> CSV
          </button>
        </header>
        <div className="mt-2 overflow-x-auto">
          <table className="table-sm table">
            <thead>
              <tr>
                <th className="pl-0">Part</th>
                <th className="text-right">Needed</th>
                <th className="text-right">In stock</th>
                <th className="text-right">Price, % of new</th>
                <th className="text-right">Unit price</th>
                <th className="text-right">Cost</th>
              </tr>
            </thead>
            <tbody>
              {list.map((line, i) => (
                <tr key={line.partId}>
                  <th scope="row" className="pl-0 text-base-content">
                    {line.title}
                    <span className="muted block text-xs font-normal">{line.why}</span>
                  </th>
                  <td className="num text-right">{line.quantity}</td>
                  <td className="text-right">
                    <CellNumber
                      label={`${line.title}, in stock`}
                      value={line.owned}
                      disabled={saving}
                      good={(v) => Number.isInteger(v) && v >= 0 && v <= 1000}
                      onChange={(owned) => change(line.partId, { owned })}
                    />
                  </td>
                  <td className="text-right">
                    <CellNumber
                      label={`${line.title}, price in percent of new`}
                      value={Math.round(100 * line.secondHand)}
                      disabled={saving}
                      good={(v) => v > 0 && v <= 100}
                      onChange={(v) => change(line.partId, { secondHand: v / 100 })}
                    />
                    <span className="muted ml-1">%</span>
                  </td>
                  <td className="num text-right">{line.unitPrice.toFixed(2)}</td>
                  <td className="num text-right font-semibold">{cost.lines[i]!.cost.toFixed(2)}</td>
                </tr>
              ))}
              <tr>
                <th className="pl-0 text-base-content" colSpan={5}>
                  Total to buy
                </th>
                <td className="num text-right text-base font-semibold">{cost.total.toFixed(2)}</td>
              </tr>
            </tbody>
          </table>
        </div>
        <div className="no-print mt-3 flex flex-wrap items-end gap-2">
          <label className="text-sm">
            <span className="muted mb-1 block text-xs">Add a part</span>
            <select
              className="select select-sm max-w-72"
              value={adding}
              onChange={(e) => setAdding(e.target.value)}
            >
              <option value="">choose from the shelf…</option>
              {plan.parts
                .filter((p) => ['connector', 'passive', 'converter'].includes(p.kind))
                .map((p) => (
                  <option key={p.id} value={p.id}>
                    {p.title} ({p.price.toFixed(2)})
                  </option>
                ))}
            </select>
          </label>
          <button
            type="button"
            className="btn btn-sm"
            disabled={adding === '' || saving}
            onClick={() => {
              const present = list.find((l) => l.partId === adding)?.quantity ?? 0;
              change(adding, { quantity: present + 1 });
              setAdding('');
            }}
          >
            Add
          </button>
        </div>
      </section>
      <p className="muted text-xs">
        Set the budget and the price of a ready-made product in the{' '}
        <Link className="link" to="../brief" relative="path">
          brief
        </Link>
        . Prices are in your own currency; change those of your own parts on{' '}
        <Link className="link" to="/shelf">
          the shelf
        </Link>
        .
      </p>
    </div>
  );
}

/** A small number in a table; it is taken when the field is left, so that half-typed figures are not saved. */
function CellNumber({
  label,
  value,
  disabled,
  good,
  onChange,
}: {
  label: string;
  value: number;
  disabled: boolean;
  good(value: number): boolean;
  onChange(value: number): void;
}) {
  const [text, setText] = useState<string | null>(null);
  const typed = text === null ? value : parseTyped(text);
  return (
    <input
      className={`input input-xs num w-14 text-right ${good(typed) ? '' : 'input-error'}`}
      inputMode="numeric"
      aria-label={label}
      aria-invalid={!good(typed)}
      disabled={disabled}
      value={text ?? String(value)}
      onChange={(e) => setText(e.target.value)}
      onBlur={() => {
        if (text !== null && good(typed) && typed !== value) onChange(typed);
        setText(null);
      }}
    />
  );
}
