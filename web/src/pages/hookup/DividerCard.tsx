import { useMemo, useState } from 'react';
import {
  bestSeriesResistor,
  briefFor,
  dividerCurve,
  dividerOf,
  eSeriesBetween,
  nearestInSeries,
  withSeriesResistor,
  type ESeries,
} from '@lucky-needle/core/plan';
import { compileLine } from '@lucky-needle/core/line';
import type { Channel } from '@lucky-needle/core/model';
import { convertDifference, convertUnit, printNominal, UNITS } from '@lucky-needle/core/units';
import { NumberField } from '../../parts/NumberField.tsx';
import { Plot } from '../../parts/Plot.tsx';
import { useSaveGadget } from '../../parts/useSaveGadget.ts';
import type { HookupTabProps } from './tabProps.ts';

const SERIES: readonly ESeries[] = ['E6', 'E12', 'E24', 'E96'];
const ohms = (v: number) =>
  v >= 1e6
    ? `${printNominal(v / 1e6)} MΩ`
    : v >= 1e3
      ? `${printNominal(v / 1e3)} kΩ`
      : `${printNominal(v)} Ω`;

/** Resolution over the range for the resistor as it is and as it could be, with self-heating. */
export function DividerCard({ gadget, saving, channels }: HookupTabProps & { channels: Channel[] }) {
  const [id, setId] = useState(channels[0]!.id);
  const channel = channels.find((c) => c.id === id) ?? channels[0]!;
  return (
    <section className="panel grid gap-3" aria-label="Voltage divider">
      <header className="flex flex-wrap items-center gap-3">
        <h2 className="section-title grow">Series resistor</h2>
        {channels.length > 1 && (
          <select
            className="select select-sm w-auto"
            aria-label="Channel with the divider"
            value={channel.id}
            onChange={(e) => setId(e.target.value)}
          >
            {channels.map((c) => (
              <option key={c.id} value={c.id}>
                {c.name}
              </option>
            ))}
          </select>
        )}
      </header>
      <DividerOf key={channel.id} gadget={gadget} channel={channel} saving={saving} />
    </section>
  );
}

function DividerOf({
  gadget,
  channel,
  saving,
}: Pick<HookupTabProps, 'gadget' | 'saving'> & { channel: Channel }) {
  const stage = dividerOf(channel.line)!;
  const name = stage.kind === 'load-resistor' ? 'loadOhm' : 'seriesOhm';
  const marked = Number(stage.params[name]);
  const [ohm, setOhm] = useState(marked);
  const [series, setSeries] = useState<ESeries>('E12');
  const [shedMw, setShedMw] = useState(2);
  const { save } = useSaveGadget(gadget);
  const brief = briefFor(gadget, channel);
  const found = useMemo(() => {
    if (!brief) return null;
    const unit = compileLine(channel.line, { sampleRateHz: gadget.sampleRateHz }).outputs[0]!.unit;
    if (UNITS[unit].dimension !== UNITS[brief.unit].dimension) return null;
    const [low, high] = [convertUnit(brief.low, brief.unit, unit), convertUnit(brief.high, brief.unit, unit)];
    const curve = (r: number) => dividerCurve(channel.line, r, low, high, gadget.sampleRateHz, shedMw / 1e3);
    const best =
      stage.kind === 'divider' ? bestSeriesResistor(channel.line, low, high, gadget.sampleRateHz) : null;
    return {
      unit,
      now: curve(ohm),
      best: best && best.seriesOhm !== ohm ? curve(best.seriesOhm) : null,
      wanted: convertDifference(brief.tolerance, brief.unit, unit) / 5,
    };
  }, [brief, channel.line, gadget.sampleRateHz, ohm, shedMw, stage.kind]);
  if (!brief || !found?.now)
    return <p className="muted text-sm">The plot needs a brief in the same unit as the line.</p>;
  const { unit, now, best, wanted } = found;
  const symbol = UNITS[unit].symbol;
  const warm = Math.max(...now.heatK);
  const near = eSeriesBetween(series, ohm / 2.2, ohm * 2.2);
  const isThermal = UNITS[unit].dimension === 'temperature';
  return (
    <>
      <div className="grid gap-3 sm:grid-cols-3">
        <NumberField
          label="Resistor"
          unit="Ω"
          value={ohm}
          onChange={setOhm}
          check={(v) => (v >= 1 && v <= 1e9 ? null : 'Enter 1 Ω to 1 GΩ.')}
          hint={`Nearest ${series} value: ${ohms(nearestInSeries(series, ohm))}`}
        />
        <label className="block">
          <span className="muted mb-1 block text-xs">Standard values</span>
          <span className="flex gap-2">
            <select
              className="select select-sm w-20"
              aria-label="E series"
              value={series}
              onChange={(e) => setSeries(e.target.value as ESeries)}
            >
              {SERIES.map((s) => (
                <option key={s}>{s}</option>
              ))}
            </select>
            <select
              className="select select-sm num grow"
              aria-label="Standard value"
              value={near.includes(ohm) ? ohm : ''}
              onChange={(e) => e.target.value && setOhm(Number(e.target.value))}
            >
              {!near.includes(ohm) && <option value="">choose…</option>}
              {near.map((v) => (
                <option key={v} value={v}>
                  {ohms(v)}
                </option>
              ))}
            </select>
          </span>
        </label>
        {isThermal && (
          <NumberField
            label="Dissipation constant"
            unit="mW/K"
            value={shedMw}
            onChange={setShedMw}
            check={(v) => (v > 0 && v < 1e4 ? null : 'Enter a value above 0.')}
            hint="Bead thermistor: about 2 in still air, 8 in water."
          />
        )}
      </div>
      <Plot
        title="Size of one ADC count over the range"
        height={230}
        x={{ label: brief.quantity, unit: symbol }}
        y={{ label: 'One ADC count', unit: symbol, min: 0 }}
        series={[
          { label: `${ohms(ohm)}`, x: now.at, y: now.step, ink: 'trace', style: 'line' },
          ...(best
            ? [
                {
                  label: `${ohms(best.seriesOhm)}`,
                  x: best.at,
                  y: best.step,
                  ink: 'trace3' as const,
                  style: 'dashed' as const,
                },
              ]
            : []),
        ]}
        bands={[{ from: 0, to: wanted, axis: 'y', ink: 'tolerance' }]}
      />
      <p className="text-sm">
        With <span className="num font-semibold">{ohms(ohm)}</span>, one ADC count is up to{' '}
        <span className="num font-semibold">
          {printNominal(now.worstStep, 2)} {symbol}
        </span>
        . The green area meets the brief: {printNominal(wanted, 2)} {symbol} or less.
        {best && best.worstStep < now.worstStep * 0.98 && (
          <>
            {' '}
            <button type="button" className="link" onClick={() => setOhm(best.seriesOhm)}>
              {ohms(best.seriesOhm)}
            </button>{' '}
            (dashed) would reduce it to {printNominal(best.worstStep, 2)} {symbol}.
          </>
        )}
        {isThermal && (
          <>
            {' '}
            Self-heating raises the reading by up to{' '}
            <span className={`num ${warm > wanted ? 'font-semibold text-warning' : ''}`}>
              {printNominal(warm, 2)} °C
            </span>
            .
          </>
        )}
      </p>
      <button
        type="button"
        className="btn btn-sm justify-self-start"
        disabled={ohm === marked || saving}
        onClick={() =>
          void save(
            ({ channels }) => ({
              channels: channels.map((c) =>
                c.id === channel.id ? { ...c, line: withSeriesResistor(c.line, ohm) } : c,
              ),
            }),
            'Series resistor saved.',
          )
        }
      >
        Save resistor
      </button>
    </>
  );
}
