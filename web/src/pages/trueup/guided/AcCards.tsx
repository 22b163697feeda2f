import { useState } from 'react';
import { acMiddle, fitPhaseTrim, type AcMiddle, type PhaseTrim } from '@lucky-needle/core/calibrate';
import type { LineSpec, StageSpec } from '@lucky-needle/core/model';
import { printNominal } from '@lucky-needle/core/units';
import { useBench } from '../../../app/useBench.ts';
import { useLive } from '../../../live/useLive.ts';
import type { GuidedProps } from './GuidedCards.tsx';

/** Zero with the load off, and the current sensor's lag with a load that has none of its own. */
export function AcCards(props: GuidedProps) {
  return (
    <>
      <ZeroCard {...props} />
      <PhaseCard {...props} />
    </>
  );
}

const NO_READINGS = 'No readings yet. Link a gadget, or plug it in.';

const withAc = (line: LineSpec, params: StageSpec['params']): LineSpec => ({
  ...line,
  stages: line.stages.map((s) => (s.kind === 'ac-power' ? { ...s, params: { ...s.params, ...params } } : s)),
});

function ZeroCard({ line, saving, apply }: GuidedProps) {
  const { columns } = useLive();
  const [found, setFound] = useState<AcMiddle | string | null>(null);
  const now = line.stages.find((s) => s.kind === 'ac-power')!.params;
  const look = () => {
    const [v, i] = line.sources.map((s) => columns.get(s.column));
    setFound(v && i ? acMiddle(v, i) : NO_READINGS);
  };
  return (
    <section className="panel grid gap-2" aria-label="Middle">
      <h2>1. Middle, with the load off</h2>
      <p className="muted text-sm">
        Load off, generator running: both columns swing about their middle. Over whole cycles their mean is
        the middle, whatever the voltage.
      </p>
      <button type="button" className="btn btn-sm justify-self-start" onClick={look}>
        Find the middle
      </button>
      {typeof found === 'string' && (
        <p role="alert" className="text-sm text-warning">
          {found}
        </p>
      )}
      {found !== null && typeof found !== 'string' && (
        <div className="rounded-box border border-success/50 p-3 text-sm" data-testid="ac-middle">
          <p>
            Over {found.cycles} whole cycles the middle lies at{' '}
            <span className="num font-semibold">{printNominal(found.voltage, 6)}</span> and{' '}
            <span className="num font-semibold">{printNominal(found.current, 6)}</span>; the line has{' '}
            <span className="num">{printNominal(Number(now['voltageBias']), 6)}</span> and{' '}
            <span className="num">{printNominal(Number(now['currentBias']), 6)}</span>.
          </p>
          <button
            type="button"
            className="btn btn-primary btn-sm mt-2"
            disabled={saving}
            onClick={() =>
              apply(
                (l) =>
                  withAc(l, {
                    voltageBias: Number(found.voltage.toPrecision(7)),
                    currentBias: Number(found.current.toPrecision(7)),
                  }),
                'The middle is put in the line.',
              )
            }
          >
            Put it in the line
          </button>
        </div>
      )}
    </section>
  );
}

function PhaseCard({ line, saving, apply }: GuidedProps) {
  const { gadget } = useBench();
  const { columns } = useLive();
  const [found, setFound] = useState<PhaseTrim | string | null>(null);
  const look = () => {
    const [v, i] = line.sources.map((s) => columns.get(s.column));
    setFound(v && i ? fitPhaseTrim(v, i, gadget.sampleRateHz) : NO_READINGS);
  };
  return (
    <section className="panel grid gap-2" aria-label="Phase">
      <h2>2. Lag of the current sensor, with a resistive load</h2>
      <p className="muted text-sm">
        Lamps or a heater draw current in step with the voltage. What lag is seen then is the sensor’s own,
        and would be taken for a poor power factor.
      </p>
      <button type="button" className="btn btn-sm justify-self-start" onClick={look}>
        Measure the lag
      </button>
      {typeof found === 'string' && (
        <p role="alert" className="text-sm text-warning">
          {found}
        </p>
      )}
      {found !== null && typeof found !== 'string' && (
        <div className="rounded-box border border-success/50 p-3 text-sm" data-testid="phase-trim">
          <p>
            The current lags by{' '}
            <span className="num font-semibold">
              {printNominal(found.currentDelayUs)} ±{printNominal(2 * found.u, 2)} µs
            </span>
            , {printNominal(found.phaseDeg, 2)}° at {printNominal(found.frequencyHz)} Hz, over{' '}
            {found.stretches} stretches. Untrimmed, a power factor of 1 would read{' '}
            <span className="num">{Math.abs(Math.cos((found.phaseDeg * Math.PI) / 180)).toFixed(3)}</span>.
          </p>
          <button
            type="button"
            className="btn btn-primary btn-sm mt-2"
            disabled={saving}
            onClick={() =>
              apply(
                (l) => withAc(l, { currentDelayUs: Number(found.currentDelayUs.toFixed(1)) }),
                'The lag is put in the line.',
              )
            }
          >
            Put it in the line
          </button>
        </div>
      )}
    </section>
  );
}
