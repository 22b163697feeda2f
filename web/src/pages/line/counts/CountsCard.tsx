import { useState } from 'react';
import { DETECTORS, detectorKind } from '@lucky-needle/core/detect';
import { FIGURES } from '@lucky-needle/core/figures';
import { givesDirection } from '@lucky-needle/core/line';
import type { Channel, FigureSpec, WatchSpec } from '@lucky-needle/core/model';
import { rawColumns, readingUnit } from '@lucky-needle/core/plan';
import type { UnitId } from '@lucky-needle/core/units';
import { usePressMutation, useResetFiguresMutation } from '../../../api/gadgetApi.ts';
import { freshId } from '../../../app/freshId.ts';
import { useKey } from '../../../app/shell/keys.ts';
import type { BenchContext } from '../../../app/useBench.ts';
import { useLiveOf } from '../../../live/useLive.ts';
import { benchWorker } from '../../../workers/benchWorker.ts';
import { FigureFields } from './FigureFields.tsx';
import { FigureTiles } from './FigureTiles.tsx';
import { tallyOf } from '../../../parts/counts/figureText.ts';
import { NewestEvents } from './NewestEvents.tsx';
import type { ReadingText } from '../readingText.ts';
import type { Counted } from './useCounted.ts';
import { WatchFields } from './WatchFields.tsx';

interface Props {
  readonly bench: BenchContext;
  /** As it is being changed. */
  readonly channel: Channel;
  /** Unit and newest value of its reading. */
  readonly unit: UnitId;
  readonly reading: ReadingText;
  readonly counted: Counted;
  readonly isDraft: boolean;
  readonly isLive: boolean;
  /** Now on the gadget's clock, or the start of the run, s. */
  readonly zeroS: number;
  readonly saving: boolean;
  /** Readings that levels are proposed from: all of those that are looked at. */
  trace(): { readonly times: Float64Array; readonly values: Float64Array } | null;
  onChange(change: Partial<Pick<Channel, 'watches' | 'figures' | 'shows'>>): void;
  onDiscard(): void;
  onSave(): void;
}

const MOST_WATCHES = 6;
const MOST_FIGURES = 12;

/** What counts as an event, and what the needle shows: the reading, or a figure made of readings and events. */
export function CountsCard(props: Props) {
  const { bench, channel, unit, counted, isDraft, isLive, saving, onChange } = props;
  const { gadget } = bench;
  const { watches = [], figures = [], shows = null } = channel;
  const [openId, setOpenId] = useState<string | null>(null);
  const [addedId, setAddedId] = useState<string | null>(null);
  const [reasons, setReasons] = useState<Readonly<Record<string, string>>>({});
  const [press] = usePressMutation();
  const [reset] = useResetFiguresMutation();
  const live = useLiveOf((l) => l.columns);
  const isDirection = givesDirection(channel.line);
  const columns = [...new Set([...live.keys(), ...rawColumns(gadget)])];
  const others = gadget.channels
    .filter((c) => c.id !== channel.id)
    .map((c) => ({ channel: c, unit: readingUnit(gadget, c) }));
  const buttons = watches.filter((w) => detectorKind(w.kind)?.looksAt === 'hand');
  const first = buttons[0];
  const pressFirst = (id: string) => void press({ id: gadget.id, channelId: channel.id, watchId: id });
  useKey(
    ' ',
    () => first && pressFirst(first.id),
    isLive && !isDraft && bench.link !== null && first !== undefined,
  );

  const setWatch = (watch: WatchSpec) =>
    onChange({ watches: watches.map((w) => (w.id === watch.id ? watch : w)) });
  const addWatch = () => {
    const kind = DETECTORS.find((d) => d.looksAt === (isDirection ? 'direction' : 'reading'))!;
    const id = freshId(watches, 'event');
    const name = kind.title.split(' ')[0]!;
    setAddedId(id);
    onChange({
      watches: [
        ...watches,
        {
          id,
          name,
          kind: kind.kind,
          column: null,
          params: { ...kind.defaults },
          deadTimeS: 0,
          after: null,
          leastS: 0,
        },
      ],
    });
  };
  const removeWatch = (id: string) => {
    const left = figures.filter((f) => !Object.values(f.watches).includes(id));
    onChange({
      watches: watches.filter((w) => w.id !== id).map((w) => (w.after === id ? { ...w, after: null } : w)),
      figures: left,
      shows: left.some((f) => f.id === shows) ? shows : null,
    });
  };
  const propose = async (watch: WatchSpec) => {
    const trace = props.trace();
    const ask = gadget.brief?.asks.find((a) => a.id === channel.askId);
    const perSecond = (v: number) => (ask && isRate(ask.unit) ? v * RATES[ask.unit]! : Number.NaN);
    const found = trace
      ? await benchWorker().propose(watch.kind, {
          ...trace,
          unit,
          slowestHz: ask ? perSecond(ask.low) : Number.NaN,
          fastestHz: ask ? perSecond(ask.high) : Number.NaN,
        })
      : { problem: 'There are no readings to analyse.' };
    if ('problem' in found) return setReasons({ ...reasons, [watch.id]: found.problem });
    setReasons({ ...reasons, [watch.id]: found.why });
    setWatch({ ...watch, params: { ...watch.params, ...found.params } });
  };

  const fitting = FIGURES.filter((kind) => Object.keys(kind.roles).length === 0 || watches.length > 0).filter(
    (kind) => {
      const wanted = kind.others === 'several' ? [] : kind.others;
      const units = wanted.map((_, i) => others[i]?.unit ?? null);
      if (wanted.length > 0) return others.some((o) => o.unit && fitsWith(kind, unit, [o.unit]));
      return (
        !units.includes(null) &&
        (kind.others === 'several' ? fitsAny(kind, unit, others) : fitsWith(kind, unit, []))
      );
    },
  );
  const addFigure = (kindId: string) => {
    const kind = FIGURES.find((f) => f.kind === kindId)!;
    const partner = others.find((o) => o.unit && fitsWith(kind, unit, [o.unit]));
    const alike = others.filter((o) => o.unit === unit);
    const chosen =
      kind.others === 'several'
        ? kind.kind === 'integral'
          ? []
          : alike
        : kind.others.length > 0 && partner
          ? [partner]
          : [];
    const units = chosen.map((o) => o.unit!);
    const id = freshId(figures, kind.kind);
    const figure: FigureSpec = {
      id,
      kind: kind.kind,
      name: kind.title,
      watches: Object.fromEntries(
        Object.keys(kind.roles).map((role, i) => [role, (watches[i] ?? watches[0])!.id]),
      ),
      others: chosen.map((o) => o.channel.id),
      params: { ...(kind.defaultsFor?.(unit, units) ?? kind.defaults) },
      askId: null,
    };
    onChange({ figures: [...figures, figure] });
    setOpenId(id);
  };
  const open = figures.find((f) => f.id === openId) ?? null;
  const where = isLive ? 'in the last few minutes' : 'in this run';
  return (
    <section className="panel grid gap-3 border-primary" aria-label="Events and results">
      <div className="flex flex-wrap items-center gap-2">
        <h2 className="section-title mr-auto">Events and results</h2>
        {counted.share !== null && (
          <progress className="progress progress-primary w-32" value={counted.share} max={1} />
        )}
        {isLive && !isDraft && bench.link !== null && figures.length > 0 && (
          <button
            type="button"
            className="btn btn-sm"
            onClick={() => void reset({ id: gadget.id, channelId: channel.id })}
          >
            Reset results
          </button>
        )}
        {isLive &&
          !isDraft &&
          bench.link !== null &&
          buttons.map((w, i) => (
            <button
              key={w.id}
              type="button"
              className="btn btn-accent btn-sm"
              onClick={() => pressFirst(w.id)}
            >
              {w.name}
              {i === 0 && <kbd className="kbd kbd-xs">Space</kbd>}
            </button>
          ))}
        {isDraft && (
          <button type="button" className="btn btn-ghost btn-sm" onClick={props.onDiscard}>
            Discard
          </button>
        )}
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={!isDraft || saving}
          onClick={props.onSave}
        >
          Save events and results
        </button>
      </div>
      {(counted.problem ?? counted.error) && (
        <p role="alert" className="text-sm text-error">
          {counted.problem ?? counted.error}
        </p>
      )}
      {watches.length === 0 && (
        <p className="muted text-sm">
          This channel has no event detectors yet. An event is a beat, a peak, a crossed level, or a start and
          a stop. Results are calculated from events and readings.
        </p>
      )}
      {watches.map((watch) => (
        <WatchFields
          key={watch.id}
          watch={watch}
          others={watches.filter((w) => w.id !== watch.id)}
          unit={unit}
          isDirection={isDirection}
          columns={columns}
          tally={tallyOf(counted.events, watch.id)}
          where={where}
          startsOpen={watch.id === addedId}
          why={reasons[watch.id] ?? null}
          onChange={setWatch}
          onRemove={() => removeWatch(watch.id)}
          onPropose={detectorKind(watch.kind)?.find ? () => void propose(watch) : null}
        />
      ))}
      <FigureTiles
        specs={figures}
        figures={counted.figures}
        reading={props.reading}
        shows={shows}
        openId={open?.id ?? null}
        zeroS={props.zeroS}
        isLive={isLive}
        onShow={(id) => onChange({ shows: id })}
        onOpen={(id) => setOpenId(openId === id ? null : id)}
      />
      {open && (
        <FigureFields
          key={open.id}
          figure={open}
          watches={watches}
          others={others}
          unit={unit}
          asks={gadget.brief?.asks ?? []}
          onChange={(figure) => onChange({ figures: figures.map((f) => (f.id === figure.id ? figure : f)) })}
          onRemove={() =>
            onChange({
              figures: figures.filter((f) => f.id !== open.id),
              shows: shows === open.id ? null : shows,
            })
          }
        />
      )}
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className="btn btn-ghost btn-sm"
          disabled={watches.length >= MOST_WATCHES}
          onClick={addWatch}
        >
          + Add an event detector
        </button>
        <select
          className="select select-sm w-auto max-w-56"
          aria-label="Add a result"
          value=""
          disabled={figures.length >= MOST_FIGURES}
          onChange={(e) => addFigure(e.target.value)}
        >
          <option value="">+ Add a result</option>
          {fitting.map((kind) => (
            <option key={kind.kind} value={kind.kind} title={kind.summary}>
              {kind.title}
            </option>
          ))}
        </select>
      </div>
      <NewestEvents
        watches={watches}
        events={counted.events}
        unit={unit}
        zeroS={props.zeroS}
        isLive={isLive}
      />
    </section>
  );
}

/** Events a second of the units that a rate is asked in. */
const RATES: Readonly<Partial<Record<UnitId, number>>> = { Hz: 1, perMin: 1 / 60, rpm: 1 / 60 };
const isRate = (unit: UnitId) => RATES[unit] !== undefined;

type Kind = (typeof FIGURES)[number];

const fitsWith = (kind: Kind, unit: UnitId, others: readonly UnitId[]) =>
  kind.unit(kind.defaultsFor?.(unit, others) ?? kind.defaults, unit, others) !== null;

const fitsAny = (kind: Kind, unit: UnitId, others: readonly { readonly unit: UnitId | null }[]) => {
  const alike = others.filter((o) => o.unit === unit).map((o) => o.unit!);
  return (
    fitsWith(kind, unit, []) ||
    fitsWith(kind, unit, alike) ||
    (kind.kind === 'peak-wavelength' && alike.length > 1)
  );
};
