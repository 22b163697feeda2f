import { useState } from 'react';
import { characterFace, faceUnit, type FaceCell } from '@lucky-needle/core/face';
import type { FaceSpec } from '@lucky-needle/core/model';
import { REASON, REASONS } from '@lucky-needle/core/line';
import { partsOf, toleranceIn, type GadgetPlan } from '@lucky-needle/core/plan';
import { printSignificant, readingDecimals, UNITS, type UnitId } from '@lucky-needle/core/units';
import { useBench, type BenchContext } from '../../app/useBench.ts';
import { usePlan, useShelf } from '../../app/useShelf.ts';
import { useLive } from '../../live/useLive.ts';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { useSaveGadget } from '../../parts/useSaveGadget.ts';
import { Alarms } from './Alarms.tsx';
import { CharacterDisplay } from './CharacterDisplay.tsx';
import { type ChannelReading, useFaceReadings } from './useFaceReadings.ts';

/** What the gadget shows and sounds, driven by the live readings. */
export function FacePage() {
  const bench = useBench();
  const { gadget } = bench;
  const { save, saving, problem } = useSaveGadget(gadget);
  const shelf = useShelf();
  const plan = usePlan(gadget);
  const displays = partsOf(shelf, 'display').filter((d) => d.columns >= 20 && d.rows >= 4);
  const readings = useFaceReadings(bench);
  const [draft, setDraft] = useState<FaceSpec>(() => gadget.face ?? proposed(bench, plan, readings));
  const { status, alarms } = useLive();
  const list = readings.map((r) => ({ label: r.short, value: r.value, unit: faceUnit(r.unit) }));
  const followed =
    draft.bigChannelId === 'highest'
      ? highest(alike(readings))
      : readings.find((r) => r.id === draft.bigChannelId);
  const unit: UnitId = followed?.unit ?? 'degC';
  const big = {
    label: followed?.short ? `${channelLetter(unit)}${followed.short}` : '--',
    value: followed?.value ?? Number.NaN,
    unit: faceUnit(unit),
  };
  const silent = status?.state !== 'up';
  // What has not come yet, or a sensor that still warms up, is no fault.
  const settles = followed?.reason === REASON.waiting || followed?.reason === REASON.warmingUp;
  const display = displays.find((d) => d.id === draft.displayId) ?? displays[0]!;
  const tolerance = toleranceIn(followed?.brief ?? null, unit);
  const decimals = readingDecimals(followed?.uncertainty ?? null, tolerance);
  const dirty = JSON.stringify(draft) !== JSON.stringify(gadget.face);
  const symbol = UNITS[unit].symbol;

  const face = layFace(() =>
    characterFace({
      columns: display.columns,
      rows: display.rows,
      big,
      list: list.slice(0, display.rows).map((c) => ({ ...c, value: silent ? Number.NaN : c.value })),
      decimals,
      alarm: (gadget.alarms ?? []).length === 0 ? null : silent ? 'unknown' : (alarms?.level ?? 'unknown'),
    }),
  );

  if (!gadget.brief || readings.length === 0) {
    return (
      <>
        <PageHead title="Face" subtitle="What the gadget shows and sounds" />
        <EmptyState title="The face needs a brief and a line">
          It shows readings in the brief’s unit, with decimals that their uncertainty deserves.
        </EmptyState>
      </>
    );
  }
  return (
    <>
      <PageHead
        title="Face"
        subtitle={`${display.title}, fed by ${silent ? 'nothing: the link is silent' : 'the live link'}`}
      />
      <div className="grid items-start gap-4 xl:grid-cols-[1fr_22rem]">
        <div className="grid min-w-0 gap-4">
          {typeof face === 'string' ? (
            <p role="alert" className="panel text-sm text-error">
              {face}
            </p>
          ) : (
            <CharacterDisplay
              cells={face}
              note={
                readings.some((r) => UNITS[r.unit].dimension === 'house')
                  ? 'hu are house units, untraceable'
                  : null
              }
            />
          )}
          {settles && !silent && (
            <p role="status" className="panel text-sm" data-testid="settling">
              No reading yet: {REASONS[followed.reason]}. Alarms begin with the first reading.
            </p>
          )}
          <Alarms />
        </div>
        <section className="panel grid gap-3">
          <h2>Display</h2>
          <ProblemNote problem={problem} />
          <label className="block">
            <span className="muted mb-1 block text-xs">Display</span>
            <select
              className="select select-sm w-full"
              value={draft.displayId}
              onChange={(e) => setDraft({ ...draft, displayId: e.target.value })}
            >
              {displays.map((d) => (
                <option key={d.id} value={d.id}>
                  {d.title}
                </option>
              ))}
            </select>
          </label>
          <label className="block">
            <span className="muted mb-1 block text-xs">In big figures</span>
            <select
              className="select select-sm w-full"
              value={draft.bigChannelId}
              onChange={(e) => setDraft({ ...draft, bigChannelId: e.target.value })}
            >
              {alike(readings).length > 1 && <option value="highest">Whichever reads highest</option>}
              {gadget.channels.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}
                </option>
              ))}
            </select>
          </label>
          <p className="muted text-xs">
            {decimals === 0 ? 'Whole numbers' : decimals === 1 ? 'One decimal' : `${decimals} decimals`}
            {followed && followed.uncertainty !== null
              ? `: the reading is worth about ±${printSignificant(followed.uncertainty, 2)} ${symbol}`
              : ': what the reading is worth is not known'}
            .
          </p>
          <button
            type="button"
            className="btn btn-primary btn-sm justify-self-start"
            disabled={!dirty || saving || typeof face === 'string'}
            onClick={() => void save({ face: draft }, 'Face saved.')}
          >
            Save the face
          </button>
        </section>
      </div>
    </>
  );
}

/** The cells of the face, or a sentence that says why this display cannot carry it. */
function layFace(lay: () => FaceCell[][]): FaceCell[][] | string {
  try {
    return lay();
  } catch (error) {
    return (error as Error).message;
  }
}

/** Readings of the first channel's quantity: only those can be compared. */
const alike = (readings: readonly ChannelReading[]) => readings.filter((r) => r.unit === readings[0]!.unit);

/** P for probes that feel warmth, otherwise the channel. */
const channelLetter = (unit: UnitId) => (UNITS[unit].dimension === 'temperature' ? 'P' : 'C');

function highest(readings: readonly ChannelReading[]): ChannelReading | undefined {
  // A probe without a number goes first: a fault must not hide behind a healthy neighbour.
  return readings.find((r) => Number.isNaN(r.value)) ?? readings.toSorted((a, b) => b.value - a.value)[0];
}

function proposed(
  { gadget }: BenchContext,
  plan: GadgetPlan | null,
  readings: readonly ChannelReading[],
): FaceSpec {
  return {
    displayId: plan?.display?.id ?? 'character-20x4',
    bigChannelId: alike(readings).length > 1 ? 'highest' : (readings[0]?.id ?? gadget.channels[0]!.id),
  };
}
