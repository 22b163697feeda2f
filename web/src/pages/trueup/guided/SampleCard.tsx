import { useMemo, useState } from 'react';
import { sampleStrength } from '@lucky-needle/core/calibrate';
import type { LineSpec } from '@lucky-needle/core/model';
import type { DilutionStep } from '@lucky-needle/core/references';
import { printWithUncertainty, type UnitId } from '@lucky-needle/core/units';
import { useBench, type ChannelContext } from '../../../app/useBench.ts';
import { NumberField } from '../../../parts/NumberField.tsx';
import { useSteady } from '../useSteady.ts';

/** The stage that turns absorbance into strength, where a line has one that is on. */
export const strengthStage = (line: LineSpec) =>
  line.stages.find((s) => s.kind === 'concentration' && !s.off);

const TENFOLD: DilutionStep = { taken: 10, madeUpTo: 100, takenPercent: 0.5, madeUpPercent: 0.2 };
const FIELDS = [
  ['taken', 'Volume taken', 'ml'],
  ['takenPercent', 'Pipette uncertainty ±', '%'],
  ['madeUpTo', 'Made up to', 'ml'],
  ['madeUpPercent', 'Flask uncertainty ±', '%'],
] as const;

/** What is in the glass now, and in what it was filled from, by the dilution line in use and with its interval. */
export function SampleCard({ channel }: { channel: ChannelContext }) {
  const { gadget } = useBench();
  const { unit, state } = useSteady(channel, gadget.sampleRateHz);
  const [diluted, setDiluted] = useState(false);
  const [step, setStep] = useState(TENFOLD);
  const { base, calibration, points } = channel;
  const used = calibration?.result ?? null;
  const capture = state?.capture ?? null;
  const stockPercent = useMemo(() => {
    const made = points.filter((p) => used?.residuals.some((r) => r.pointId === p.id));
    return Math.max(0, ...made.map((p) => (p.reference.kind === 'dilution' ? p.reference.stockPercent : 0)));
  }, [points, used]);
  const found = useMemo(() => {
    if (!used || !capture) return null;
    try {
      return sampleStrength(
        base,
        { sampleRateHz: gadget.sampleRateHz },
        used,
        capture,
        stockPercent,
        diluted ? [step] : [],
      );
    } catch (error) {
      if (error instanceof RangeError) return error.message;
      throw error;
    }
  }, [used, capture, base, gadget.sampleRateHz, stockPercent, diluted, step]);
  return (
    <section className="panel grid gap-3" aria-label="Sample">
      <header className="flex flex-wrap items-center gap-3">
        <h2 className="section-title grow">Sample concentration</h2>
        <fieldset className="join" aria-label="Sample preparation">
          {(['Undiluted', 'Diluted'] as const).map((words, i) => (
            <button
              key={words}
              type="button"
              aria-pressed={diluted === (i === 1)}
              className={`btn join-item btn-sm ${diluted === (i === 1) ? 'bg-base-content text-base-100' : ''}`}
              onClick={() => setDiluted(i === 1)}
            >
              {words}
            </button>
          ))}
        </fieldset>
      </header>
      {diluted && (
        <div className="grid grid-cols-2 gap-2 sm:grid-cols-4">
          {FIELDS.map(([name, label, symbol]) => (
            <NumberField
              key={name}
              label={label}
              unit={symbol}
              value={step[name]}
              onChange={(v) => setStep({ ...step, [name]: v })}
              check={(v) =>
                symbol === '%'
                  ? v >= 0 && v <= 100
                    ? null
                    : 'Enter 0 to 100.'
                  : v > 0
                    ? null
                    : 'Enter a value above 0.'
              }
            />
          ))}
        </div>
      )}
      {!used ? (
        <p className="muted text-sm">
          No active calibration yet. Capture the blank and the standards as points, then use the dilution
          calibration. The concentration of your sample will then appear here with its uncertainty.
        </p>
      ) : !capture ? (
        <p className="muted text-sm" role="status">
          {state?.waitingFor ?? 'No readings yet.'}
        </p>
      ) : !state?.steady && found !== null && typeof found === 'object' ? (
        <>
          <p className="muted text-sm" role="status">
            Waiting for a steady reading. {state?.waitingFor}
          </p>
          {found.outside === 'stronger' && <TooStrong />}
        </>
      ) : typeof found === 'string' ? (
        <p role="alert" className="text-sm text-error">
          {found}
        </p>
      ) : !found ? (
        <p role="alert" className="text-sm text-error">
          No reading: the detector is saturated or gets no light. Shut the lid; if the sample is very dark,
          dilute it.
        </p>
      ) : (
        <Strength found={found} unit={unit} diluted={diluted} />
      )}
    </section>
  );
}

type Found = NonNullable<ReturnType<typeof sampleStrength>>;

function Strength({ found, unit, diluted }: { found: Found; unit: UnitId; diluted: boolean }) {
  const { inGlass, undiluted, shares, outside, indistinct } = found;
  const whole = printWithUncertainty(undiluted.value, undiluted.uncertainty, unit);
  const glass = printWithUncertainty(inGlass.value, inGlass.uncertainty, unit);
  return (
    <div className="grid gap-1">
      <p
        role="status"
        data-testid="strength"
        data-value={undiluted.value}
        data-uncertainty={undiluted.uncertainty}
      >
        <span className="num text-2xl font-semibold">{whole.value}</span>{' '}
        <span className="num muted">
          ±{whole.uncertainty} {whole.symbol}
        </span>{' '}
        <span className="muted text-sm">
          {diluted ? (
            <>
              before dilution; in the cuvette{' '}
              <span className="num">
                {glass.value} ±{glass.uncertainty} {glass.symbol}
              </span>
            </>
          ) : (
            'in the cuvette'
          )}
          , 95 % confidence
        </span>
      </p>
      <p className="muted text-sm">
        Uncertainty from{' '}
        {shares
          .filter((s) => s.uncertainty > undiluted.uncertainty / 50)
          .map(
            ({ from, uncertainty }) => `${from} (±${printWithUncertainty(0, uncertainty, unit).uncertainty})`,
          )
          .join(', ')}
        , combined in quadrature.
      </p>
      {outside === 'stronger' && <TooStrong />}
      {outside === 'weaker' && !indistinct && (
        <p role="alert" className="text-sm text-warning">
          Below the weakest standard, so extrapolated. Capture the blank or a weaker standard as a point.
        </p>
      )}
      {indistinct && (
        <p className="text-sm text-warning">
          Indistinguishable from clear water: the value is smaller than its uncertainty.
        </p>
      )}
    </div>
  );
}

const TooStrong = () => (
  <p role="alert" className="text-sm text-warning">
    Above the strongest standard, so extrapolated. Dilute the sample, or add a stronger standard.
  </p>
);
