import { useState, type ReactNode } from 'react';
import { acMiddle, fitPhaseTrim, type AcMiddle, type PhaseTrim } from '@lucky-needle/core/calibrate';
import type { LineSpec, StageSpec } from '@lucky-needle/core/model';
import { printNominal } from '@lucky-needle/core/units';
import { useBench } from '../../../app/useBench.ts';
import { useLive } from '../../../live/useLive.ts';
import type { GuidedProps } from './GuidedCards.tsx';

const NO_READINGS = 'No readings yet. Link a gadget, or plug it in.';

const withAc = (line: LineSpec, params: StageSpec['params']): LineSpec => ({
  ...line,
  stages: line.stages.map((s) => (s.kind === 'ac-power' ? { ...s, params: { ...s.params, ...params } } : s)),
});

/** Zero with the load off, and the current sensor's lag with a load that has none of its own. */
export function AcCards(props: GuidedProps) {
  const { gadget } = useBench();
  const now = props.line.stages.find((s) => s.kind === 'ac-power')!.params;
  return (
    <>
      <MeasureCard<AcMiddle>
        {...props}
        label="Middle"
        title="1. Middle, with the load off"
        hint="Load off, generator running: both columns swing about their middle. Over whole cycles their mean is the middle, whatever the voltage."
        button="Find the middle"
        measure={acMiddle}
        paramsOf={(found) => ({
          voltageBias: Number(found.voltage.toPrecision(7)),
          currentBias: Number(found.current.toPrecision(7)),
        })}
        done="The middle is put in the line."
        say={(found) => (
          <>
            Over {found.cycles} whole cycles the middle lies at <Figure v={found.voltage} /> and{' '}
            <Figure v={found.current} />; the line has{' '}
            <span className="num">{printNominal(Number(now['voltageBias']), 6)}</span> and{' '}
            <span className="num">{printNominal(Number(now['currentBias']), 6)}</span>.
          </>
        )}
      />
      <MeasureCard<PhaseTrim>
        {...props}
        label="Phase"
        title="2. Lag of the current sensor, with a resistive load"
        hint="Lamps or a heater draw current in step with the voltage. What lag is seen then is the sensor’s own, and would be taken for a poor power factor."
        button="Measure the lag"
        measure={(v, i) => fitPhaseTrim(v, i, gadget.sampleRateHz)}
        paramsOf={(found) => ({ currentDelayUs: Number(found.currentDelayUs.toFixed(1)) })}
        done="The lag is put in the line."
        say={(found) => (
          <>
            The current lags by{' '}
            <span className="num font-semibold">
              {printNominal(found.currentDelayUs)} ±{printNominal(2 * found.u, 2)} µs
            </span>
            , {printNominal(found.phaseDeg, 2)}° at {printNominal(found.frequencyHz)} Hz, over{' '}
            {found.stretches} stretches. Untrimmed, a power factor of 1 would read{' '}
            <span className="num">{Math.abs(Math.cos((found.phaseDeg * Math.PI) / 180)).toFixed(3)}</span>.
          </>
        )}
      />
    </>
  );
}

interface MeasureProps<T extends object> extends GuidedProps {
  readonly label: string;
  readonly title: string;
  readonly hint: string;
  readonly button: string;
  readonly done: string;
  measure(voltage: Float64Array, current: Float64Array): T | string;
  say(found: T): ReactNode;
  paramsOf(found: T): StageSpec['params'];
}

/** Looks at the live columns on demand, says what it found or why not, and puts it in the line when told to. */
function MeasureCard<T extends object>(props: MeasureProps<T>) {
  const { line, saving, apply, label, title, hint, button, done, measure, say, paramsOf } = props;
  const { columns } = useLive();
  const [found, setFound] = useState<T | string | null>(null);
  return (
    <section className="panel grid gap-2" aria-label={label}>
      <h2>{title}</h2>
      <p className="muted text-sm">{hint}</p>
      <button
        type="button"
        className="btn btn-sm justify-self-start"
        onClick={() => {
          const [v, i] = line.sources.map((s) => columns.get(s.column));
          setFound(v && i ? measure(v, i) : NO_READINGS);
        }}
      >
        {button}
      </button>
      {typeof found === 'string' && (
        <p role="alert" className="text-sm text-warning">
          {found}
        </p>
      )}
      {found !== null && typeof found !== 'string' && (
        <div className="rounded-box border border-success/50 p-3 text-sm" data-testid={`found-${label}`}>
          <p>{say(found)}</p>
          <button
            type="button"
            className="btn btn-primary btn-sm mt-2"
            disabled={saving}
            onClick={() => apply((l) => withAc(l, paramsOf(found)), done)}
          >
            Put it in the line
          </button>
        </div>
      )}
    </section>
  );
}

const Figure = ({ v }: { v: number }) => <span className="num font-semibold">{printNominal(v, 6)}</span>;
