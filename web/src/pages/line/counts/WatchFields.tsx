import { useState } from 'react';
import { Sparkles, Trash2 } from 'lucide-react';
import { DETECTORS, detectorKind } from '@lucky-needle/core/detect';
import type { WatchSpec } from '@lucky-needle/core/model';
import { UNITS, type UnitId } from '@lucky-needle/core/units';
import { NumberField } from '../../../parts/NumberField.tsx';
import { ParamFields, rulesOf, symbolOf, wordFor } from '../../../parts/ParamFields.tsx';
import type { EventTally } from '../../../parts/counts/figureText.ts';
import { lowerFirst } from '@lucky-needle/core/words';

interface Props {
  readonly watch: WatchSpec;
  /** The other watches of the channel. */
  readonly others: readonly WatchSpec[];
  readonly unit: UnitId;
  readonly isDirection: boolean;
  readonly columns: readonly string[];
  readonly tally: EventTally;
  /** Where the events come from, such as "in the last minute". */
  readonly where: string;
  readonly startsOpen: boolean;
  /** Why the parameters are as they are, after a proposal. */
  readonly why: string | null;
  onChange(watch: WatchSpec): void;
  onRemove(): void;
  /** Null where nothing can be found in readings. */
  onPropose: (() => void) | null;
}

/** What counts as one event: its kind, levels and gates, why they are so, and how many were found. */
export function WatchFields(props: Props) {
  const { watch, others, unit, isDirection, columns, tally, where, onChange } = props;
  const [gated, setGated] = useState(watch.after !== null);
  const [open, setOpen] = useState(props.startsOpen);
  const kind = detectorKind(watch.kind);
  if (!kind) return null;
  const set = (change: Partial<WatchSpec>) => onChange({ ...watch, ...change });
  const fits = DETECTORS.filter((d) => d.looksAt !== (isDirection ? 'reading' : 'direction'));
  return (
    <div className="border-t border-base-300 pt-3 first:border-t-0 first:pt-0">
      <div className="flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
        <button
          type="button"
          className="min-w-0 grow basis-64 rounded-field text-left"
          aria-expanded={open}
          onClick={() => setOpen(!open)}
        >
          <span className="font-semibold">{watch.name}</span>{' '}
          <span className="muted">{lowerFirst(kind.title)}</span>
          {!open && <span className="num muted block truncate text-xs">{summaryOf(watch, unit)}</span>}
        </button>
        <p role="status">
          <span className="num font-semibold">{tally.counted}</span> found {where}
          {tally.refused > 0 && (
            <>
              , <span className="num">{tally.refused}</span> ignored
            </>
          )}
        </p>
        {props.onPropose && (
          <button type="button" className="btn btn-sm" onClick={props.onPropose}>
            <Sparkles className="size-4" aria-hidden /> Suggest levels
          </button>
        )}
      </div>
      {props.why && <p className="mt-2 max-w-prose text-sm">{props.why}</p>}
      {open && (
        <>
          <div className="mt-3 grid grid-cols-2 items-start gap-3 lg:grid-cols-4">
            <label className="block">
              <span className="muted mb-1 block text-xs">Event type</span>
              <select
                className="select select-sm w-full"
                value={watch.kind}
                onChange={(e) => {
                  const next = detectorKind(e.target.value)!;
                  set({
                    kind: next.kind,
                    params: { ...next.defaults },
                    column: next.looksAt === 'signal' ? (watch.column ?? columns[0] ?? null) : null,
                  });
                }}
              >
                {fits.map((d) => (
                  <option key={d.kind} value={d.kind} title={d.summary}>
                    {d.title}
                  </option>
                ))}
              </select>
            </label>
            <label className="block">
              <span className="muted mb-1 block text-xs">Name</span>
              <input
                className="input input-sm w-full"
                maxLength={60}
                value={watch.name}
                onChange={(e) => set({ name: e.target.value })}
              />
            </label>
            {kind.looksAt === 'signal' && (
              <label className="block">
                <span className="muted mb-1 block text-xs">Raw column</span>
                <input
                  className="input input-sm num w-full"
                  list={`columns-${watch.id}`}
                  value={watch.column ?? ''}
                  onChange={(e) => set({ column: e.target.value || null })}
                />
                <datalist id={`columns-${watch.id}`}>
                  {columns.map((c) => (
                    <option key={c} value={c} />
                  ))}
                </datalist>
              </label>
            )}
            <ParamFields
              schema={kind.params}
              values={watch.params}
              unitOf={(name) => (kind.levels.includes(name) ? UNITS[unit].symbol : undefined)}
              onChange={(name, value) => set({ params: { ...watch.params, [name]: value } })}
            />
            <NumberField
              label="Dead time after an event"
              unit="s"
              value={watch.deadTimeS}
              check={(v) => (v >= 0 ? null : 'Enter 0 or more.')}
              onChange={(deadTimeS) => set({ deadTimeS })}
            />
            {gated && (
              <>
                <label className="block">
                  <span className="muted mb-1 block text-xs">Only after</span>
                  <select
                    className="select select-sm w-full"
                    value={watch.after ?? ''}
                    onChange={(e) => set({ after: e.target.value || null })}
                  >
                    <option value="">no condition</option>
                    {others.map((o) => (
                      <option key={o.id} value={o.id}>
                        {o.name}
                      </option>
                    ))}
                  </select>
                </label>
                <NumberField
                  label="Minimum time after it"
                  unit="s"
                  value={watch.leastS}
                  check={(v) => (v >= 0 ? null : 'Enter 0 or more.')}
                  onChange={(leastS) => set({ leastS })}
                />
              </>
            )}
          </div>
          <div className="mt-2 flex flex-wrap items-center gap-2 text-sm">
            {!gated && others.length > 0 && (
              <button type="button" className="btn btn-ghost btn-sm" onClick={() => setGated(true)}>
                Add a condition: only after another event
              </button>
            )}
            <button
              type="button"
              className="btn btn-ghost btn-sm"
              aria-label={`Remove ${watch.name}`}
              title={`Remove ${watch.name}`}
              onClick={props.onRemove}
            >
              <Trash2 className="size-4" aria-hidden /> Remove
            </button>
          </div>
        </>
      )}
    </div>
  );
}

/** What a watch goes by, in a line. */
function summaryOf(watch: WatchSpec, unit: UnitId): string {
  const kind = detectorKind(watch.kind)!;
  const parts = rulesOf(kind.params).flatMap(([name, rule]) => {
    const value = watch.params[name] ?? kind.defaults[name]!;
    // A limit beyond anything is none.
    if (typeof value === 'number' && Math.abs(value) >= 1e12) return [];
    const symbol = kind.levels.includes(name) ? UNITS[unit].symbol : rule.unit ? symbolOf(rule.unit) : '';
    const told =
      typeof value === 'number' ? `${Number(value.toPrecision(4))} ${symbol}` : wordFor(String(value));
    return [`${rule.title ?? name}: ${told.trim()}`];
  });
  if (watch.column !== null) parts.unshift(`Input: ${watch.column}`);
  if (watch.deadTimeS > 0) parts.push(`Dead time: ${watch.deadTimeS} s`);
  return parts.join('; ');
}
