import { useState } from 'react';
import { Plus, Trash2 } from 'lucide-react';
import { stageKind } from '@lucky-needle/core/line';
import type { Channel, Gadget, LineSpec } from '@lucky-needle/core/model';
import { rawColumns, readingUnit } from '@lucky-needle/core/plan';
import { UNITS, type UnitId } from '@lucky-needle/core/units';
import { useLiveOf } from '../../live/useLive.ts';
import { UnitSelect } from '../../parts/UnitSelect.tsx';

interface Props {
  readonly gadget: Gadget;
  readonly channel: Channel;
  /** Whether its line has changes that are not saved: they come first. */
  readonly isDraft: boolean;
  readonly saving: boolean;
  onSave(channels: Channel[], done: string, then?: string): void;
}

const MOST_CHANNELS = 16;

/** A channel's name, what of the brief it stands for, and what it starts from: raw columns, or another channel. */
export function ChannelCard({ gadget, channel, isDraft, saving, onSave }: Props) {
  const columns = useLiveOf((l) => l.columns);
  const [name, setName] = useState(channel.name);
  const [sources, setSources] = useState(channel.line.sources.map((s) => s.column).join(', '));
  const known = [...new Set([...columns.keys(), ...rawColumns(gadget)])];
  const others = gadget.channels.filter((c) => c.id !== channel.id && !goesOnFrom(gadget, c, channel.id));
  const used = gadget.channels.filter(
    (c) => c.feed?.channelId === channel.id || c.figures?.some((f) => f.others.includes(channel.id)),
  );
  const set = (change: Partial<Channel>, done: string) =>
    onSave(
      gadget.channels.map((c) => (c.id === channel.id ? { ...c, ...change } : c)),
      done,
    );
  const feedFrom = (value: string) => {
    if (value === '') {
      const [first] = known;
      return set(
        { feed: null, line: withColumns(channel.line, [first ?? channel.id], 'count') },
        `${channel.name} now starts from a raw column.`,
      );
    }
    const parent = gadget.channels.find((c) => c.id === value)!;
    const unit = readingUnit(gadget, parent) ?? 'count';
    set(
      { feed: { channelId: value, stageId: null }, line: withColumns(channel.line, [parent.id], unit) },
      `${channel.name} now continues from ${parent.name}.`,
    );
  };
  const add = () => {
    const id = freshId(gadget.channels);
    const fresh: Channel = {
      id,
      askId: channel.askId,
      name: `${channel.name}, again`.slice(0, 80),
      line: { sources: [{ column: channel.id, unit: readingUnit(gadget, channel) ?? 'count' }], stages: [] },
      feed: { channelId: channel.id, stageId: null },
    };
    onSave([...gadget.channels, fresh], `${fresh.name} added.`, id);
  };
  return (
    <details className="panel py-2 text-sm">
      <summary className="cursor-pointer">
        <span className="font-semibold">Channel</span>{' '}
        <span className="muted">
          {channel.feed
            ? `continues from ${gadget.channels.find((c) => c.id === channel.feed!.channelId)?.name ?? 'nothing'}`
            : `from raw ${channel.line.sources.map((s) => s.column).join(', ')}`}
        </span>
      </summary>
      {isDraft && <p className="muted mt-2">Save or discard the line changes first.</p>}
      <fieldset className="mt-2 grid gap-3" disabled={isDraft || saving}>
        <form
          className="flex items-end gap-2"
          onSubmit={(e) => {
            e.preventDefault();
            set({ name: name.trim() }, 'Channel renamed.');
          }}
        >
          <label className="block grow">
            <span className="muted mb-1 block text-xs">Name</span>
            <input
              className="input input-sm w-full"
              maxLength={80}
              value={name}
              onChange={(e) => setName(e.target.value)}
            />
          </label>
          <button className="btn btn-sm" disabled={name.trim() === '' || name.trim() === channel.name}>
            Rename
          </button>
        </form>
        <label className="block">
          <span className="muted mb-1 block text-xs">Requirement in the brief</span>
          <select
            className="select select-sm w-full"
            value={channel.askId}
            onChange={(e) => set({ askId: e.target.value }, 'Channel changed.')}
          >
            {!gadget.brief?.asks.some((a) => a.id === channel.askId) && (
              <option value={channel.askId}>none</option>
            )}
            {gadget.brief?.asks.map((a) => (
              <option key={a.id} value={a.id}>
                {a.quantity}
              </option>
            ))}
          </select>
        </label>
        <label className="block">
          <span className="muted mb-1 block text-xs">Source</span>
          <select
            className="select select-sm w-full"
            value={channel.feed?.channelId ?? ''}
            onChange={(e) => feedFrom(e.target.value)}
          >
            <option value="">raw columns</option>
            {others.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </select>
        </label>
        {channel.feed ? (
          <label className="block">
            <span className="muted mb-1 block text-xs">After stage</span>
            <select
              className="select select-sm w-full"
              value={channel.feed.stageId ?? ''}
              onChange={(e) =>
                set(
                  { feed: { channelId: channel.feed!.channelId, stageId: e.target.value || null } },
                  'Channel changed.',
                )
              }
            >
              <option value="">the last stage</option>
              {gadget.channels
                .find((c) => c.id === channel.feed!.channelId)
                ?.line.stages.map((s) => (
                  <option key={s.id} value={s.id}>
                    {stageKind(s.kind)?.title ?? s.kind}
                  </option>
                ))}
            </select>
          </label>
        ) : (
          <form
            className="grid grid-cols-[1fr_8rem_auto] items-end gap-2"
            onSubmit={(e) => {
              e.preventDefault();
              const wanted = sources
                .split(/[\s,;]+/)
                .filter((c) => c !== '')
                .slice(0, 16);
              set(
                { line: withColumns(channel.line, wanted, channel.line.sources[0]!.unit) },
                'Raw columns changed.',
              );
            }}
          >
            <label className="block">
              <span className="muted mb-1 block text-xs">Raw columns, in order</span>
              <input
                className="input input-sm num w-full"
                list={`raw-${channel.id}`}
                value={sources}
                onChange={(e) => setSources(e.target.value)}
              />
              <datalist id={`raw-${channel.id}`}>
                {known.map((c) => (
                  <option key={c} value={c} />
                ))}
              </datalist>
            </label>
            <label className="block">
              <span className="muted mb-1 block text-xs">Unit</span>
              <UnitSelect
                counts
                value={channel.line.sources[0]!.unit}
                onChange={(e) =>
                  set(
                    {
                      line: withColumns(
                        channel.line,
                        channel.line.sources.map((s) => s.column),
                        e.target.value as UnitId,
                      ),
                    },
                    'Unit of the raw columns changed.',
                  )
                }
              />
            </label>
            <button className="btn btn-sm" disabled={sources.trim() === ''}>
              Apply
            </button>
          </form>
        )}
        <div className="flex flex-wrap gap-2">
          <button
            type="button"
            className="btn btn-sm"
            disabled={gadget.channels.length >= MOST_CHANNELS}
            onClick={add}
          >
            <Plus className="size-4" aria-hidden /> Add a channel that continues from this one
          </button>
          <button
            type="button"
            className="btn btn-ghost btn-sm"
            disabled={gadget.channels.length < 2 || used.length > 0}
            title={used.length > 0 ? `Needed by ${used.map((c) => c.name).join(', ')}` : undefined}
            onClick={() =>
              onSave(
                gadget.channels.filter((c) => c.id !== channel.id),
                `${channel.name} removed.`,
                gadget.channels.find((c) => c.id !== channel.id)!.id,
              )
            }
          >
            <Trash2 className="size-4" aria-hidden /> Remove channel
          </button>
        </div>
        {used.length > 0 && (
          <p className="muted text-xs">
            {used.map((c) => c.name).join(', ')} {used.length > 1 ? 'need' : 'needs'} this channel, so it
            cannot be removed.
          </p>
        )}
      </fieldset>
    </details>
  );
}

/** The same stages behind other columns, all in one unit as they were or as the first is. */
function withColumns(line: LineSpec, columns: readonly string[], unit: UnitId): LineSpec {
  const unitOf = (column: string, i: number) => {
    const before = line.sources.find((s) => s.column === column) ?? line.sources[i];
    return i === 0 || !before || UNITS[before.unit].dimension === UNITS[unit].dimension ? unit : before.unit;
  };
  return { ...line, sources: columns.map((column, i) => ({ column, unit: unitOf(column, i) })) };
}

function goesOnFrom(gadget: Gadget, channel: Channel, id: string): boolean {
  const seen = new Set<string>();
  for (let now: Channel | undefined = channel; now?.feed && !seen.has(now.id);) {
    if (now.feed.channelId === id) return true;
    seen.add(now.id);
    const { channelId }: NonNullable<Channel['feed']> = now.feed;
    now = gadget.channels.find((c) => c.id === channelId);
  }
  return false;
}

function freshId(channels: readonly Channel[]): string {
  for (let n = 1; ; n++) if (!channels.some((c) => c.id === `c${n}`)) return `c${n}`;
}
