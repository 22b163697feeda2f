import type { Brief, Place } from '@lucky-needle/core/model';
import { neededRateHz } from '@lucky-needle/core/prove';
import { boilingPointC, standardPressureHpa } from '@lucky-needle/core/references';
import { printNumber, printSignificant, UNITS } from '@lucky-needle/core/units';

/** What the brief asks of the parts, with the arithmetic on show. */
export function BriefDemands({ brief, place, channels }: { brief: Brief; place: Place; channels: number }) {
  const symbol = UNITS[brief.unit].symbol;
  const rate = neededRateHz(brief);
  const pressure =
    place.pressureHpa ??
    (place.elevationM >= -430 && place.elevationM <= 9000 ? standardPressureHpa(place.elevationM) : null);
  const rows: { title: string; value: string; why: string }[] = [
    { title: 'Inputs', value: `${channels}`, why: 'one a channel' },
    {
      title: 'Readings a second, each',
      value: `${printSignificant(rate, 2)} or more`,
      why:
        brief.fastest.kind === 'ramp'
          ? `at ${brief.fastest.ratePerS} ${symbol}/s it then moves a fifth of the tolerance between readings`
          : brief.fastest.kind === 'pulse'
            ? 'so that at most a tenth of a half-sine pulse’s peak is lost between readings'
            : 'ten for each wave keep its shape',
    },
    {
      title: 'Steps no larger than',
      value: `${printSignificant(brief.tolerance / 5, 2)} ${symbol}`,
      why: 'a fifth of the tolerance',
    },
    {
      title: 'A reference good to',
      value: `±${printSignificant(brief.tolerance / 3, 2)} ${symbol}`,
      why: 'a third of the tolerance leaves room for the rest',
    },
  ];
  if (
    pressure !== null &&
    UNITS[brief.unit].dimension === 'temperature' &&
    pressure >= 300 &&
    pressure <= 1100
  ) {
    rows.push({
      title: 'Water boils there at',
      value: `${printNumber(boilingPointC(pressure), 1)} °C`,
      why: `${printNumber(pressure, 0)} hPa${place.pressureHpa === null ? ` by the elevation of ${place.elevationM} m` : ' by the barometer'}`,
    });
  }
  return (
    <section className="panel">
      <h2>What this asks of the parts</h2>
      <dl className="mt-3 grid gap-3">
        {rows.map((row) => (
          <div key={row.title}>
            <dt className="muted text-xs">{row.title}</dt>
            <dd className="num text-[0.95rem] font-semibold">{row.value}</dd>
            <dd className="muted text-xs">{row.why}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
