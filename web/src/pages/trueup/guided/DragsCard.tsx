import { useMemo, useState } from 'react';
import { dragAxis, dragMean, dragSign, shortDrags } from '@lucky-needle/core/calibrate';
import type { GatheringNow } from '@lucky-needle/core/model';
import { printNominal, printNumber, printWithin } from '@lucky-needle/core/units';
import { useBench, type ChannelContext } from '../../../app/useBench.ts';
import { useLiveOf } from '../../../live/useLive.ts';
import { NumberField } from '../../../parts/NumberField.tsx';
import { ProblemNote } from '../../../parts/ProblemNote.tsx';
import { FoundConstants } from './FoundConstants.tsx';
import { useGathering } from './useGathering.ts';
import { useGuided, type Kept } from './useGuided.ts';

/** Fewer counts than this over a whole drag are no drag. */
const LEAST = 50;

/** Drags along a steel rule give the counts a millimetre of both axes, both ways. */
export function DragsCard({ channel }: { channel: ChannelContext }) {
  const { gadget } = useBench();
  const isHeard = useLiveOf((live) => live.times.length > 0);
  const gathering = useGathering(gadget.id, channel.channel.id, 'drag');
  const guided = useGuided<'drag'>(channel, 'drags');
  const { counted, preview } = guided;
  const [rule, setRule] = useState({ lengthMm: 300, toleranceMm: 0.2, placementMm: 0.5 });
  const { isOn } = gathering.now;
  const counts = countsOf(gathering.now);
  const enough = isDrag(counts);
  const fit = useMemo(() => preview(counted), [preview, counted]);
  const short = shortDrags(counted.map((d) => d.evidence)).includes(true);
  const stop = async () => {
    // What came until the server stopped counts as well.
    const told = await gathering.stop();
    const all = told && countsOf(told);
    if (all && isDrag(all)) await guided.keep({ kind: 'drag', counts: all, ...rule });
    await gathering.forget();
  };
  const field = (name: keyof typeof rule, label: string, least: number) => (
    <NumberField
      label={label}
      unit="mm"
      value={rule[name]}
      onChange={(v) => setRule({ ...rule, [name]: v })}
      check={(v) =>
        v > least || (least === 0 && name === 'placementMm' && v === 0)
          ? null
          : `Enter a value above ${least}.`
      }
    />
  );
  return (
    <section className="panel grid gap-3" aria-label="Drags along a ruler">
      <header className="flex flex-wrap items-center gap-3">
        <h2 className="section-title grow">Drag it along a steel ruler</h2>
        {!isOn ? (
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={!isHeard || gathering.busy}
            onClick={() => void gathering.start()}
          >
            Start a drag
          </button>
        ) : (
          <button
            type="button"
            className="btn btn-primary btn-sm"
            onClick={() => void stop()}
            disabled={guided.busy}
          >
            {enough ? 'Stop and save' : 'Stop'}
          </button>
        )}
      </header>
      <p className="muted text-sm">
        Place it on one mark, press Start, drag it slowly to the other mark, then stop. Do this along x and y,
        in both directions; axis and direction are detected from the counts.
      </p>
      <div className="grid gap-2 sm:grid-cols-3">
        {field('lengthMm', 'Distance between the marks', 0)}
        {field('toleranceMm', 'Ruler uncertainty ±', 0)}
        {field('placementMm', 'Placement of each end ±', 0)}
      </div>
      {isOn && (
        <p role="status" className="rounded-box border border-base-300 p-2 text-sm">
          <span className="num font-semibold">x {counts[0]}</span>,{' '}
          <span className="num font-semibold">y {counts[1]}</span> counts so far
          {enough &&
            `: along ${'xy'[dragAxis({ kind: 'drag', counts, ...rule })]}, ${dragSign({ kind: 'drag', counts, ...rule }) > 0 ? 'forwards' : 'backwards'}`}
          .
        </p>
      )}
      <ProblemNote problem={guided.problem ?? gathering.problem} />
      {counted.length > 0 && (
        <DragTable
          drags={counted}
          left={typeof fit === 'string' ? [] : fit.residuals}
          leaveOut={(id) => void guided.leaveOut(id, 'slipped, or not along the ruler')}
        />
      )}
      {short && (
        <p role="alert" className="text-sm text-warning">
          One drag has fewer counts than another in the same direction. Exclude it, or the mean will be wrong.
        </p>
      )}
      {typeof fit === 'string' ? (
        <p className="muted text-sm">{fit}</p>
      ) : short ? null : (
        <FoundConstants
          result={fit}
          busy={guided.busy}
          testId="drags"
          onUse={() =>
            void guided.use(
              counted.map((d) => d.id),
              'Counts per millimetre corrected.',
            )
          }
        >
          {fit.parameters.map((p) => (
            <p key={p.param}>
              {p.title}: <span className="num font-semibold">{printWithin(p.value, 2 * p.u)}</span>, was{' '}
              <span className="num">{printNominal(p.before ?? 0, 4)}</span>.
            </p>
          ))}
          {([0, 1] as const).map((axis) => (
            <Directions
              key={axis}
              axis={axis}
              mean={dragMean(
                counted.map((d) => d.evidence),
                axis,
              )}
            />
          ))}
        </FoundConstants>
      )}
    </section>
  );
}

const countsOf = ({ sums }: GatheringNow): [number, number] => [sums[0] ?? 0, sums[1] ?? 0];
const isDrag = (counts: readonly number[]) => Math.max(...counts.map(Math.abs)) >= LEAST;

interface TableProps {
  readonly drags: readonly Kept<'drag'>[];
  readonly left: readonly { readonly after: number | null }[];
  leaveOut(id: string): void;
}

function DragTable({ drags, left, leaveOut }: TableProps) {
  const short = shortDrags(drags.map((d) => d.evidence));
  return (
    <div className="overflow-x-auto">
      <table className="table-sm table" aria-label="Drags">
        <thead>
          <tr>
            <th className="pl-0">Along</th>
            <th className="hidden text-right sm:table-cell">Length, mm</th>
            <th className="hidden text-right sm:table-cell">Counts</th>
            <th className="text-right">Counts per mm</th>
            <th className="text-right">Residual, mm</th>
            <th>
              <span className="sr-only">Actions</span>
            </th>
          </tr>
        </thead>
        <tbody className="num">
          {drags.map(({ id, evidence }, i) => {
            const own = Math.abs(evidence.counts[dragAxis(evidence)]);
            const after = left[i]?.after ?? null;
            const odd = short[i];
            return (
              <tr key={id}>
                <td className="pl-0 font-sans">
                  {'xy'[dragAxis(evidence)]}, {dragSign(evidence) > 0 ? 'forwards' : 'backwards'}
                  {odd && <span className="block text-xs text-warning">slipped, or too fast to track?</span>}
                </td>
                <td className="hidden text-right sm:table-cell">{printNominal(evidence.lengthMm, 5)}</td>
                <td className="hidden text-right sm:table-cell">{own}</td>
                <td className="text-right">{printNumber(own / evidence.lengthMm, 2)}</td>
                <td className={`text-right ${odd ? 'text-warning' : ''}`}>
                  {after === null ? '–' : printNumber(after, 2, true)}
                </td>
                <td className="text-right font-sans">
                  <button type="button" className="btn btn-ghost btn-xs" onClick={() => leaveOut(id)}>
                    Exclude
                  </button>
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}

function Directions({ axis, mean }: { axis: 0 | 1; mean: ReturnType<typeof dragMean> }) {
  if (!mean) return null;
  const name = 'xy'[axis];
  if (!mean.directions)
    return <p className="muted">Along {name}: one direction only so far; the other may count differently.</p>;
  const { percent, uncertainty } = mean.directions;
  return (
    <p className={Math.abs(percent) > uncertainty ? 'text-warning' : 'muted'}>
      Along {name}, forwards minus backwards:{' '}
      <span className="num">{printWithin(percent, uncertainty)} %</span>
      {Math.abs(percent) > uncertainty
        ? '. The counts depend on the direction.'
        : ', no significant difference.'}
    </p>
  );
}
