import { useState } from 'react';
import { boardOf, inputFilter } from '@lucky-needle/core/plan';
import { printNominal } from '@lucky-needle/core/units';
import { NumberField } from '../../parts/NumberField.tsx';
import type { HookupTabProps } from './tabProps.ts';
import { positive } from './HeatCard.tsx';

/** An RC before the converter: corner, settling, aliases. */
export function FilterCard({ gadget, plan }: HookupTabProps) {
  const [kohm, setKohm] = useState(1);
  const [nf, setNf] = useState(100);
  const [rateHz, setRateHz] = useState(gadget.sampleRateHz);
  const [switched, setSwitched] = useState(gadget.channels.length > 1);
  const { bits } = boardOf(plan);
  const rc = inputFilter(kohm * 1e3, nf * 1e-9, bits, rateHz, switched);
  return (
    <section className="panel grid gap-3" aria-label="Input filter before the ADC">
      <h2 className="section-title">Input filter before the ADC</h2>
      <div className="grid grid-cols-2 gap-3">
        <NumberField label="Resistor" unit="kΩ" value={kohm} onChange={setKohm} check={positive} />
        <NumberField label="Capacitor" unit="nF" value={nf} onChange={setNf} check={positive} />
        <NumberField label="Sampling rate" unit="Hz" value={rateHz} onChange={setRateHz} check={positive} />
        <label className="flex items-center gap-2 self-end pb-1 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={switched}
            onChange={(e) => setSwitched(e.target.checked)}
          />
          One ADC switches between several inputs
        </label>
      </div>
      <dl className="num grid grid-cols-[1fr_auto] gap-y-1 text-sm">
        <dt className="font-sans">Cutoff (−3 dB)</dt>
        <dd className="text-right font-semibold">{printNominal(rc.cornerHz)} Hz</dd>
        <dt className="font-sans">Settles to half a count of {bits} bits in</dt>
        <dd className="text-right font-semibold">{printNominal(rc.settlingS * 1e3)} ms</dd>
      </dl>
      <p className={`text-sm ${rc.guardsAliases ? 'text-success' : 'text-warning'}`}>
        {rc.guardsAliases
          ? '✓ The cutoff is below half the sampling rate: faster interference is attenuated before it can alias.'
          : `≈ The cutoff is above half the sampling rate (${printNominal(rateHz / 2)} Hz): faster interference will alias at full strength.`}
      </p>
      {switched && (
        <p className={`text-sm ${rc.settles ? 'text-success' : 'text-error'}`}>
          {rc.settles
            ? '✓ Settles within one reading.'
            : '✕ Does not settle within one reading: the previous channel leaks into this reading. Use a smaller resistor or capacitor.'}
        </p>
      )}
    </section>
  );
}
