import type { Gadget, LinkStatus, ReferenceInput } from '@lucky-needle/core/model';
import { standardPressureHpa } from '@lucky-needle/core/references';
import { UNITS, type UnitId } from '@lucky-needle/core/units';
import { NumberField } from '../../parts/NumberField.tsx';

interface Props {
  readonly value: ReferenceInput;
  onChange(value: ReferenceInput): void;
  readonly unit: UnitId;
  readonly gadget: Gadget;
  readonly instruments: LinkStatus['instruments'];
}

/** The references that suit a temperature; the page offers these. */
type Offered = 'ice-slurry' | 'boiling-elevation' | 'boiling-pressure' | 'instrument';

const TITLES: Record<Offered, string> = {
  'ice-slurry': 'Ice slurry',
  'boiling-elevation': 'Boiling water, by elevation',
  'boiling-pressure': 'Boiling water, by barometer',
  instrument: 'Another thermometer beside it',
};

/** Which reference the probe stands in, and what the maker knows of it. */
export function ReferenceFields({ value, onChange, unit, gadget, instruments }: Props) {
  const symbol = UNITS[unit].symbol;
  const barometer = instruments.find((i) => i.unit === 'hPa');
  const thermometer = instruments.find((i) => UNITS[i.unit].dimension === UNITS[unit].dimension);
  const start = (kind: Offered): ReferenceInput => {
    switch (kind) {
      case 'ice-slurry':
        return { kind };
      case 'boiling-elevation':
        return { kind, elevationM: gadget.place.elevationM };
      case 'boiling-pressure':
        return {
          kind,
          pressureHpa:
            barometer?.value ??
            gadget.place.pressureHpa ??
            Math.round(standardPressureHpa(gadget.place.elevationM)),
          uncertaintyHpa: barometer?.uncertainty ?? 2,
        };
      case 'instrument':
        return { kind, reading: thermometer?.value ?? 20, uncertainty: thermometer?.uncertainty ?? 0.5 };
    }
  };
  return (
    <div className="grid gap-2">
      <select
        className="select select-sm w-full"
        aria-label="Reference"
        value={value.kind}
        onChange={(e) => onChange(start(e.target.value as Offered))}
      >
        {Object.entries(TITLES).map(([kind, title]) => (
          <option key={kind} value={kind}>
            {title}
          </option>
        ))}
      </select>
      {value.kind === 'boiling-elevation' && (
        <NumberField
          label="Elevation"
          unit="m"
          value={value.elevationM}
          onChange={(elevationM) => onChange({ ...value, elevationM })}
          check={(v) => (v >= -430 && v <= 9000 ? null : 'From −430 to 9000 m.')}
        />
      )}
      {value.kind === 'boiling-pressure' && (
        <div className="grid grid-cols-2 gap-2">
          <NumberField
            label="Pressure there"
            unit="hPa"
            value={value.pressureHpa}
            onChange={(pressureHpa) => onChange({ ...value, pressureHpa })}
            check={(v) => (v >= 300 && v <= 1100 ? null : 'From 300 to 1100 hPa.')}
          />
          <NumberField
            label="Good to ±"
            unit="hPa"
            value={value.uncertaintyHpa}
            onChange={(uncertaintyHpa) => onChange({ ...value, uncertaintyHpa })}
            check={(v) => (v >= 0 && v <= 50 ? null : 'From 0 to 50 hPa.')}
          />
        </div>
      )}
      {value.kind === 'instrument' && (
        <>
          <div className="grid grid-cols-2 gap-2">
            <NumberField
              label="It reads"
              unit={symbol}
              value={value.reading}
              onChange={(reading) => onChange({ ...value, reading })}
            />
            <NumberField
              label="Good to ±"
              unit={symbol}
              value={value.uncertainty}
              onChange={(uncertainty) => onChange({ ...value, uncertainty })}
              check={(v) => (v > 0 ? null : 'Above 0: no instrument is perfect.')}
            />
          </div>
          {thermometer && thermometer.value !== value.reading && (
            <button
              type="button"
              className="btn btn-xs justify-self-start"
              onClick={() =>
                onChange({ ...value, reading: thermometer.value, uncertainty: thermometer.uncertainty })
              }
            >
              It reads {thermometer.value.toFixed(1)} {symbol} now: use that
            </button>
          )}
        </>
      )}
    </div>
  );
}
