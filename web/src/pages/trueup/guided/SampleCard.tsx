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
  ['taken', 'Taken', 'ml'],
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
    <section className="panel grid gap-3" aria-label="A sample">
      <header className="flex flex-wrap items-center gap-3">
        <h2 className="section-title grow">How strong is a sample?</h2>
        <fieldset className="join" aria-label="How it came into the glass">
          {(['As it is', 'Diluted'] as const).map((words, i) => (
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
                symbol === '%' ? (v >= 0 && v <= 100 ? null : 'From 0 to 100.') : v > 0 ? null : 'Above 0.'
              }
            />
          ))}
        </div>
      )}
      {!used ? (
        <p className="muted text-sm">
          Not yet: no fit is in use. Keep the blank and the standards as points, and put the dilution line in
          use; what is in the glass then shows here with its interval.
        </p>
      ) : !capture ? (
        <p className="muted text-sm" role="status">
          {state?.waitingFor ?? 'No readings yet.'}
        </p>
      ) : !state?.steady && found !== null && typeof found === 'object' ? (
        <>
          <p className="muted text-sm" role="status">
            Waiting for rest. {state?.waitingFor}
          </p>
          {found.outside === 'stronger' && <TooStrong />}
        </>
      ) : typeof found === 'string' ? (
        <p role="alert" className="text-sm text-error">
          {found}
        </p>
      ) : !found ? (
        <p role="alert" className="text-sm text-error">
          No reading: the detector is at its end, or no light is left. Shut the lid; if the glass is very
          dark, dilute it.
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
              before it was diluted; in the glass{' '}
              <span className="num">
                {glass.value} ±{glass.uncertainty} {glass.symbol}
              </span>
            </>
          ) : (
            'in the glass'
          )}
          , 95 % sure
        </span>
      </p>
      <p className="muted text-sm">
        The ± comes from{' '}
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
          Weaker than the weakest standard: a guess. Keep the blank as a point, or a weaker standard.
        </p>
      )}
      {indistinct && (
        <p className="text-sm text-warning">It cannot be told from clear water: less than its own ±.</p>
      )}
    </div>
  );
}

const TooStrong = () => (
  <p role="alert" className="text-sm text-warning">
    Stronger than the strongest standard: a guess. Dilute it, or add a standard there.
  </p>
);
