import { useMemo, useState } from 'react';
import { miscount } from '@lucky-needle/core/calibrate';
import { compileLine } from '@lucky-needle/core/line';
import type { ReferenceInput } from '@lucky-needle/core/model';
import { toleranceIn } from '@lucky-needle/core/plan';
import { guardBandVerdict } from '@lucky-needle/core/verdict';
import { referenceValue } from '@lucky-needle/core/references';
import {
  convertDifference,
  convertUnit,
  printNominal,
  printWithUncertainty,
  UNITS,
} from '@lucky-needle/core/units';
import { useBench, type ChannelContext } from '../../../app/useBench.ts';
import { useLive } from '../../../live/useLive.ts';
import { ProblemNote } from '../../../parts/ProblemNote.tsx';
import { ToleranceScale } from '../../../parts/ToleranceScale.tsx';
import { VerdictBadge } from '../../../parts/VerdictBadge.tsx';
import { useFaults } from '../../../parts/useFaults.ts';
import { ReferenceFields } from '../ReferenceFields.tsx';
import { FoundConstants, withDoubt } from './FoundConstants.tsx';
import { useStretch } from './useStretch.ts';
import { useGuided, type Kept } from './useGuided.ts';

/** A count by hand, or a reference beside it, over a stretch: does the gadget's own clock agree? */
export function RateCard({ channel }: { channel: ChannelContext }) {
  const { gadget } = useBench();
  const { wrong, tellFault } = useFaults();
  const live = useLive();
  const guided = useGuided<'rate'>(channel, 'time-base');
  const { counted, preview } = guided;
  const stretch = useStretch(gadget.id, channel.channel.id);
  const { startS, running, stopped } = stretch;
  const [reference, setReference] = useState<ReferenceInput>({
    kind: 'tally',
    count: 100,
    doubt: 0.5,
    seconds: 60,
    reactionS: 0.15,
  });
  const unit = compileLine(channel.base, { sampleRateHz: gadget.sampleRateHz }).outputs[0]!.unit;
  const shown = startS === null ? stopped : running;
  const tolerance = toleranceIn(channel.brief, unit);
  const worth = useMemo(() => {
    try {
      return referenceValue(reference, unit);
    } catch (error) {
      return (error as Error).message;
    }
  }, [reference, unit]);
  const fit = useMemo(() => preview(counted), [preview, counted]);
  const keep = async () => {
    if (!stopped || typeof worth === 'string') return;
    const kept = await guided.keep({
      kind: 'rate',
      title: worth.title,
      referenceHz: convertUnit(worth.value, worth.unit, 'Hz'),
      uncertaintyHz: convertDifference(worth.uncertainty, worth.unit, 'Hz'),
      readingHz: stopped.hz,
      uReadingHz: stopped.u,
      seconds: stopped.seconds,
    });
    if (kept) stretch.forget();
  };
  const told =
    shown && printWithUncertainty(shown.hz / UNITS[unit].scale, (2 * shown.u) / UNITS[unit].scale, unit);
  return (
    <section className="panel grid gap-3" aria-label="Compare the rate over time">
      <header className="flex flex-wrap items-center gap-3">
        <h2 className="section-title grow">Compare the rate over time</h2>
        {startS === null ? (
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={live.times.length === 0}
            onClick={() => stretch.start(live.times.at(-1)!)}
          >
            Start
          </button>
        ) : (
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={!running}
            onClick={() => void stretch.stop()}
          >
            Stop
          </button>
        )}
      </header>
      <p className="muted text-sm">
        Press Start and begin counting with a stopwatch at the same moment; stop both together. Or compare
        with a strobe or a reference clock. Counting for one minute is accurate to about 0.5 %, for five
        minutes to about 0.1 %.
      </p>
      <p role="status" className="text-sm">
        {startS === null && !stopped && 'No comparison yet.'}
        {startS !== null && !running && 'Waiting for three readings…'}
        {shown && told && (
          <>
            The gadget’s mean was{' '}
            <span className="num font-semibold">
              {told.value} <span className="muted font-normal">±{told.uncertainty}</span> {told.symbol}
            </span>{' '}
            over <span className="num">{shown.n}</span> readings in{' '}
            <span className="num">{printNominal(shown.seconds, 3)} s</span>.
          </>
        )}
      </p>
      <ReferenceFields
        onFault={tellFault}
        value={reference}
        onChange={setReference}
        unit={unit}
        gadget={gadget}
        instruments={live.status?.instruments ?? []}
        columns={[]}
      />
      {typeof worth === 'string' ? (
        <p role="alert" className="text-sm text-error">
          {worth}
        </p>
      ) : (
        <p className="muted text-xs">{worth.workings.join(' ')}</p>
      )}
      <button
        type="button"
        className="btn btn-sm justify-self-start"
        disabled={!stopped || typeof worth === 'string' || wrong.length > 0 || guided.busy}
        onClick={() => void keep()}
      >
        Save comparison
      </button>
      <ProblemNote problem={guided.problem} />
      {counted.map((e) => (
        <Comparison
          key={e.id}
          kept={e}
          unit={unit}
          tolerance={tolerance}
          leaveOut={() => void guided.leaveOut(e.id, 'miscounted, or not the same time span')}
        />
      ))}
      {typeof fit === 'string' ? (
        counted.length > 0 && <p className="text-sm text-warning">{fit}</p>
      ) : (
        <FoundConstants
          result={fit}
          busy={guided.busy}
          testId="time-base"
          onUse={() =>
            void guided.use(
              counted.map((e) => e.id),
              'Time base corrected.',
            )
          }
        >
          <TimeBase gain={fit.parameters[0]!.value} u={fit.parameters[0]!.u} />
        </FoundConstants>
      )}
    </section>
  );
}

function TimeBase({ gain, u }: { gain: number; u: number }) {
  const ppm = (gain - 1) * 1e6;
  const shown = Math.abs(gain - 1) > 2 * u;
  const size =
    Math.abs(ppm) < 5000 && u < 2e-3
      ? `${withDoubt({ value: ppm, u: 1e6 * u })} ppm`
      : `${withDoubt({ value: ppm / 1e4, u: 100 * u })} %`;
  return (
    <p>
      True rate relative to the reading: <span className="num font-semibold">{size}</span>,{' '}
      <span className="num">{printNominal((86400 * Math.abs(ppm)) / 1e6, 2)} s</span> per day.{' '}
      {shown ? 'Significant: use this calibration.' : 'Not significant: no correction needed.'}
    </p>
  );
}

interface ComparisonProps {
  readonly kept: Kept<'rate'>;
  readonly unit: Parameters<typeof printWithUncertainty>[2];
  readonly tolerance: number | null;
  leaveOut(): void;
}

function Comparison({ kept: { evidence: e }, unit, tolerance, leaveOut }: ComparisonProps) {
  const { scale, symbol } = UNITS[unit];
  const error = (e.readingHz - e.referenceHz) / scale;
  const uncertainty = (2 * Math.hypot(e.uReadingHz, e.uncertaintyHz / 2)) / scale;
  const verdict = tolerance === null ? null : guardBandVerdict(error, uncertainty, tolerance, unit);
  const truth = printWithUncertainty(e.referenceHz / scale, e.uncertaintyHz / scale, unit);
  const wrong = miscount(e);
  return (
    <div className="grid items-center gap-3 rounded-box border border-base-300 p-3 text-sm sm:grid-cols-[1fr_14rem]">
      <div>
        <p className="font-semibold">
          {e.title}{' '}
          <span className="num font-normal">
            {truth.value} <span className="muted">±{truth.uncertainty}</span> {truth.symbol}
          </span>
        </p>
        {verdict && (
          <p>
            <VerdictBadge state={verdict.state} /> {verdict.sentence}
          </p>
        )}
        {wrong && <p className="text-warning">{wrong}</p>}
        <button type="button" className="btn btn-ghost btn-xs mt-1 px-0" onClick={leaveOut}>
          Exclude
        </button>
      </div>
      {tolerance !== null && (
        <ToleranceScale error={error} uncertainty={uncertainty} tolerance={tolerance} symbol={symbol} />
      )}
    </div>
  );
}
