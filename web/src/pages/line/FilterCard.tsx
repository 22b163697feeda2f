import { useMemo, useState } from 'react';
import {
  eventThrough,
  filterTraits,
  frequencyResponse,
  priceOfFilter,
  stageKind,
  type FilterTraits,
  type StageKind,
} from '@lucky-needle/core/line';
import type { ChannelBrief, StageSpec } from '@lucky-needle/core/model';
import { convertDifference, printSignificant, UNITS, type UnitId } from '@lucky-needle/core/units';
import { Plot } from '../../parts/Plot.tsx';
import type { PlotAxis, PlotSeries } from '../../parts/plotTypes.ts';

/** What a filter gives and what it costs: noise gain beside delay, settling and the price for the brief's event. */
export function FilterCard({
  stage,
  sampleRateHz,
  brief,
  unit,
}: {
  stage: StageSpec;
  sampleRateHz: number;
  brief: ChannelBrief | null;
  unit: UnitId;
}) {
  const kind = stageKind(stage.kind)!;
  const context = useMemo(() => ({ sampleRateHz }), [sampleRateHz]);
  const worked = useMemo(() => {
    try {
      const traits = filterTraits(kind, stage.params, context);
      const price = brief ? priceOfFilter(kind, stage.params, context, brief.fastest) : null;
      return { traits, price };
    } catch {
      return null;
    }
  }, [kind, stage.params, context, brief]);
  const [looks, setLooks] = useState<Look>('event');
  const drawn = useMemo(
    () => (worked ? drawnFor(looks, kind, stage.params, sampleRateHz, brief, worked.traits) : null),
    [worked, looks, kind, stage.params, sampleRateHz, brief],
  );
  if (!worked) return null;
  const { traits, price } = worked;
  // A line may end in another quantity than the brief's: then the price stays in the brief's own unit.
  const shown = brief && UNITS[brief.unit].dimension !== UNITS[unit].dimension ? brief.unit : unit;
  const cost =
    !brief || !price
      ? brief
        ? 'The brief requires events to be timed, so the cost of a filter is its delay.'
        : 'Write the brief to see what the filter costs.'
      : price.relative
        ? `Reduces the brief’s ${brief.fastest.kind === 'pulse' ? 'pulse' : 'wave'} by ${printSignificant(100 * price.amount, 2)} %.`
        : `At the brief’s ${brief.fastest.kind === 'ramp' ? brief.fastest.ratePerS : ''} ${UNITS[brief.unit].symbol}/s it lags by ${printSignificant(convertDifference(price.amount, brief.unit, shown), 2)} ${UNITS[shown].symbol}, ${printSignificant((100 * price.amount) / brief.tolerance, 2)} % of the tolerance.`;
  const facts = [
    { title: 'Delay', value: `${printSignificant(traits.delayS, 2)} s` },
    { title: 'Settles to 1 %', value: `${printSignificant(traits.settlingS, 2)} s` },
    { title: 'Remaining noise', value: `${printSignificant(100 * traits.noiseGain, 2)} %` },
  ];
  return (
    <section className="panel">
      <header className="flex flex-wrap items-center gap-2">
        <h2 className="section-title grow">{kind.title}: effect and cost</h2>
        <div role="group" aria-label="Plot" className="flex flex-wrap gap-1">
          {LOOKS.map(([id, title]) => (
            <button
              key={id}
              type="button"
              aria-pressed={looks === id}
              className={`btn btn-xs ${looks === id ? 'bg-base-content text-base-100' : 'btn-ghost'}`}
              onClick={() => setLooks(id)}
            >
              {title}
            </button>
          ))}
        </div>
      </header>
      <div className="mt-3 grid gap-4 md:grid-cols-[9rem_1fr]">
        <dl className="grid content-start gap-3">
          {facts.map((f) => (
            <div key={f.title}>
              <dt className="muted text-xs">{f.title}</dt>
              <dd className="num text-lg font-semibold">{f.value}</dd>
            </div>
          ))}
        </dl>
        <div className="min-w-0">
          {drawn ? <Plot {...drawn} height={180} /> : <p className="muted p-4 text-sm">{NOTHING[looks]}</p>}
        </div>
      </div>
      <p className="mt-2 text-sm">{cost}</p>
    </section>
  );
}

type Look = 'event' | 'step' | 'frequency';

const LOOKS: readonly (readonly [Look, string])[] = [
  ['event', 'Brief’s fastest change'],
  ['step', 'Step response'],
  ['frequency', 'Frequency response'],
];

const NOTHING: Record<Look, string> = {
  event: 'No shape to plot: the brief is about timing events, or is not written yet.',
  step: 'This filter has no step response.',
  frequency: 'This filter is not linear: what it passes depends on the signal, not on frequency alone.',
};

interface Drawn {
  readonly title: string;
  readonly series: readonly PlotSeries[];
  readonly x: PlotAxis;
  readonly y: PlotAxis;
}

function drawnFor(
  look: Look,
  kind: StageKind,
  params: StageSpec['params'],
  sampleRateHz: number,
  brief: ChannelBrief | null,
  traits: FilterTraits,
): Drawn | null {
  switch (look) {
    case 'event': {
      const through = brief && eventThrough(kind, params, { sampleRateHz }, brief.fastest);
      if (!through) return null;
      const ramp = brief.fastest.kind === 'ramp';
      return {
        title: `The brief’s fastest change after ${kind.title}`,
        series: [
          { label: 'Unfiltered', x: through.timesS, y: through.before, ink: 'muted', style: 'line' },
          { label: 'Filtered', x: through.timesS, y: through.after, ink: 'fit', style: 'line' },
        ],
        x: { label: 'Time', unit: 's', min: 0 },
        y: ramp
          ? { label: 'Change', unit: UNITS[brief.unit].symbol }
          : { label: 'Fraction of its height', unit: '' },
      };
    }
    case 'step':
      return {
        title: `Step response of ${kind.title}`,
        series: [
          {
            label: 'Step response',
            x: traits.step.timesS,
            y: traits.step.values,
            ink: 'fit',
            style: 'line',
          },
        ],
        x: { label: 'Time after the step', unit: 's', min: 0 },
        y: { label: 'Fraction of the step', unit: '' },
      };
    case 'frequency': {
      const frequenciesHz = Array.from({ length: 200 }, (_, i) => ((i + 0.5) * sampleRateHz) / 400);
      const response = frequencyResponse(kind, params, { sampleRateHz }, frequenciesHz);
      if (!response) return null;
      return {
        title: `Frequency response of ${kind.title}`,
        series: [
          {
            label: 'Gain',
            x: frequenciesHz,
            y: response.map((h) => 100 * Math.hypot(h.re, h.im)),
            ink: 'fit',
            style: 'line',
          },
        ],
        x: { label: 'Frequency', unit: 'Hz', min: 0, max: sampleRateHz / 2 },
        y: { label: 'Gain', unit: '%', min: 0 },
      };
    }
  }
}
