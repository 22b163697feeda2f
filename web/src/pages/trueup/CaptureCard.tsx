import { SimulatedCondition } from '../../parts/SimulatedCondition.tsx';
import { useEffect, useMemo, useRef, useState } from 'react';
import {
  approachOf,
  cleanAirLevel,
  farFrom,
  steadyLimits,
  type SteadyState,
} from '@lucky-needle/core/calibrate';
import { invertLine, LineError, readingAtRest } from '@lucky-needle/core/line';
import type { PointRole, ReferenceInput } from '@lucky-needle/core/model';
import { rangeIn, toleranceIn } from '@lucky-needle/core/plan';
import {
  referencesFor,
  referenceValue,
  staircaseOf,
  startReference,
  type Staircase,
} from '@lucky-needle/core/references';
import { convertUnit } from '@lucky-needle/core/units';
import { useKeepPointMutation } from '../../api/trueUpApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { useKey } from '../../app/shell/keys.ts';
import { useAppDispatch } from '../../app/store.ts';
import { toastShown } from '../../app/toasts.ts';
import { useBench, type ChannelContext } from '../../app/useBench.ts';
import { useLive } from '../../live/useLive.ts';
import { useFaults } from '../../parts/useFaults.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { FarCard } from './FarCard.tsx';
import { RawPlot } from './RawPlot.tsx';
import { RecordedCapture } from './RecordedCapture.tsx';
import { isZeroAtEnd } from './isZeroAtEnd.ts';
import { printCapture } from './printCapture.ts';
import { Quantity } from './Quantity.tsx';
import { ReferenceFields } from './ReferenceFields.tsx';
import { StaircaseCard, type Climb } from './StaircaseCard.tsx';
import { useShownReady } from './useShownReady.ts';
import { slopeEvidence, useSteady } from './useSteady.ts';
import { clock, useWarmUp } from './useWarmUp.ts';

/** Watches the raw channel for a steady window and keeps it as a point against a reference. */
export function CaptureCard({ channel }: { channel: ChannelContext }) {
  const { gadget, link, recordings } = useBench();
  const live = useLive();
  const dispatch = useAppDispatch();
  const [recorded, setRecorded] = useState<SteadyState | null>(null);
  const [keep, keeping] = useKeepPointMutation();
  const { compiled, unit, raw, state, lastCode } = useSteady(channel, gadget.sampleRateHz);
  const cleanAir = useMemo(
    () => cleanAirLevel(channel.base, { sampleRateHz: gadget.sampleRateHz }),
    [channel.base, gadget.sampleRateHz],
  );
  const zeroAtEnd = useMemo(() => compiled !== null && isZeroAtEnd(compiled, lastCode), [compiled, lastCode]);
  const [reference, setReference] = useState<ReferenceInput>(() => {
    const { kind } = referencesFor(unit).find((r) => r.kind !== 'nothing' || !zeroAtEnd)!;
    const first = startReference(kind, unit, gadget.place);
    return first.kind === 'clean-air' && cleanAir !== null
      ? { ...first, ppm: cleanAir, within: cleanAir / 5 }
      : first;
  });

  const [climb, setClimb] = useState<(Climb & { readonly stairs: Staircase }) | null>(null);
  const stairs = staircaseOf(reference);
  /** Puts the next step in the fields, as it follows from what was there at the start; the last one leaves the staircase. */
  const climbTo = (of: Staircase, steps: readonly number[], next: number) => {
    if (next >= steps.length) {
      setClimb(null);
      return;
    }
    setClimb({ stairs: of, steps, next });
    setReference(of.at(steps[next]!));
  };

  const steadyFor = state?.steady ? Math.floor(state.steadyForS) : 0;
  const worth = useMemo(() => {
    try {
      return referenceValue(reference, unit);
    } catch (error) {
      return (error as Error).message;
    }
  }, [reference, unit]);
  // The middle of the brief stands for a recording, whose readings are not here yet.
  const plainLimits = useMemo(() => {
    if (!compiled) return null;
    try {
      const { brief } = channel;
      const tolerance = toleranceIn(brief, unit);
      if (!brief || tolerance === null) return null;
      const middle = convertUnit((brief.low + brief.high) / 2, brief.unit, unit);
      const evidence = slopeEvidence(channel, unit, lastCode);
      return steadyLimits(compiled, invertLine(compiled, middle)[0]!, tolerance, evidence);
    } catch (error) {
      if (error instanceof LineError || error instanceof RangeError) return null;
      throw error;
    }
  }, [compiled, channel, unit, lastCode]);
  const linkUp = live.status?.state === 'up' && live.connected;
  const { coldS } = useWarmUp(gadget, [channel.channel.askId]);
  // A stretch of a recording that was taken stands before the live window.
  const capture =
    recorded?.capture ?? (linkUp && !(coldS > 0) && state?.steady === true ? state.capture : null);
  const { wrong, tellFault } = useFaults();
  /** What is to be kept once the maker has said that it is right. */
  const [asked, setAsked] = useState<PointRole | null>(null);
  useEffect(() => setAsked(null), [reference]);
  const ready = capture !== null && typeof worth !== 'string' && wrong.length === 0 && !keeping.isLoading;
  // Only when it has come to rest: before, it would be worked out anew with every reading.
  const approach = useMemo(
    () => (compiled && raw && steadyFor > 0 ? approachOf(compiled, live.times, raw, steadyFor) : null),
    // Judged once a second, by what is there then.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [compiled, steadyFor],
  );
  const fieldsRef = useRef<HTMLDivElement>(null);
  // Noise may refuse the very next look: a press answers what was shown.
  const shown = useMemo(() => capture && { capture, approach }, [capture, approach]);
  const lastReady = useShownReady(shown);
  /** Why nothing can be kept just now. */
  const whyNot = () => {
    if (keeping.isLoading) return 'The previous point is still being saved.';
    if (wrong.length > 0) return `Enter a valid value for “${wrong[0]}”.`;
    if (typeof worth === 'string') return worth;
    if (!linkUp) return link ? 'The link is down.' : 'There is no link.';
    if (coldS > 0) return `Still warming up, ${clock(coldS)} left.`;
    return state?.waitingFor ?? 'Not steady yet.';
  };
  const keepNow = async (role: PointRole, { isSure = false, byKey = false } = {}) => {
    const kept = shown ?? lastReady.take();
    if (kept === null || typeof worth === 'string' || wrong.length > 0 || keeping.isLoading) {
      dispatch(toastShown({ text: `Point not captured. ${whyNot()}`, tone: 'trouble' }));
      return;
    }
    const reads = compiled ? readingAtRest(compiled, kept.capture.mean) : Number.NaN;
    const asks = channel.brief && rangeIn(channel.brief, unit);
    const range = asks && ([asks.low, asks.high] as const);
    const expected = convertUnit(worth.value, worth.unit, unit);
    if (!isSure && farFrom(reads, expected, range, toleranceIn(channel.brief, unit))) {
      setAsked(role);
      return;
    }
    setAsked(null);
    const from = recorded === null ? kept.approach : null;
    lastReady.answered();
    const result = await keep({
      gadgetId: gadget.id,
      point: {
        channelId: channel.channel.id,
        role,
        reference,
        capture: from === null ? kept.capture : { ...kept.capture, approach: from },
      },
    });
    if (result.data) {
      if (climb && role === 'fit') climbTo(climb.stairs, climb.steps, climb.next + 1);
      // What comes next is another value of the reference.
      else if (byKey) fieldsRef.current?.querySelector<HTMLElement>('input[inputmode=decimal]')?.focus();
      dispatch(
        toastShown({
          text: `Captured ${worth.title} at ${printCapture(result.data.capture).value} counts.`,
          tone: 'done',
        }),
      );
    }
  };
  useKey(' ', () => void keepNow('fit', { byKey: true }));
  useKey('c', () => void keepNow('check', { byKey: true }));

  return (
    <section className="panel grid gap-3" aria-label="Capture a point">
      <div className="flex items-baseline justify-between gap-2">
        <h2 className="section-title">Capture a point</h2>
        <span
          role="status"
          data-testid="steady"
          className={`text-sm ${state?.steady && linkUp ? 'text-success' : 'muted'}`}
        >
          {!link
            ? 'no link'
            : !linkUp
              ? 'link down'
              : state?.steady
                ? `✓ steady for ${steadyFor} s`
                : 'not steady'}
        </span>
      </div>
      <SimulatedCondition gadgetId={gadget.id} link={link} />
      <div ref={fieldsRef}>
        <ReferenceFields
          value={reference}
          onChange={(next) => {
            // Another reference than the step's is no step.
            if (next.kind !== reference.kind) setClimb(null);
            setReference(next);
          }}
          onFault={tellFault}
          unit={unit}
          gadget={gadget}
          cleanAir={cleanAir}
          instruments={live.status?.instruments ?? []}
          columns={channel.base.sources.map((s) => s.column)}
          zeroAtEnd={zeroAtEnd}
        />
      </div>
      {stairs && (
        <StaircaseCard
          unit={stairs.unit}
          climb={climb}
          onStart={(steps) => climbTo(stairs, steps, 0)}
          onStop={() => setClimb(null)}
        />
      )}
      {typeof worth === 'string' ? (
        <p role="alert" className="text-sm text-error">
          {worth}
        </p>
      ) : (
        <details className="text-sm">
          <summary className="cursor-pointer rounded-field">
            True value <Quantity value={worth.value} u={worth.uncertainty} unit={worth.unit} />
          </summary>
          <ul className="muted mt-1 list-disc pl-5 text-xs">
            {worth.workings.map((w) => (
              <li key={w}>{w}</li>
            ))}
          </ul>
        </details>
      )}
      {raw && raw.length > 0 ? (
        <RawPlot times={live.times} raw={raw} steadyForS={steadyFor} />
      ) : (
        <p className="muted text-sm">
          No readings yet.{' '}
          {link ? 'The link is down. Connect it on the Link page.' : 'Set up a link on the Link page.'}
        </p>
      )}
      {state && !state.steady && linkUp && <p className="muted text-sm">{state.waitingFor}</p>}
      {state?.steady && state.capture && (
        <p>
          <span className="num text-lg font-semibold">{printCapture(state.capture).value}</span>{' '}
          <span className="num muted text-sm">
            ±{printCapture(state.capture).uncertainty} counts, {state.capture.n} readings
            {approach && `, approached ${approach}`}
          </span>
        </p>
      )}
      <RecordedCapture
        recordings={recordings}
        column={channel.base.sources[0]!.column}
        line={compiled}
        limits={plainLimits}
        lastCode={lastCode}
        taken={recorded}
        onTake={setRecorded}
      />
      {linkUp && coldS > 0 && recorded === null && (
        <p
          role="alert"
          className="rounded-box border border-warning/60 bg-warning/8 p-2 text-sm"
          data-testid="warming"
        >
          Still warming up, <span className="num font-semibold">{clock(coldS)}</span> left. Points captured
          before then are not valid.
        </p>
      )}
      <ProblemNote problem={problemOf(keeping.error)} />
      {asked !== null && compiled && capture && typeof worth !== 'string' && (
        <FarCard
          line={compiled}
          raw={capture.mean}
          reading={readingAtRest(compiled, capture.mean)}
          reference={convertUnit(worth.value, worth.unit, unit)}
          unit={unit}
          onKeep={() => void keepNow(asked, { isSure: true })}
          onCancel={() => setAsked(null)}
        />
      )}
      {wrong.length > 0 && (
        <p role="alert" className="text-sm text-error">
          Enter a valid value for “{wrong[0]}” first.
        </p>
      )}
      <div className="flex gap-2">
        <button
          type="button"
          className="btn btn-primary btn-sm grow"
          disabled={!ready}
          onClick={() => void keepNow('fit')}
        >
          Capture point <kbd className="kbd kbd-xs text-base-content">Space</kbd>
        </button>
        <button
          type="button"
          className="btn btn-outline btn-sm"
          disabled={!ready}
          title="Check points are not used in the fit; they test it"
          onClick={() => void keepNow('check')}
        >
          Capture as check <kbd className="kbd kbd-xs text-base-content">C</kbd>
        </button>
      </div>
    </section>
  );
}
