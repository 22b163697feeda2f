import { useMemo } from 'react';
import { printNominal } from '@lucky-needle/core/units';
import { problemOf } from '../../../api/problemOf.ts';
import { useTakeMutation } from '../../../api/trueUpApi.ts';
import { useBench, type ChannelContext } from '../../../app/useBench.ts';
import { useLive } from '../../../live/useLive.ts';
import { ProblemNote } from '../../../parts/ProblemNote.tsx';
import { FoundConstants, withDoubt } from './FoundConstants.tsx';
import { newestMean } from './newestMean.ts';
import { useGuided } from './useGuided.ts';

const SECONDS = 3;
const SIDES = ['+x up', '−x up', '+y up', '−y up', '+z up', '−z up'] as const;

/** Gravity in six rests gives offset, scale and crosstalk of three axes; which side is up is told by the readings. */
export function SixRestsCard({ channel }: { channel: ChannelContext }) {
  const { gadget } = useBench();
  const { columns, times } = useLive();
  const [take, taking] = useTakeMutation();
  const guided = useGuided<'rest'>(channel, 'six-rests');
  const { counted, preview } = guided;
  const now = channel.channel.line.sources.map((s) => newestMean(times, columns.get(s.column), SECONDS));
  const complete = now.every((n) => n !== null);
  const largest = Math.max(...now.map((n) => Math.abs(n?.mean ?? 0)), 1);
  // At rest nothing moves by more than a fiftieth of what gravity pulls.
  const still = complete && now.every((n) => n!.sd < largest / 50);
  const fit = useMemo(() => preview(counted), [preview, counted]);
  const keep = async () => {
    const taken = await take({
      gadgetId: gadget.id,
      body: { channelId: channel.channel.id, taking: { kind: 'rest' } },
    });
    if (taken.data?.evidence.kind !== 'rest') return;
    const { evidence } = taken.data;
    // A side that is laid down again replaces what was kept of it.
    const before = counted.filter((r) => sideOf(r.evidence.raw) === sideOf(evidence.raw));
    await guided.keep(
      evidence,
      before.map((r) => r.id),
    );
  };
  return (
    <section className="panel grid gap-3" aria-label="Six positions">
      <header className="flex flex-wrap items-center gap-3">
        <h2 className="section-title grow">Place it on each of its six sides</h2>
        <span className={`text-sm ${still ? 'text-success' : 'muted'}`} role="status">
          {!complete ? 'no readings' : still ? `✓ steady, ${sideOf(now.map((n) => n!.mean))}` : 'not steady'}
        </span>
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={!still || guided.busy || taking.isLoading}
          onClick={() => void keep()}
        >
          Capture this position
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-sm"
          disabled={counted.length === 0}
          onClick={() => counted.forEach((r) => void guided.leaveOut(r.id, 'new series started'))}
        >
          Start over
        </button>
      </header>
      <ul className="grid gap-2 sm:grid-cols-3">
        {SIDES.map((side) => {
          const rest = counted.find((r) => sideOf(r.evidence.raw) === side);
          return (
            <li
              key={side}
              className={`rounded-box border p-2 text-sm ${rest ? 'border-success/60' : 'border-dashed border-base-300'}`}
            >
              <span className="font-semibold">
                {rest ? '✓ ' : ''}
                {side}
              </span>
              <span className="num muted block text-xs">
                {rest ? `${rest.evidence.raw.map((v) => printNominal(v, 5)).join('  ')} counts` : 'not yet'}
              </span>
            </li>
          );
        })}
      </ul>
      <ProblemNote problem={problemOf(taking.error) ?? guided.problem} />
      {typeof fit === 'string' ? (
        <p className="muted text-sm">{fit}</p>
      ) : (
        <FoundConstants
          result={fit}
          busy={guided.busy}
          testId="six-rests"
          onUse={() =>
            void guided.use(
              counted.map((r) => r.id),
              'Axes corrected.',
            )
          }
        >
          Offset{' '}
          <span className="num font-semibold">
            {fit.parameters
              .slice(0, 3)
              .map((p) => withDoubt(p))
              .join(', ')}
          </span>{' '}
          counts. After correction, each position reads 1 g to within{' '}
          <span className="num font-semibold">
            {printNominal(1000 * Math.max(...fit.residuals.map((r) => Math.abs(r.after ?? 0))), 2)} mg
          </span>
          .
        </FoundConstants>
      )}
    </section>
  );
}

/** The axis that gravity pulls along, by the largest reading. */
function sideOf(raw: readonly number[]): (typeof SIDES)[number] {
  const axis = raw.reduce((best, v, k) => (Math.abs(v) > Math.abs(raw[best]!) ? k : best), 0);
  return SIDES[2 * axis + (raw[axis]! < 0 ? 1 : 0)]!;
}
