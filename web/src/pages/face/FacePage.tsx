import { useMemo, useState } from 'react';
import { Link } from 'react-router';
import { outputsOf, type AlarmOutputs } from '@lucky-needle/core/alarm';
import { characterFace, pixelFace, spokenFace, type FaceContent } from '@lucky-needle/core/face';
import type { DisplayPart, FaceLook, FaceSpec } from '@lucky-needle/core/model';
import { partsOf, toleranceIn, type GadgetPlan } from '@lucky-needle/core/plan';
import { printSignificant, readingDecimals, UNITS } from '@lucky-needle/core/units';
import { useBench, type BenchContext } from '../../app/useBench.ts';
import { usePlan, useShelf } from '../../app/useShelf.ts';
import { useLive } from '../../live/useLive.ts';
import { Choice } from '../../parts/Choice.tsx';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { useSaveGadget } from '../../parts/useSaveGadget.ts';
import { clock, useWarmUp } from '../trueup/useWarmUp.ts';
import { Alarms } from './Alarms.tsx';
import { CharacterDisplay } from './CharacterDisplay.tsx';
import { alike, bigReading } from './bigReading.ts';
import { faceContentOf } from './faceContentOf.ts';
import { PixelDisplay } from './PixelDisplay.tsx';
import { type ChannelReading, useFaceReadings } from './useFaceReadings.ts';

const LOOKS: readonly (readonly [FaceLook, string])[] = [
  ['auto', 'What suits best'],
  ['rows', 'The other channels, in rows'],
  ['dial', 'A dial'],
  ['bar', 'A bar'],
  ['trend', 'The last minute'],
  ['rose', 'A compass rose'],
];

/** What the gadget shows and sounds, driven by the live readings. */
export function FacePage() {
  const bench = useBench();
  const { gadget, link } = bench;
  const { save, saving, problem } = useSaveGadget(gadget);
  const shelf = useShelf();
  const plan = usePlan(gadget);
  const displays = partsOf(shelf, 'display');
  const readings = useFaceReadings(bench);
  const [draft, setDraft] = useState<FaceSpec | null>(null);
  const { status, alarms, connected } = useLive();
  const warm = useWarmUp(
    gadget,
    gadget.channels.map((c) => c.askId),
  );
  // The part that was picked is what the gadget has, until the maker says otherwise.
  const face = draft ?? gadget.face ?? proposed(bench, plan, readings);
  const followed = bigReading(readings, face.bigChannelId);
  const silent = !link ? 'no link' : status?.state === 'up' && connected ? null : 'no link';
  const rules = gadget.alarms ?? [];
  const content = faceContentOf(readings, followed?.id, {
    silent,
    warming: warm.coldS > 0 ? clock(warm.coldS) : null,
    rules,
    alarms,
    look: face.look ?? 'auto',
  });
  // What the bench said before it stopped answering is not known now: no lamp says that all is well.
  const outputs = rules.length > 0 ? outputsOf(rules, connected ? (alarms?.items ?? []) : []) : null;
  const display = displays.find((d) => d.id === face.displayId) ?? displays[0];
  const dirty = JSON.stringify(face) !== JSON.stringify(gadget.face);

  if (!gadget.brief || readings.length === 0 || !display) {
    return (
      <>
        <PageHead title="Face" subtitle="What the gadget shows and sounds" />
        <EmptyState title="The face needs a brief and a line">
          It shows readings in the brief’s unit, with decimals that their uncertainty deserves.
        </EmptyState>
      </>
    );
  }
  const isOther = plan?.display && plan.display.id !== display.id;
  const set = (part: Partial<FaceSpec>) => setDraft({ ...face, ...part });
  return (
    <>
      <PageHead
        title="Face"
        subtitle={`${display.title}, fed by ${silent ? 'nothing: the link is silent' : 'the live link'}`}
      >
        <Link className="btn btn-ghost btn-sm" to={`/wall?g=${gadget.id}`}>
          On the wall
        </Link>
      </PageHead>
      <div className="grid items-start gap-4 xl:grid-cols-[1fr_22rem]">
        <div className="grid min-w-0 gap-4">
          <Display display={display} content={content} outputs={outputs} />
          <Alarms />
        </div>
        <section className="panel grid gap-3" aria-label="Display">
          <h2>Display</h2>
          <ProblemNote problem={problem} />
          <label className="block">
            <span className="muted mb-1 block text-xs">Shown on</span>
            <select
              className="select select-sm w-full"
              value={display.id}
              onChange={(e) => set({ displayId: e.target.value })}
            >
              {displays.map((d) => (
                <option key={d.id} value={d.id}>
                  {d.title}
                  {d.id === plan?.display?.id ? ' (picked)' : ''}
                </option>
              ))}
            </select>
          </label>
          {isOther && (
            <p role="note" className="text-sm text-warning">
              {plan.display!.title} is picked for this gadget: this is how it would look on another.
            </p>
          )}
          <label className="block">
            <span className="muted mb-1 block text-xs">In big figures</span>
            <select
              className="select select-sm w-full"
              value={face.bigChannelId}
              onChange={(e) => set({ bigChannelId: e.target.value })}
            >
              {alike(readings).length > 1 && <option value="highest">Whichever reads highest</option>}
              {gadget.channels.map((c) => (
                <option key={c.id} value={c.id}>
                  {c.name}
                </option>
              ))}
            </select>
          </label>
          {display.widthPx > 0 && (
            <Choice
              wide
              label="With it"
              value={face.look ?? 'auto'}
              onChange={(look) => set({ look })}
              options={LOOKS.filter(([look]) => look !== 'rose' || readings.some((r) => r.isDirection))}
            />
          )}
          <p className="muted text-xs">
            {followed && digitsInWords(followed)} A new picture every {printSignificant(display.refreshS, 2)}{' '}
            s.
          </p>
          <button
            type="button"
            className="btn btn-primary btn-sm justify-self-start"
            disabled={!dirty || saving}
            onClick={async () => {
              if (await save({ face }, 'Face saved.')) setDraft(null);
            }}
          >
            Save the face
          </button>
        </section>
      </div>
    </>
  );
}

interface DisplayProps {
  readonly display: DisplayPart;
  readonly content: FaceContent;
  readonly outputs: AlarmOutputs | null;
}

/** The display that was chosen, with what it has no room for. */
function Display({ display, content, outputs }: DisplayProps) {
  const { widthPx, heightPx, columns, rows } = display;
  const spoken = spokenFace(content);
  const pixels = useMemo(
    () => (widthPx > 0 && heightPx > 0 ? pixelFace(widthPx, heightPx, content) : null),
    [widthPx, heightPx, content],
  );
  const characters = pixels ? null : characterFace(columns, rows, content);
  const misses = [...(pixels?.misses ?? characters!.misses)];
  return (
    <>
      {pixels ? (
        <PixelDisplay
          face={pixels}
          shows={display.shows ?? 'reflective'}
          title={display.title}
          spoken={spoken}
          outputs={outputs}
        />
      ) : (
        <CharacterDisplay cells={characters!.cells} spoken={spoken} outputs={outputs} />
      )}
      {misses.length > 0 && (
        <ul role="alert" className="panel grid gap-1 text-sm text-warning" aria-label="What does not fit">
          {misses.map((miss) => (
            <li key={miss}>{miss}</li>
          ))}
        </ul>
      )}
    </>
  );
}

function digitsInWords({ uncertainty, brief, unit }: ChannelReading): string {
  const decimals = readingDecimals(uncertainty, toleranceIn(brief, unit));
  const digits = decimals === 0 ? 'Whole numbers' : decimals === 1 ? 'One decimal' : `${decimals} decimals`;
  return uncertainty === null
    ? `${digits}: what the reading is worth is not known.`
    : `${digits}: the reading is worth about ±${printSignificant(uncertainty, 2)} ${UNITS[unit].symbol}.`;
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
