import { useEffect, useMemo, useState } from 'react';
import { useLocation } from 'react-router';
import { hasFilterTraits, stageKind, stagesThatFit } from '@lucky-needle/core/line';
import type { LineSpec, StageSpec } from '@lucky-needle/core/model';
import { UNITS } from '@lucky-needle/core/units';
import { draftKey, lineChanged, lineRedone, lineSettled, lineUndone } from '../../app/drafts.ts';
import { useKey } from '../../app/shell/keys.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { useBench, useChannel } from '../../app/useBench.ts';
import { useLiveLine } from '../../live/useLiveLine.ts';
import { ChannelStrip } from '../../parts/ChannelStrip.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { useSaveGadget } from '../../parts/useSaveGadget.ts';
import { FilterCard } from './FilterCard.tsx';
import { LinePreview } from './LinePreview.tsx';
import { StageCard } from './StageCard.tsx';

/** The signal line of one channel: every change shows in the strip and the preview at once, and is kept when saved. */
export function LinePage() {
  const bench = useBench();
  const { gadget } = bench;
  const channel = useChannel(bench);
  const key = draftKey(gadget.id, channel.channel.id);
  const draft = useAppSelector((state) => state.drafts[key]);
  const dispatch = useAppDispatch();
  const { save, saving, problem } = useSaveGadget(gadget);
  const live = useLiveLine(channel.line, gadget.sampleRateHz);
  const { hash } = useLocation();
  const [openId, setOpenId] = useState<string | null>(null);
  const { base } = channel;
  const open =
    base.stages.find((s) => s.id === openId) ??
    base.stages.find((s) => priced(s)) ??
    base.stages.at(-1) ??
    null;
  useEffect(() => {
    if (hash) setOpenId(hash.slice(1));
  }, [hash]);

  const setLine = (line: LineSpec) => dispatch(lineChanged({ key, saved: channel.channel.line, line }));
  const setStages = (stages: StageSpec[]) => setLine({ ...base, stages });
  const dirty = draft !== undefined && JSON.stringify(draft.present) !== JSON.stringify(channel.channel.line);
  const saveLine = async () => {
    if (!dirty || saving) return;
    const channels = gadget.channels.map((c) => (c.id === channel.channel.id ? { ...c, line: base } : c));
    if (await save({ channels }, 'Line saved.')) dispatch(lineSettled(key));
  };
  useKey('u', () => dispatch(lineUndone(key)));
  useKey('r', () => dispatch(lineRedone(key)));
  useKey('s', () => void saveLine());

  const endUnits = useMemo(() => unitsAtEnd(base), [base]);
  const addable = stagesThatFit(endUnits);
  const add = (kind: string) => {
    const chosen = stageKind(kind)!;
    const id = freshId(base.stages, kind);
    setStages([
      ...base.stages,
      {
        id,
        kind,
        params: { ...(chosen.defaultsFor?.(endUnits) ?? chosen.defaults) },
        uncertainty: {},
        off: false,
      },
    ]);
    setOpenId(id);
  };
  const move = (index: number, by: number) => {
    const stages = [...base.stages];
    const [stage] = stages.splice(index, 1);
    stages.splice(index + by, 0, stage!);
    setStages(stages);
  };

  return (
    <>
      <PageHead title="Line" gadget={gadget} channel={channel} />
      <ChannelStrip channel={channel} live={live} />
      {problem && (
        <div className="mb-3">
          <ProblemNote problem={problem} />
        </div>
      )}
      <div className="grid items-start gap-4 xl:grid-cols-[1fr_24rem]">
        <div className="grid min-w-0 gap-4">
          <LinePreview live={live} stageId={open?.id ?? null} sampleRateHz={gadget.sampleRateHz} />
          {open && priced(open) && (
            <FilterCard
              stage={open}
              sampleRateHz={gadget.sampleRateHz}
              brief={channel.brief}
              unit={live.line?.outputs[0]?.unit ?? 'degC'}
            />
          )}
        </div>
        <section className="grid min-w-0 grid-cols-[minmax(0,1fr)] gap-2" aria-label="Stages">
          <div className="flex flex-wrap items-center gap-1">
            <span className="section-title mr-auto">Stages</span>
            <button
              type="button"
              className="btn btn-ghost btn-xs"
              disabled={!draft?.past.length}
              onClick={() => dispatch(lineUndone(key))}
            >
              Undo
            </button>
            <button
              type="button"
              className="btn btn-ghost btn-xs"
              disabled={!draft?.future.length}
              onClick={() => dispatch(lineRedone(key))}
            >
              Redo
            </button>
            <button
              type="button"
              className="btn btn-ghost btn-xs"
              disabled={!dirty}
              onClick={() => dispatch(lineSettled(key))}
            >
              Discard
            </button>
            <button
              type="button"
              className="btn btn-primary btn-xs"
              disabled={!dirty || saving || live.error !== null}
              onClick={() => void saveLine()}
            >
              Save the line
            </button>
          </div>
          <p className="num muted text-xs">
            raw {base.sources.map((s) => s.column).join(', ')}, {UNITS[base.sources[0]!.unit].name}
          </p>
          <ol className="grid grid-cols-[minmax(0,1fr)] gap-2">
            {base.stages.map((stage, i) => (
              <StageCard
                key={stage.id}
                stage={stage}
                open={stage.id === open?.id}
                fault={live.error?.stage?.id === stage.id ? live.error.message : null}
                calibration={
                  channel.calibration?.result.edits.some((e) => e.stageId === stage.id)
                    ? channel.calibration
                    : null
                }
                first={i === 0}
                last={i === base.stages.length - 1}
                onOpen={() => setOpenId(stage.id)}
                onChange={(next) => setStages(base.stages.map((s) => (s.id === stage.id ? next : s)))}
                onRemove={() => setStages(base.stages.filter((s) => s.id !== stage.id))}
                onMove={(by) => move(i, by)}
              />
            ))}
          </ol>
          <label className="mt-1 block">
            <span className="muted mb-1 block text-xs">
              Add a stage that fits {endUnits.map((u) => UNITS[u].name).join(', ')}
            </span>
            <select
              className="select select-sm w-full"
              value=""
              onChange={(e) => e.target.value && add(e.target.value)}
            >
              <option value="">Choose a stage…</option>
              {addable.map((k) => (
                <option key={k.kind} value={k.kind}>
                  {k.title}: {k.summary}
                </option>
              ))}
            </select>
          </label>
        </section>
      </div>
    </>
  );
}

/** Whether a stage is a filter whose benefit and price can be shown. */
function priced(stage: StageSpec): boolean {
  const kind = stageKind(stage.kind);
  return kind !== undefined && kind.lanewise && hasFilterTraits(kind);
}

function unitsAtEnd(line: LineSpec) {
  let units = line.sources.map((s) => s.unit);
  for (const stage of line.stages) {
    const kind = stageKind(stage.kind);
    if (!kind || !kind.accepts(units)) return units;
    try {
      units = kind.signature(stage.params, units);
    } catch (error) {
      // A stage that is being edited may not fit for the moment; its card says so.
      if (error instanceof RangeError) return units;
      throw error;
    }
  }
  return units;
}

function freshId(stages: readonly StageSpec[], kind: string): string {
  for (let n = 1; ; n++) {
    const id = n === 1 ? kind : `${kind}-${n}`;
    if (!stages.some((s) => s.id === id)) return id;
  }
}
