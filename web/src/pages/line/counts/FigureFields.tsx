import { Trash2 } from 'lucide-react';
import { figureKind } from '@lucky-needle/core/figures';
import type { Ask, Channel, FigureSpec, WatchSpec } from '@lucky-needle/core/model';
import { UNITS, type UnitId } from '@lucky-needle/core/units';
import { ParamFields } from '../../../parts/ParamFields.tsx';
import { numbersWith } from '../../../parts/numbersWith.ts';

interface Props {
  readonly figure: FigureSpec;
  readonly watches: readonly WatchSpec[];
  /** The other channels of the gadget, with the unit that each reads. */
  readonly others: readonly { readonly channel: Channel; readonly unit: UnitId | null }[];
  readonly unit: UnitId;
  readonly asks: readonly Ask[];
  onChange(figure: FigureSpec): void;
  onRemove(): void;
}

/** What a figure is made of: its watches, channels and parameters. */
export function FigureFields({ figure, watches, others, unit, asks, onChange, onRemove }: Props) {
  const kind = figureKind(figure.kind);
  if (!kind) return null;
  const set = (change: Partial<FigureSpec>) => onChange({ ...figure, ...change });
  const setOthers = (ids: readonly string[]) =>
    set({ others: [...ids], params: numbersWith(figure.params, figure.others, ids) });
  const units = figure.others.map((id) => others.find((o) => o.channel.id === id)?.unit ?? unit);
  const wanted = kind.others === 'several' ? null : kind.others;
  return (
    <div className="rounded-box border border-primary p-3">
      <p className="muted mb-2 text-sm">{kind.summary}.</p>
      <div className="grid grid-cols-2 items-start gap-3 lg:grid-cols-4">
        <label className="block">
          <span className="muted mb-1 block text-xs">Name</span>
          <input
            className="input input-sm w-full"
            maxLength={60}
            value={figure.name}
            onChange={(e) => set({ name: e.target.value })}
          />
        </label>
        {Object.entries(kind.roles).map(([name, role]) => (
          <label key={name} className="block">
            <span className="muted mb-1 block text-xs">{role.title}</span>
            <select
              className="select select-sm w-full"
              value={figure.watches[name] ?? ''}
              onChange={(e) => set({ watches: { ...figure.watches, [name]: e.target.value } })}
            >
              {!figure.watches[name] && <option value="">choose an event</option>}
              {watches.map((w) => (
                <option key={w.id} value={w.id}>
                  {w.name}
                </option>
              ))}
            </select>
          </label>
        ))}
        {wanted?.map((title, i) => (
          <label key={title} className="block">
            <span className="muted mb-1 block text-xs">Channel for {title}</span>
            <select
              className="select select-sm w-full"
              value={figure.others[i] ?? ''}
              onChange={(e) => set({ others: figure.others.toSpliced(i, 1, e.target.value) })}
            >
              {!figure.others[i] && <option value="">choose a channel</option>}
              {others.map(({ channel }) => (
                <option key={channel.id} value={channel.id}>
                  {channel.name}
                </option>
              ))}
            </select>
          </label>
        ))}
        <ParamFields
          schema={kind.params}
          values={figure.params}
          unitOf={(name) => (kind.levels.includes(name) ? UNITS[unit].symbol : undefined)}
          choicesOf={(name, all) =>
            name === 'to'
              ? all.filter((to) => kind.unit({ ...figure.params, to }, unit, units) !== null)
              : all
          }
          onChange={(name, value) => set({ params: { ...figure.params, [name]: value } })}
        />
        {asks.length > 1 && (
          <label className="block">
            <span className="muted mb-1 block text-xs">Requirement in the brief</span>
            <select
              className="select select-sm w-full"
              value={figure.askId ?? ''}
              onChange={(e) => set({ askId: e.target.value || null })}
            >
              <option value="">none; additional result</option>
              {asks.map((a) => (
                <option key={a.id} value={a.id}>
                  {a.quantity}
                </option>
              ))}
            </select>
          </label>
        )}
      </div>
      {kind.others === 'several' && others.length > 0 && (
        <fieldset className="mt-2">
          <legend className="muted text-xs">Channels to include</legend>
          <div className="flex flex-wrap gap-x-4 gap-y-1">
            {others.map(({ channel }) => (
              <label key={channel.id} className="flex items-center gap-2 text-sm">
                <input
                  type="checkbox"
                  className="checkbox checkbox-sm"
                  checked={figure.others.includes(channel.id)}
                  onChange={(e) =>
                    setOthers(
                      e.target.checked
                        ? [...figure.others, channel.id]
                        : figure.others.filter((id) => id !== channel.id),
                    )
                  }
                />
                {channel.name}
              </label>
            ))}
          </div>
        </fieldset>
      )}
      <button type="button" className="btn btn-ghost btn-sm mt-2" onClick={onRemove}>
        <Trash2 className="size-4" aria-hidden /> Remove {figure.name}
      </button>
    </div>
  );
}
