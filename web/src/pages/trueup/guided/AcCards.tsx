import { useState, type ReactNode } from 'react';
import type { Evidence, FitResult, TakeBody } from '@lucky-needle/core/model';
import { printNominal } from '@lucky-needle/core/units';
import { problemOf } from '../../../api/problemOf.ts';
import { useTakeMutation } from '../../../api/trueUpApi.ts';
import { useBench, type ChannelContext } from '../../../app/useBench.ts';
import { useLiveOf } from '../../../live/useLive.ts';
import { NumberField } from '../../../parts/NumberField.tsx';
import { ProblemNote } from '../../../parts/ProblemNote.tsx';
import { FoundConstants, withDoubt } from './FoundConstants.tsx';
import { useGuided } from './useGuided.ts';

/** Zero with the load off, the current sensor's lag on a load that has none of its own, and the scale by a meter. */
export function AcCards({ channel }: { channel: ChannelContext }) {
  const status = useLiveOf((live) => live.status);
  const beside = (unit: 'V' | 'A') => status?.instruments.find((i) => i.unit === unit);
  const [typed, setTyped] = useState({ volts: 24, uVolts: 0.3, amperes: 2, uAmperes: 0.03 });
  const field = (name: keyof typeof typed, label: string, unit: string) => (
    <NumberField
      label={label}
      unit={unit}
      value={typed[name]}
      onChange={(v) => setTyped({ ...typed, [name]: v })}
      check={(v) => (v > 0 ? null : 'Enter a value above 0.')}
    />
  );
  const [meterV, meterA] = [beside('V'), beside('A')];
  return (
    <>
      <MeasureCard
        channel={channel}
        fit="ac-middle"
        label="Midpoint"
        title="1. Midpoint, with the load off"
        hint="Load off, generator running: both signals swing around their midpoint. The mean over whole cycles gives the midpoint at any voltage."
        button="Find midpoint"
        taking={{ kind: 'ac-middle' }}
        done="Midpoint corrected."
        say={(found) => (
          <>
            The midpoint is at <Figure of={found} param="voltageBias" /> and{' '}
            <Figure of={found} param="currentBias" /> counts; previously{' '}
            <span className="num">
              {found.parameters.map((p) => printNominal(p.before ?? 0, 6)).join(' and ')}
            </span>
            .
          </>
        )}
      />
      <MeasureCard
        channel={channel}
        fit="ac-lag"
        label="Phase"
        title="2. Phase lag of the current sensor, with a resistive load"
        hint="Lamps or a heater draw current in phase with the voltage, so any lag measured now comes from the sensor. Uncorrected, it would look like a poor power factor."
        button="Measure phase lag"
        taking={{ kind: 'ac-lag' }}
        done="Phase lag corrected."
        say={(found) => {
          const { value } = found.parameters.find((p) => p.param === 'currentDelayUs')!;
          return (
            <>
              The current lags by <Figure of={found} param="currentDelayUs" /> µs. Uncorrected, a power factor
              of 1 at 50 Hz would read{' '}
              <span className="num">{Math.abs(Math.cos(2 * Math.PI * 50 * value * 1e-6)).toFixed(3)}</span>.
            </>
          );
        }}
      />
      <MeasureCard
        channel={channel}
        fit="ac-scale"
        label="Scale"
        title="3. Scale, with a reference meter"
        hint="With a load on, compare with a true-RMS meter: its reading divided by the RMS of the raw signal gives the scale."
        button="Compare with meter"
        taking={{
          kind: 'ac-scale',
          volts: { value: typed.volts, uncertainty: typed.uVolts },
          amperes: { value: typed.amperes, uncertainty: typed.uAmperes },
        }}
        done="Scale corrected."
        say={(found) => (
          <>
            {found.parameters.map((p) => (
              <span key={p.param} className="mr-3 inline-block">
                {p.title} <Figure of={found} param={p.param} scale={1000} /> m{p.unit}, was{' '}
                <span className="num">{printNominal((p.before ?? 0) * 1000, 5)}</span>.
              </span>
            ))}
          </>
        )}
      >
        <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
          {field('volts', 'Meter reading', 'V')}
          {field('uVolts', 'Uncertainty ±', 'V')}
          {field('amperes', 'Meter reading', 'A')}
          {field('uAmperes', 'Uncertainty ±', 'A')}
        </div>
        {meterV && meterA && meterV.value > 0 && meterA.value > 0 && (
          <button
            type="button"
            className="btn btn-xs justify-self-start"
            onClick={() =>
              setTyped({
                volts: meterV.value,
                uVolts: meterV.uncertainty,
                amperes: meterA.value,
                uAmperes: meterA.uncertainty,
              })
            }
          >
            The meter reads {printNominal(meterV.value, 4)} V and {printNominal(meterA.value, 4)} A now: use
            these values
          </button>
        )}
      </MeasureCard>
    </>
  );
}

interface MeasureProps {
  readonly channel: ChannelContext;
  readonly fit: string;
  readonly label: string;
  readonly title: string;
  readonly hint: string;
  readonly button: string;
  readonly done: string;
  readonly children?: ReactNode;
  readonly taking: TakeBody['taking'];
  say(found: FitResult): ReactNode;
}

/** Looks at the live columns on demand, says what it found or why not, and puts it in use when told to. */
function MeasureCard({
  channel,
  fit,
  label,
  title,
  hint,
  button,
  done,
  children,
  taking,
  say,
}: MeasureProps) {
  const { gadget } = useBench();
  const [take, asked] = useTakeMutation();
  const guided = useGuided<'ac-middle' | 'ac-lag' | 'ac-scale'>(channel, fit);
  const [looked, setLooked] = useState<{ evidence: Evidence; found: FitResult | string } | null>(null);
  const measure = async () => {
    setLooked(null);
    const taken = await take({ gadgetId: gadget.id, body: { channelId: channel.channel.id, taking } });
    if (!taken.data) return;
    const { evidence } = taken.data;
    setLooked({ evidence, found: guided.preview([{ evidence }]) });
  };
  const refusal = typeof looked?.found === 'string' ? looked.found : null;
  return (
    <section className="panel grid gap-2" aria-label={label}>
      <h2>{title}</h2>
      <p className="muted text-sm">{hint}</p>
      {children}
      <button
        type="button"
        className="btn btn-sm justify-self-start"
        disabled={asked.isLoading}
        onClick={() => void measure()}
      >
        {button}
      </button>
      {refusal && (
        <p role="alert" className="text-sm text-warning">
          {refusal}
        </p>
      )}
      <ProblemNote problem={problemOf(asked.error) ?? guided.problem} />
      {looked !== null && typeof looked.found !== 'string' && (
        <FoundConstants
          result={looked.found}
          busy={guided.busy}
          testId={`found-${label}`}
          onUse={() => void guided.use([], done, [looked.evidence])}
        >
          {say(looked.found)}
        </FoundConstants>
      )}
    </section>
  );
}

function Figure({ of, param, scale = 1 }: { of: FitResult; param: string; scale?: number }) {
  const found = of.parameters.find((p) => p.param === param)!;
  return <span className="num font-semibold">{withDoubt(found, scale)}</span>;
}
