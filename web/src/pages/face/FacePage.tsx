import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { outputsOf, pageAsked } from '@lucky-needle/core/alarm';
import {
  displayGrid,
  type FaceWidgetKind,
  raceFigure,
  withKeptFigures,
  withWidget,
} from '@lucky-needle/core/face';
import type { FaceButton, FacePage as Page, FaceSpec } from '@lucky-needle/core/model';
import { partsOf } from '@lucky-needle/core/plan';
import { useResetFiguresMutation } from '../../api/gadgetApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { useBench } from '../../app/useBench.ts';
import { usePlan, useShelf } from '../../app/useShelf.ts';
import { useLive } from '../../live/useLive.ts';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { useSaveGadget } from '../../parts/useSaveGadget.ts';
import { Alarms } from './Alarms.tsx';
import { ArrangeLayer } from './arrange/ArrangeLayer.tsx';
import { PageTabs } from './arrange/PageTabs.tsx';
import { WidgetPalette } from './arrange/WidgetPalette.tsx';
import { WidgetPanel } from './arrange/WidgetPanel.tsx';
import { alike, bigReading } from './bigReading.ts';
import { DisplaySettings } from './DisplaySettings.tsx';
import { FaceDisplay } from './FaceDisplay.tsx';
import { hasEnds } from './faceReading.ts';
import { GadgetButtons } from './GadgetButtons.tsx';
import type { FaceSource } from './faceSource.ts';
import { NamedStates } from './NamedStates.tsx';
import { PlayBar } from './PlayBar.tsx';
import { pageContentOf } from './pageContentOf.ts';
import { proposedFace, startingFace } from './shownFace.ts';
import { useLiveFace } from './useLiveFace.ts';
import { useFaceOfRun, useRunFace } from './useRunFace.ts';
import { useTurning } from './useTurning.ts';

/** What the gadget shows and sounds, driven by the live readings, and arranged on its own display. */
export function FacePage() {
  const bench = useBench();
  const { gadget, recordings } = bench;
  const { save, saving, problem } = useSaveGadget(gadget);
  const plan = usePlan(gadget);
  const displays = partsOf(useShelf(), 'display');
  const live = useLiveFace();
  const playable = recordings.filter((r) => r.state !== 'recording' && r.sampleCount > 0);
  const [runId, setRunId] = useState('');
  const [moment, setMoment] = useState(0);
  const run = playable.find((r) => r.id === runId) ?? null;
  const runFace = useRunFace(run);
  const played = useFaceOfRun(runFace, moment);
  // Until the run is read its face is not known: what is live now must not stand for it.
  const source: FaceSource = run ? (played ?? { ...live, ...UNREAD }) : live;
  const { readings, silent } = source;
  const { alarms, connected } = useLive();
  const [reset, resetting] = useResetFiguresMutation();
  const [draft, setDraft] = useState<FaceSpec | null>(null);
  const [isArranging, setArranging] = useState(false);
  const [chosen, setChosen] = useState<string | null>(null);
  const [unitAt, setUnitAt] = useState(0);
  // The part that was picked is what the gadget has, until the maker says otherwise.
  const face = draft ?? gadget.face ?? proposedFace(gadget, plan, readings);
  const display = displays.find((d) => d.id === face.displayId) ?? displays[0];
  const grid = useMemo(() => display && displayGrid(display), [display]);
  const laidOut = readings.map((r) => `${r.id} ${r.isDirection} ${hasEnds(r)}`).join();
  const starting = useMemo(
    () => (grid ? startingFace(grid, face, readings) : []),
    // Readings come all the time; what a layout is made of does not change with them.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [grid, laidOut, face.bigChannelId, face.look],
  );
  const pages = face.pages ?? starting;
  const turning = useTurning(pages.length, face.turnS ?? null, isArranging);
  if (!gadget.brief || readings.length === 0 || !display || !grid) {
    return (
      <>
        <PageHead title="Face" subtitle="Display and alarms" />
        <EmptyState title="Complete the brief and the line first">
          The face shows readings in the brief’s unit, with as many decimals as their uncertainty justifies.
        </EmptyState>
      </>
    );
  }
  const units = face.units ?? [];
  const unit = units[(unitAt % (units.length + 1)) - 1] ?? null;
  const rules = gadget.alarms ?? [];
  // What the bench said before it stopped answering is not known now: no lamp says that all is well.
  const items = run ? (played?.alarms ?? []) : connected ? (alarms?.items ?? []) : [];
  const outputs = rules.length > 0 ? outputsOf(rules, items) : null;
  // An alarm that nobody has seen shows its page, but not to somebody who arranges another.
  const asked = isArranging ? null : pageAsked(rules, items);
  const at = asked !== null && asked < pages.length ? asked : turning.page;
  const page = pages[at] ?? { name: 'Page 1', widgets: [] };
  const content = pageContentOf(gadget, page, source, unit);
  const dirty = JSON.stringify(face) !== JSON.stringify(gadget.face);
  const set = (part: Partial<FaceSpec>) => setDraft({ ...face, ...part });
  const setPages = (next: Page[], show = at) => {
    set({ pages: next });
    turning.show(show);
    if (!next[show]?.widgets.some((w) => w.id === chosen)) setChosen(null);
  };
  const setPage = (next: Page) => setPages(pages.map((p, k) => (k === at ? next : p)));
  const shownOn = new Set(page.widgets.map((w) => w.channelId));
  const resettable = gadget.channels.filter(
    (c) => (c.figures ?? []).length > 0 && (shownOn.has(c.id) || shownOn.has('highest')),
  );
  const does = (button: FaceButton): (() => void) | null => {
    if (button === 'page' && pages.length > 1) return () => turning.show((turning.page + 1) % pages.length);
    if (button === 'unit' && units.length > 0) return () => setUnitAt(unitAt + 1);
    if (button === 'reset' && resettable.length > 0 && silent === null && !run)
      return () => resettable.forEach((c) => void reset({ id: gadget.id, channelId: c.id }));
    return null;
  };
  const isTimed = (id: string) => gadget.channels.some((c) => c.id === id && raceFigure(c) !== null);
  const refused = (kind: FaceWidgetKind): string | null => {
    if (grid.cellPx === 0 && !kind.write)
      return 'A character display cannot show this. Choose a graphic display.';
    if (kind.wants === 'direction' && !readings.some((r) => r.isDirection))
      return 'No channel measures a direction.';
    if (kind.wants === 'race' && !gadget.channels.some((c) => raceFigure(c) !== null))
      return 'No channel has a result with a start event. Add one on the Line page.';
    return null;
  };
  const add = (kind: FaceWidgetKind) => {
    const fitting = readings.find(
      (r) => (kind.wants !== 'direction' || r.isDirection) && (kind.wants !== 'race' || isTimed(r.id)),
    )!;
    const next = withWidget(grid, page, kind.kind, kind.kind === 'label' ? '' : fitting.id);
    const { id } = next.widgets.at(-1)!;
    setPage(
      kind.kind === 'label'
        ? {
            ...next,
            widgets: next.widgets.map((w) => (w.id === id ? { ...w, text: gadget.name.slice(0, 40) } : w)),
          }
        : next,
    );
    setChosen(id);
  };
  const keep = async () => {
    const channels = withKeptFigures(gadget.channels, face.pages ?? []);
    const isMore = channels.some((c, k) => c !== gadget.channels[k]);
    if (await save({ face, ...(isMore ? { channels } : {}) }, 'Display saved.')) {
      setDraft(null);
      setArranging(false);
    }
  };
  return (
    <>
      <PageHead
        title="Face"
        subtitle={`${display.title}, showing ${run ? `run “${run.name}”` : silent ? 'nothing (no readings)' : 'live readings'}`}
      >
        {playable.length > 0 && (
          <select
            className="select select-sm w-auto max-w-48"
            aria-label="Source of the readings"
            value={run?.id ?? ''}
            onChange={(e) => {
              setRunId(e.target.value);
              setMoment(0);
            }}
          >
            <option value="">Live</option>
            {playable.map((r) => (
              <option key={r.id} value={r.id}>
                {r.name}
              </option>
            ))}
          </select>
        )}
        {(rules.length > 0 || grid.cellPx === 0) && (
          <a className="btn btn-ghost btn-sm" href={`/api/gadgets/${gadget.id}/face/header`} download>
            Download C code
          </a>
        )}
        <Link className="btn btn-ghost btn-sm" to={`/wall?g=${gadget.id}`}>
          Wall view
        </Link>
        {isArranging && face.pages && (
          <button
            type="button"
            className="btn btn-ghost btn-sm"
            onClick={() => {
              // Without pages of its own the starting layout is back.
              const { pages: _gone, ...rest } = face;
              setDraft(rest);
              setChosen(null);
            }}
          >
            Reset layout
          </button>
        )}
        <button
          type="button"
          aria-pressed={isArranging}
          className="btn btn-sm bg-base-100"
          onClick={() => {
            setArranging(!isArranging);
            setChosen(null);
          }}
        >
          {isArranging ? 'Done' : 'Edit layout'}
        </button>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={!dirty || saving}
          onClick={() => void keep()}
        >
          Save
        </button>
      </PageHead>
      <div className="grid items-start gap-4 xl:grid-cols-[1fr_22rem]">
        <div className="grid min-w-0 gap-4">
          {run && (
            <PlayBar key={run.id} face={runFace} beganS={run.firstTimeS ?? 0} at={moment} onAt={setMoment} />
          )}
          <PageTabs
            pages={pages}
            shown={at}
            onShow={(k) => {
              turning.show(k);
              setChosen(null);
            }}
            onPages={isArranging ? setPages : undefined}
          />
          <FaceDisplay
            display={display}
            grid={grid}
            content={content}
            outputs={outputs}
            over={
              isArranging && (
                <ArrangeLayer grid={grid} page={page} chosen={chosen} onChoose={setChosen} onPage={setPage} />
              )
            }
            below={<GadgetButtons {...(face.buttons ?? { a: 'page', b: 'unit' })} does={does} />}
          />
          {isArranging && <WidgetPalette refused={refused} onAdd={add} />}
          {run && <p className="muted text-sm">The alarms below are live; they do not follow the run.</p>}
          <Alarms />
          <NamedStates gadget={gadget} />
        </div>
        <section className="panel grid gap-3" aria-label="Display">
          <h2>{chosen ? 'Selected item' : 'Display'}</h2>
          <ProblemNote problem={problem ?? problemOf(resetting.error)} />
          {isArranging && chosen ? (
            <WidgetPanel
              key={chosen}
              gadget={gadget}
              grid={grid}
              page={page}
              chosen={chosen}
              canFollow={alike(readings).length > 1}
              onPage={setPage}
            />
          ) : (
            <DisplaySettings
              gadget={gadget}
              face={face}
              display={display}
              displays={displays}
              plan={plan}
              readings={readings}
              followed={bigReading(readings, face.bigChannelId)}
              pages={pages.length}
              onFace={set}
            />
          )}
        </section>
      </div>
    </>
  );
}

const UNREAD = { silent: 'loading run', alarm: null } as const;
