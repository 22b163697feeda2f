import { useCallback, useMemo } from 'react';
import type { SphereCoverage } from '@lucky-needle/core/calibrate';
import { printNominal } from '@lucky-needle/core/units';
import { useBench, type ChannelContext } from '../../../app/useBench.ts';
import { ProblemNote } from '../../../parts/ProblemNote.tsx';
import { benchWorker } from '../../../workers/benchWorker.ts';
import { useNewest } from '../../../workers/useNewest.ts';
import { FoundConstants, withDoubt } from './FoundConstants.tsx';
import { useGathering } from './useGathering.ts';
import { useGuided } from './useGuided.ts';

type Triple = readonly [number, number, number];

/** Fewer readings than this are no cloud yet. */
const LEAST = 20;

/** Turned through all directions the field's tip draws a sphere; iron shifts and squeezes it, and the fit takes that out. */
export function RotateCard({ channel }: { channel: ChannelContext }) {
  const { gadget } = useBench();
  const guided = useGuided<'cloud'>(channel, 'turned');
  const gathering = useGathering(gadget.id, channel.channel.id, 'cloud');
  const { isOn: on, rows, cloud } = gathering.now;
  const piece = useMemo(() => ({ kind: 'cloud' as const, rows: cloud }), [cloud]);
  const { previewAside } = guided;
  const fit = useNewest(
    cloud.length >= LEAST ? piece : null,
    useCallback((evidence: typeof piece) => previewAside([{ evidence }]), [previewAside]),
  );
  const found = typeof fit === 'string' ? null : fit;
  const coverage = useNewest(cloud.length > 0 ? cloud : null, directions);
  const putInUse = async () => {
    if (await guided.use([], 'Hard- and soft-iron distortion corrected.', [piece])) await gathering.stop();
  };
  return (
    <section className="panel grid gap-3" aria-label="Rotate through all directions">
      <header className="flex flex-wrap items-center gap-3">
        <h2 className="section-title grow">Rotate it through all directions</h2>
        <button
          type="button"
          className={`btn btn-sm ${on ? '' : 'btn-primary'}`}
          disabled={gathering.busy}
          onClick={() => void (on ? gathering.stop() : gathering.start())}
        >
          {on ? 'Stop' : rows > 0 ? 'Continue' : 'Start'}
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-sm"
          disabled={rows === 0}
          onClick={() => void gathering.forget()}
        >
          Delete readings
        </button>
      </header>
      <p className="muted text-sm">
        The server collects the readings, so you can leave this page meanwhile. Away from iron, turn the
        gadget slowly: each side up once and each side north once. Iron mounted on the gadget shifts and
        distorts the readings and is corrected; iron nearby that does not move with it cannot be corrected.
      </p>
      {coverage && <Sphere coverage={coverage} />}
      <p className="text-sm" role="status">
        <span className="num font-semibold">{cloud.length}</span> readings
        {coverage && (
          <>
            , <span className="num font-semibold">{Math.round(100 * coverage.share)} %</span> of directions
            covered
          </>
        )}
        .{' '}
        {coverage && coverage.missing.length > 0 && (
          <span className="muted">
            Directions still missing:{' '}
            {coverage.missing
              .slice(0, 4)
              .map((m) => m.name)
              .join(', ')}
            {coverage.missing.length > 4 && ` and ${coverage.missing.length - 4} more`}.
          </span>
        )}
      </p>
      {typeof fit === 'string' && (
        <p role="alert" className="rounded-box border border-warning/60 bg-warning/8 p-3 text-sm">
          {fit}
        </p>
      )}
      {found && (
        <FoundConstants result={found} busy={guided.busy} testId="ellipsoid" onUse={() => void putInUse()}>
          Hard-iron offset:{' '}
          <span className="num font-semibold">
            {found.parameters
              .slice(0, 3)
              .map((p, k) => `${'xyz'[k]} ${withDoubt(p)}`)
              .join(', ')}
          </span>{' '}
          counts. After correction, the field strength agrees to within{' '}
          <span className="num font-semibold">
            {printNominal((100 * found.residuals[0]!.u) / found.validReading[1], 2)} %
          </span>
          .
        </FoundConstants>
      )}
      <ProblemNote problem={guided.problem ?? gathering.problem} />
    </section>
  );
}

/** Both halves of the sphere from above and from below; filled where a reading lies. */
function Sphere({ coverage }: { coverage: SphereCoverage }) {
  const half = (up: boolean) => coverage.directions.filter((d) => d.direction[2] >= 0 === up);
  return (
    <div className="flex flex-wrap gap-6">
      {[true, false].map((up) => (
        <svg
          key={String(up)}
          viewBox="-1.25 -1.25 2.5 2.7"
          className="w-44"
          role="img"
          aria-label={`${half(up).filter((d) => d.covered).length} of ${half(up).length} directions covered with z ${up ? 'up' : 'down'}`}
        >
          <circle r={1.12} className="fill-base-200 stroke-base-300" strokeWidth={0.02} />
          {half(up).map(({ direction: [x, y, z], covered }, i) => {
            // Equal steps of angle from the middle, so that the rim is not crowded.
            const angle = Math.acos(Math.min(1, Math.abs(z))) / (Math.PI / 2);
            const size = Math.hypot(x, y) || 1;
            return (
              <circle
                key={i}
                cx={(angle * -y) / size}
                cy={(angle * -x) / size}
                r={0.11}
                className={covered ? 'fill-primary' : 'fill-base-100 stroke-base-content/40'}
                strokeWidth={0.02}
              />
            );
          })}
          <text y={1.38} textAnchor="middle" className="fill-base-content" fontSize={0.19}>
            z {up ? 'up' : 'down'}
          </text>
        </svg>
      ))}
    </div>
  );
}

/** As the fit sees it, so that both speak of one share. */
const directions = (rows: readonly Triple[]): Promise<SphereCoverage> => benchWorker().directions(rows);
