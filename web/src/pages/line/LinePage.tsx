import { useEffect, useMemo, useState } from 'react';
import { useLocation } from 'react-router';
import { hasFilterTraits, stageKind, stagesThatFit } from '@lucky-needle/core/line';
import type { Channel, LineSpec, StageSpec } from '@lucky-needle/core/model';
import { UNITS } from '@lucky-needle/core/units';
import { freshId } from '../../app/freshId.ts';
import { draftKey, lineChanged, lineRedone, lineSettled, lineUndone } from '../../app/drafts.ts';
import { useKey } from '../../app/shell/keys.ts';
import { useAppDispatch, useAppSelector } from '../../app/store.ts';
import { lookLine } from '../../app/lookLine.ts';
import { useBench, useChannel } from '../../app/useBench.ts';
import { useShelf } from '../../app/useShelf.ts';
import { useLiveLine } from '../../live/useLiveLine.ts';
import { StripOf } from '../../parts/ChannelStrip.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { useSaveGadget } from '../../parts/useSaveGadget.ts';
import { useShownWorth } from '../../parts/useShownWorth.ts';
import { FilterCard } from './FilterCard.tsx';
import { ChannelCard } from './ChannelCard.tsx';
import { CountsCard } from './counts/CountsCard.tsx';
import { useCounted } from './counts/useCounted.ts';
import { countsOf, useCountsDraft } from './counts/useCountsDraft.ts';
import { AdvisorCard } from './AdvisorCard.tsx';
import { LinePlot, type PlotChoice } from './LinePlot.tsx';
import { LineTools } from './LineTools.tsx';
import { readingText } from './readingText.ts';
import { Explained } from '../../parts/Explained.tsx';
import { StageCard } from './StageCard.tsx';
import { StageList } from './StageList.tsx';
import { StagePicker } from './StagePicker.tsx';
import { unitsAfter } from './unitsAfter.ts';
import { CLOSE_S, isFilter, LIVE_S, useLineData, type LineData } from './useLineData.ts';
import { lowerFirst } from '@lucky-needle/core/words';

/** The signal line of one channel: every change shows in the strip and the preview at once, and is kept when saved. */
export function LinePage() {
  const bench = useBench();
  const { gadget } = bench;
  const channel = useChannel(bench);
  const key = draftKey(gadget.id, channel.channel.id);
  const draft = useAppSelector((state) => state.drafts[key]);
  const dispatch = useAppDispatch();
  const { save, saving, problem } = useSaveGadget(gadget);
  const live = useLiveLine(channel.channel.id, channel.line, gadget.sampleRateHz);
  const worth = useShownWorth(channel, live);
  const shelf = useShelf();
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

  // A new stage comes behind the one that was opened by hand, else at the end.
  const causes = [...new Set(base.stages.flatMap((s) => Object.values(s.cause ?? {})))];
  const behind = openId !== null && open ? base.stages.indexOf(open) + 1 : base.stages.length;
  const units = useMemo(() => unitsAfter(base, behind), [base, behind]);
  const addable = stagesThatFit(units);
  // Also of other channels: this one may go on from them.
  const taken = gadget.channels.filter((c) => c.id !== channel.channel.id).flatMap((c) => c.line.stages);
  const insert = (at: number, ...stages: Omit<StageSpec, 'id'>[]) => {
    const next = [...base.stages];
    const fresh = stages.map((stage, i) => {
      const id = freshId([...taken, ...next], stage.kind);
      const made = { ...stage, id };
      next.splice(at + i, 0, made);
      return made;
    });
    setStages(next);
    setOpenId(fresh[0]!.id);
  };
  const add = (kind: string) => {
    const chosen = stageKind(kind)!;
    const params = { ...(chosen.defaultsFor?.(units) ?? chosen.defaults) };
    insert(behind, { kind, params, uncertainty: {}, off: false });
  };
  const move = (index: number, by: number) => {
    const stages = [...base.stages];
    const [stage] = stages.splice(index, 1);
    stages.splice(index + by, 0, stage!);
    setStages(stages);
  };

  const [choice, setChoice] = useState<PlotChoice>({
    recordingId: null,
    liveS: isQuick(channel.channel) ? CLOSE_S : LIVE_S,
    at: null,
    beside: null,
    window: null,
  });
  const recordings = bench.recordings.filter((r) => r.state !== 'recording' && r.sampleCount > 0);
  const recording = recordings.find((r) => r.id === choice.recordingId) ?? null;
  const stored = channel.channel;
  const counts = useCountsDraft(gadget.id, stored, base);
  const counting = counts.channel;
  const counted = useCounted({ bench, channel: counting, isDraft: counts.isDraft || dirty, recording });
  const saveCounts = async () => {
    const channels = gadget.channels.map((c) => (c.id === stored.id ? { ...c, ...countsOf(counting) } : c));
    if (await save({ channels }, 'Events and results saved.')) counts.discard();
  };
  const fedBy = gadget.channels.find((c) => c.id === stored.feed?.channelId)?.name;
  const top = live.line?.stages.length ?? 0;
  // Its own stages are the last of the line: what it goes on from stands before them.
  const placeOf = (id: string) => {
    const on = base.stages.filter((s) => !s.off);
    const at = on.findIndex((s) => s.id === id);
    return at < 0 ? 0 : Math.max(0, top - on.length + at + 1);
  };
  const openAt = open ? placeOf(open.id) : top;
  // Where something is counted, the reading that it is counted on is seen first.
  const isCounted = openId === null && (counting.watches?.length ?? 0) > 0;
  const shownAt = Math.min(choice.at ?? (isCounted ? top : openAt), top);
  const isFilterShown = live.line?.stages[shownAt - 1]?.kind.role === 'filter';
  const wantedBeside = choice.beside ?? (isFilterShown ? shownAt - 1 : -1);
  const besideAt = wantedBeside > top ? -1 : wantedBeside;
  const taps = useMemo(
    () => (besideAt >= 0 && besideAt !== shownAt ? [shownAt, besideAt] : [shownAt]),
    [shownAt, besideAt],
  );
  const lengthS = recording ? (recording.lastTimeS ?? 0) - (recording.firstTimeS ?? 0) : 0;
  const look = useMemo(
    () => (recording && live.line ? lookLine(bench, channel.channel, shelf, recording, channel.line) : null),
    [bench, channel.channel, channel.line, live.line, recording, shelf],
  );
  const data = useLineData({
    spec: channel.line,
    lookLine: look,
    live,
    sampleRateHz: gadget.sampleRateHz,
    recording: live.line ? recording : null,
    taps,
    fromS: choice.window?.fromS ?? 0,
    toS: choice.window?.toS ?? lengthS,
    liveS: choice.liveS,
  });
  const faultsOf = (id: string) => {
    const place = placeOf(id);
    return place === 0 ? null : (data.faults[place] ?? null);
  };
  const { brief } = channel;

  return (
    <>
      <PageHead title="Line" gadget={gadget} channel={channel} />
      <StripOf channel={channel} live={live} worth={worth} />
      {problem && (
        <div className="mb-3">
          <ProblemNote problem={problem} />
        </div>
      )}
      <div className="grid items-start gap-4 xl:grid-cols-[1fr_24rem]">
        <div className="grid min-w-0 gap-4">
          <LinePlot
            line={live.line}
            data={data}
            taps={taps}
            choice={choice}
            recordings={recordings}
            recording={recording}
            sampleRateHz={recording?.sampleRateHz ?? gadget.sampleRateHz}
            watches={counting.watches ?? NO_WATCHES}
            events={counted.events}
            newestS={live.times.at(-1) ?? 0}
            onChoice={setChoice}
          />
          {live.line && (
            <CountsCard
              key={`${gadget.id} ${stored.id}`}
              bench={bench}
              channel={counting}
              unit={live.line.outputs[0]!.unit}
              reading={readingText(live, brief, worth)}
              counted={counted}
              isDraft={counts.isDraft}
              isLive={recording === null}
              zeroS={recording ? (recording.firstTimeS ?? 0) : (live.times.at(-1) ?? 0)}
              saving={saving}
              trace={() => traceOf(recording === null ? live.stages.at(-1) : endCurve(data, taps, top))}
              onChange={counts.change}
              onDiscard={counts.discard}
              onSave={() => void saveCounts()}
            />
          )}
          {open && priced(open) && (
            <FilterCard
              stage={open}
              sampleRateHz={gadget.sampleRateHz}
              brief={channel.brief}
              unit={live.line?.outputs[0]?.unit ?? 'degC'}
            />
          )}
          {brief && live.line && (
            <AdvisorCard
              key={channel.channel.id}
              unit={live.line.outputs[0]!.unit}
              advise={() => data.advise(brief)}
              onTry={(chain) => {
                const conversions = base.stages.filter((s) => !isFilter(s.kind));
                const stages = [...conversions];
                for (const { kind, params } of chain.stages)
                  stages.push({
                    id: freshId([...taken, ...stages], kind),
                    kind,
                    params,
                    uncertainty: {},
                    off: false,
                  });
                setStages(stages);
                setOpenId(stages.at(-1)!.id);
              }}
            />
          )}
        </div>
        <section className="grid min-w-0 grid-cols-[minmax(0,1fr)] gap-2" aria-label="Stages">
          <div className="flex flex-wrap items-center gap-1">
            <span className="section-title mr-auto">
              <Explained text="Stages" />
            </span>
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
              Save line
            </button>
          </div>
          <p className="num muted text-xs">
            {stored.feed
              ? `Input: ${fedBy ?? 'a deleted channel'}`
              : `Input: ${base.sources.map((s) => s.column).join(', ')}`}
            , {UNITS[base.sources[0]!.unit].name}
          </p>
          <StageList stages={base.stages} onOrder={setStages}>
            {base.stages.map((stage, i) => (
              <StageCard
                key={stage.id}
                stage={stage}
                open={stage.id === open?.id}
                fault={live.error?.stage?.id === stage.id ? live.error.message : null}
                bad={faultsOf(stage.id)}
                calibration={
                  channel.calibration?.result.edits.some((e) => e.stageId === stage.id)
                    ? channel.calibration
                    : null
                }
                causes={causes}
                others={gadget.channels.filter((c) => c.id !== channel.channel.id)}
                first={i === 0}
                last={i === base.stages.length - 1}
                onOpen={() => setOpenId(stage.id)}
                onChange={(next) => setStages(base.stages.map((s) => (s.id === stage.id ? next : s)))}
                onRemove={() => setStages(base.stages.filter((s) => s.id !== stage.id))}
                onMove={(by) => move(i, by)}
                onDuplicate={() => insert(i + 1, { ...stage })}
              />
            ))}
          </StageList>
          <StagePicker
            kinds={addable}
            units={units}
            behind={behind > 0 ? stageTitle(base.stages[behind - 1]!) : (fedBy ?? 'the raw column')}
            onAdd={add}
          />
          <ChannelCard
            key={`channel ${stored.id} ${gadget.version}`}
            gadget={gadget}
            channel={stored}
            isDraft={dirty || counts.isDraft}
            saving={saving}
            onSave={(channels, done, then) =>
              void save({ channels }, done).then((saved) => {
                if (saved && then) channel.choose(then);
              })
            }
          />
          <LineTools
            key={channel.channel.id}
            channel={channel.channel}
            line={base}
            sampleRateHz={gadget.sampleRateHz}
            saving={saving}
            onLine={setLine}
            onVariants={(variants, done) =>
              void save(
                {
                  channels: gadget.channels.map((c) =>
                    c.id === channel.channel.id ? { ...c, variants } : c,
                  ),
                },
                done,
              )
            }
          />
        </section>
      </div>
    </>
  );
}

/** Beats and pulses come so often that a minute of them cannot be told apart. */
const isQuick = ({ watches = [] }: Channel) =>
  watches.some((w) => ['beat', 'pulse', 'peak'].includes(w.kind));

const NO_WATCHES: readonly never[] = [];

/** The curve at the end of the line, if it is drawn. */
const endCurve = ({ curves }: LineData, taps: readonly number[], top: number) => curves[taps.indexOf(top)];

const traceOf = (curve: { readonly times: Float64Array; readonly values: Float64Array } | undefined) =>
  curve && curve.times.length > 0 ? { times: curve.times.slice(), values: curve.values.slice() } : null;

/** Whether a stage is a filter whose benefit and price can be shown. */
function priced(stage: StageSpec): boolean {
  const kind = stageKind(stage.kind);
  return kind !== undefined && kind.lanewise && hasFilterTraits(kind);
}

const stageTitle = (stage: StageSpec) => lowerFirst(stageKind(stage.kind)?.title ?? stage.kind);
