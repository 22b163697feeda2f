import { useMemo, useState } from 'react';
import { nextCourse } from '@lucky-needle/core/calibrate';
import type { ReferenceInput } from '@lucky-needle/core/model';
import { lowerBound } from '@lucky-needle/core/numerics';
import { referenceValue } from '@lucky-needle/core/references';
import { printNominal, printNumber, printWithin } from '@lucky-needle/core/units';
import { problemOf } from '../../../api/problemOf.ts';
import { useTakeMutation } from '../../../api/trueUpApi.ts';
import { useBench, type ChannelContext } from '../../../app/useBench.ts';
import { useLiveOf } from '../../../live/useLive.ts';
import { useLiveLine } from '../../../live/useLiveLine.ts';
import { ProblemNote } from '../../../parts/ProblemNote.tsx';
import { useFaults } from '../../../parts/useFaults.ts';
import { ReferenceFields } from '../ReferenceFields.tsx';
import { circularMean } from './circularMean.ts';
import { FoundConstants } from './FoundConstants.tsx';
import { useGuided } from './useGuided.ts';

const SECONDS = 3;
/** A course that wanders by more is not held still. */
const STILL_DEG = 3;

/** Known courses: what is left after the iron is out, the same in every direction, is mounting and declination. */
export function BearingCard({ channel }: { channel: ChannelContext }) {
  const { gadget } = useBench();
  const status = useLiveOf((live) => live.status);
  const { wrong, tellFault } = useFaults();
  const [take, taking] = useTakeMutation();
  const guided = useGuided<'bearing'>(channel, 'landmark');
  const { counted, preview } = guided;
  const beside = status?.instruments.find((i) => i.unit === 'deg');
  const [reference, setReference] = useState<ReferenceInput>({
    kind: 'instrument',
    reading: beside?.value ?? 0,
    uncertainty: beside?.uncertainty ?? 1,
  });
  // With the iron out, but turned as the line was before any landmark: versions would else be counted twice.
  const spec = useMemo(() => {
    const before = channel.base.stages.find((s) => s.kind === 'heading')?.params['mountingDeg'] ?? 0;
    return {
      ...channel.line,
      stages: channel.line.stages.map((s) =>
        s.kind === 'heading' ? { ...s, params: { ...s.params, mountingDeg: before } } : s,
      ),
    };
  }, [channel.line, channel.base]);
  const live = useLiveLine(channel.channel.id, spec, gadget.sampleRateHz);
  const shown = live.stages.at(-1);
  const now = useMemo(() => {
    const newest = shown?.times.at(-1);
    if (!shown || newest === undefined) return null;
    return circularMean(shown.values.subarray(lowerBound(shown.times, newest - SECONDS)));
  }, [shown]);
  const worth = useMemo(() => {
    try {
      return referenceValue(reference, 'deg');
    } catch (error) {
      return (error as Error).message;
    }
  }, [reference]);
  const fit = useMemo(() => preview(counted), [preview, counted]);
  const next = nextCourse(counted.map((e) => e.evidence.referenceDeg));
  const still = now !== null && now.sd < STILL_DEG;
  const keep = async () => {
    const taken = await take({
      gadgetId: gadget.id,
      body: { channelId: channel.channel.id, taking: { kind: 'bearing', reference } },
    });
    if (taken.data?.evidence.kind === 'bearing') await guided.keep(taken.data.evidence);
  };
  return (
    <section className="panel grid gap-3" aria-label="Known bearings">
      <header className="flex flex-wrap items-center gap-3">
        <h2 className="section-title grow">Then point it along known bearings</h2>
        <span role="status" className={`text-sm ${still ? 'text-success' : 'muted'}`}>
          {now === null ? 'no readings' : still ? `✓ steady at ${printNumber(now.mean, 1)}°` : 'not steady'}
        </span>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={
            !still || typeof worth === 'string' || wrong.length > 0 || guided.busy || taking.isLoading
          }
          onClick={() => void keep()}
        >
          Capture this bearing
        </button>
      </header>
      <p className="muted text-sm">
        {next === null
          ? 'Start with any bearing you know. Opposite bearings give the most information.'
          : `Next, use a bearing near ${printNumber(next, 0)}°, farthest from those captured so far.`}{' '}
        The heading shown here excludes the mounting angle, which this step determines.
      </p>
      <ReferenceFields
        onFault={tellFault}
        value={reference}
        onChange={setReference}
        unit="deg"
        gadget={gadget}
        instruments={status?.instruments ?? []}
        columns={[]}
      />
      {typeof worth === 'string' && (
        <p role="alert" className="text-sm text-error">
          {worth}
        </p>
      )}
      <ProblemNote problem={problemOf(taking.error) ?? guided.problem} />
      {counted.length > 0 && (
        <ul className="grid gap-1 text-sm" aria-label="Captured bearings">
          {counted.map(({ id, evidence: e }) => (
            <li key={id} className="flex flex-wrap items-baseline gap-x-3">
              <span className="num">
                {printNumber(e.referenceDeg, 1)}°{' '}
                <span className="muted">±{printNominal(e.uncertaintyDeg, 2)}</span>
              </span>
              <span className="muted">read as</span>
              <span className="num">{printNumber(e.shownDeg, 1)}°</span>
              <button
                type="button"
                className="btn btn-ghost btn-xs ml-auto"
                onClick={() => void guided.leaveOut(id, 'not the intended bearing')}
              >
                Exclude
              </button>
            </li>
          ))}
        </ul>
      )}
      {typeof fit === 'string' ? (
        <p className="muted text-sm">{fit}</p>
      ) : (
        <FoundConstants
          result={fit}
          busy={guided.busy}
          testId="landmark"
          onUse={() =>
            void guided.use(
              counted.map((e) => e.id),
              'Mounting angle corrected.',
            )
          }
        >
          Mounting angle{' '}
          <span className="num font-semibold">
            {printWithin(fit.parameters[0]!.value, 2 * fit.parameters[0]!.u)}°
          </span>
          , including declination. After correction, each bearing agrees to within{' '}
          <span className="num font-semibold">
            {printNumber(Math.max(...fit.residuals.map((r) => Math.abs(r.after ?? 0))), 1)}°
          </span>
          .
        </FoundConstants>
      )}
    </section>
  );
}
