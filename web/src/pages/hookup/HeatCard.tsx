import { useState } from 'react';
import { loadHeat, BARE_KELVIN_PER_WATT } from '@lucky-needle/core/plan';
import { printNominal } from '@lucky-needle/core/units';
import { NumberField } from '../../parts/NumberField.tsx';

/** Heat in a load resistor or a shunt. */
export function HeatCard() {
  const [volts, setVolts] = useState(3.7);
  const [ohm, setOhm] = useState(4.7);
  const [rated, setRated] = useState(10);
  const [sink, setSink] = useState(BARE_KELVIN_PER_WATT);
  const heat = loadHeat(volts, ohm, rated, sink);
  return (
    <section className="panel grid gap-3" aria-label="Heat in a load or shunt">
      <h2 className="section-title">Heat in a load or shunt</h2>
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Voltage across it"
          unit="V"
          value={volts}
          onChange={setVolts}
          check={(v) =>
            v >= 0 && v <= 60 ? null : 'Enter 0 to 60 V. Anything higher is for a licensed electrician.'
          }
        />
        <NumberField label="Resistance" unit="Ω" value={ohm} onChange={setOhm} check={positive} />
        <NumberField label="Power rating" unit="W" value={rated} onChange={setRated} check={positive} />
        <NumberField
          label="Thermal resistance"
          unit="K/W"
          value={sink}
          onChange={setSink}
          check={positive}
          hint="About 60 bare, 20 with a clip-on heatsink."
        />
      </div>
      <p
        className={`text-sm ${heat.state === 'fail' ? 'text-error' : heat.state === 'tight' ? 'text-warning' : ''}`}
      >
        {heat.state === 'fail' ? '✕ ' : heat.state === 'tight' ? '≈ ' : '✓ '}
        <span className="num">{printNominal(heat.amperes)} A</span>; {heat.sentence}
      </p>
    </section>
  );
}

export const positive = (v: number) => (v > 0 && v <= 1e9 ? null : 'Enter a value above 0.');
