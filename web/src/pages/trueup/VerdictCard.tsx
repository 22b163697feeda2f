import { sameFit, type CheckJudgement } from '@lucky-needle/core/calibrate';
import type { FitResult, Gadget } from '@lucky-needle/core/model';
import { UNITS, type UnitId } from '@lucky-needle/core/units';
import { useCalibrateMutation } from '../../api/trueUpApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { useAppDispatch } from '../../app/store.ts';
import { toastShown } from '../../app/toasts.ts';
import type { ChannelContext } from '../../app/useBench.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { ToleranceScale } from '../../parts/ToleranceScale.tsx';
import { VerdictBadge } from '../../parts/VerdictBadge.tsx';

interface Props {
  readonly gadget: Gadget;
  readonly channel: ChannelContext;
  readonly selected: FitResult | null;
  readonly before: readonly CheckJudgement[];
  readonly after: readonly CheckJudgement[];
  readonly unit: UnitId;
  readonly hasTolerance: boolean;
}

const worstOf = (checks: readonly CheckJudgement[]) =>
  checks.toSorted((a, b) => a.verdict.margin - b.verdict.margin)[0] ?? null;

/** The verdict at points kept out of the fit, before and after, and the button that puts the fit in use. */
export function VerdictCard({ gadget, channel, selected, before, after, unit, hasTolerance }: Props) {
  const [calibrate, { isLoading, error }] = useCalibrateMutation();
  const dispatch = useAppDispatch();
  const was = worstOf(before);
  const is = worstOf(after);
  const shown = is ?? was;
  const { calibration } = channel;
  const already = selected !== null && calibration !== null && sameFit(calibration.result, selected);
  return (
    <section className="panel grid gap-2" aria-label="Verdict at the check point">
      <div className="flex items-center justify-between gap-2">
        <h2 className="section-title">Verdict at the check point</h2>
        {shown && <VerdictBadge state={shown.verdict.state} />}
      </div>
      {!hasTolerance && (
        <p className="muted text-sm">The brief has no tolerance yet, so there is nothing to judge against.</p>
      )}
      {hasTolerance && !shown && (
        <p className="muted text-sm">
          Not proven: no check point yet. Capture one that the fit does not use.
        </p>
      )}
      {shown && (
        <>
          <ToleranceScale
            error={shown.error}
            uncertainty={shown.uncertainty}
            tolerance={shown.verdict.limit}
            symbol={UNITS[unit].symbol}
          />
          <p className="text-sm" data-testid="verdict">
            {shown.verdict.sentence}
          </p>
          {is && was && (
            <p className="muted text-sm" data-testid="verdict-before">
              Uncalibrated: <VerdictBadge state={was.verdict.state} /> {was.verdict.sentence}
            </p>
          )}
        </>
      )}
      <ProblemNote problem={problemOf(error)} />
      <div className="flex flex-wrap gap-2">
        <button
          type="button"
          className="btn btn-primary btn-sm grow"
          disabled={!selected || isLoading || already}
          onClick={async () => {
            const result = await calibrate({
              gadgetId: gadget.id,
              body: { channelId: channel.channel.id, fit: selected!.fit, use: true, note: '' },
            });
            if (result.data)
              dispatch(
                toastShown({ text: `Calibration ${result.data.number} is now active.`, tone: 'done' }),
              );
          }}
        >
          {already ? `✓ Active: calibration ${calibration.number}` : 'Use this calibration'}
        </button>
        <a
          className="btn btn-outline btn-sm"
          href={`/api/gadgets/${gadget.id}/channels/${channel.channel.id}/header`}
          download
        >
          Download C constants
        </a>
      </div>
    </section>
  );
}
