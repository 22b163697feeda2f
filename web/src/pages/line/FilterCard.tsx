import { useMemo } from 'react';
import { filterTraits, priceOfFilter, stageKind } from '@lucky-needle/core/line';
import type { ChannelBrief, StageSpec } from '@lucky-needle/core/model';
import { convertDifference, printSignificant, UNITS, type UnitId } from '@lucky-needle/core/units';
import { Plot } from '../../parts/Plot.tsx';

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
  const series = useMemo(
    () =>
      worked
        ? [
            {
              label: 'Step response',
              x: worked.traits.step.timesS,
              y: worked.traits.step.values,
              ink: 'fit' as const,
              style: 'line' as const,
            },
          ]
        : [],
    [worked],
  );
  const xAxis = useMemo(() => ({ label: 'After the step', unit: 's', min: 0 }), []);
  const yAxis = useMemo(() => ({ label: 'Share of the step', unit: '' }), []);
  if (!worked) return null;
  const { traits, price } = worked;
  // A line may end in another quantity than the brief's: then the price stays in the brief's own unit.
  const shown = brief && UNITS[brief.unit].dimension !== UNITS[unit].dimension ? brief.unit : unit;
  const cost =
    !brief || !price
      ? brief
        ? 'The brief asks for marks in time: what a filter costs there is its delay.'
        : 'The brief will tell what it costs.'
      : price.relative
        ? `Takes ${printSignificant(100 * price.amount, 2)} % off the brief’s ${brief.fastest.kind === 'pulse' ? 'pulse' : 'wave'}.`
        : `On the brief’s ${brief.fastest.kind === 'ramp' ? brief.fastest.ratePerS : ''} ${UNITS[brief.unit].symbol}/s it trails by ${printSignificant(convertDifference(price.amount, brief.unit, shown), 2)} ${UNITS[shown].symbol}, ${printSignificant((100 * price.amount) / brief.tolerance, 2)} % of the tolerance.`;
  const facts = [
    { title: 'Delay', value: `${printSignificant(traits.delayS, 2)} s` },
    { title: 'Settles to 1 %', value: `${printSignificant(traits.settlingS, 2)} s` },
    { title: 'Noise left', value: `${printSignificant(100 * traits.noiseGain, 2)} %` },
  ];
  return (
    <section className="panel">
      <h2>{kind.title}: what it gives, what it costs</h2>
      <div className="mt-2 grid gap-4 md:grid-cols-[12rem_1fr]">
        <dl className="grid content-start gap-3">
          {facts.map((f) => (
            <div key={f.title}>
              <dt className="muted text-xs">{f.title}</dt>
              <dd className="num text-lg font-semibold">{f.value}</dd>
            </div>
          ))}
        </dl>
        <Plot title={`Step response of ${kind.title}`} series={series} x={xAxis} y={yAxis} height={180} />
      </div>
      <p className="mt-2 text-sm">{cost}</p>
    </section>
  );
}
