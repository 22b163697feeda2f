import { useMemo } from 'react';
import { busPlan } from '@lucky-needle/core/plan';
import { printNominal } from '@lucky-needle/core/units';
import { NumberField } from '../../parts/NumberField.tsx';
import type { HookupTabProps } from './tabProps.ts';

const hex = (address: number) => `0x${address.toString(16).toUpperCase().padStart(2, '0')}`;
const kohm = (ohm: number) => `${printNominal(ohm / 1e3, 2)} kΩ`;

/** The two-wire bus: addresses, clashes, pull-ups and load; and every crossing of voltage levels. */
export function BusTab({ plan, saveHookup }: HookupTabProps) {
  const bus = useMemo(() => busPlan(plan), [plan]);
  const { busClockHz, busCapacitanceF } = plan.hookup;
  return (
    <div className="grid gap-4">
      <section className="panel" aria-label="I2C bus">
        <h2>I2C bus</h2>
        {bus.devices.length === 0 ? (
          <p className="muted mt-1 text-sm">No picked part uses this bus.</p>
        ) : (
          <>
            <div className="mt-2 overflow-x-auto">
              <table className="table-sm table">
                <thead>
                  <tr>
                    <th className="pl-0">Part</th>
                    <th>Address</th>
                    <th>Possible addresses</th>
                    <th className="text-right">Bits per reading</th>
                    <th className="text-right">Readings/s</th>
                    <th className="text-right">Bus load</th>
                  </tr>
                </thead>
                <tbody>
                  {bus.devices.map((d) => {
                    const seat = bus.addresses.addresses.find((a) => a.title === d.title);
                    return (
                      <tr key={d.id}>
                        <th scope="row" className="pl-0 text-base-content">
                          {d.title}
                        </th>
                        <td className={`num font-semibold ${seat ? '' : 'text-error'}`}>
                          {seat ? hex(seat.address) : 'none free'}
                          {seat?.changed && (
                            <span className="font-sans text-xs text-warning">
                              {' '}
                              (set the part to this address)
                            </span>
                          )}
                        </td>
                        <td className="num muted">{d.addresses.map(hex).join(' ')}</td>
                        <td className="num text-right">{d.bitsPerReading}</td>
                        <td className="num text-right">{printNominal(d.readingsPerS, 2)}</td>
                        <td className="num text-right">
                          {printNominal((100 * d.bitsPerReading * d.readingsPerS) / busClockHz, 2)} %
                        </td>
                      </tr>
                    );
                  })}
                </tbody>
              </table>
            </div>
            {bus.addresses.clashes.map((text) => (
              <p key={text} role="alert" className="mt-2 text-sm text-error">
                ✕ {text}
              </p>
            ))}
            {bus.addresses.clashes.length === 0 && (
              <p className="mt-2 text-sm text-success">✓ Every part has a unique address.</p>
            )}
            <p className={`mt-1 text-sm ${bus.load.state === 'fail' ? 'text-error' : ''}`}>
              {bus.load.state === 'fail' ? '✕ ' : '✓ '}
              {bus.load.sentence}
            </p>
          </>
        )}
      </section>
      <section className="panel grid gap-3" aria-label="Pull-ups">
        <h2 className="section-title">Pull-ups</h2>
        <div className="grid gap-3 sm:grid-cols-2">
          <NumberField
            label="Clock"
            unit="kHz"
            value={busClockHz / 1e3}
            check={(v) => (v >= 1 && v <= 5000 ? null : 'Enter 1 to 5000 kHz.')}
            onChange={(v) => saveHookup({ busClockHz: v * 1e3 }, 'Clock saved.')}
          />
          <NumberField
            label="Bus capacitance (wires and parts)"
            unit="pF"
            value={Math.round(busCapacitanceF * 1e12)}
            hint="About 10 pF per part plus 100 pF per metre of cable."
            check={(v) => (v > 0 && v <= 1e6 ? null : 'Enter a value above 0 pF.')}
            onChange={(v) => saveHookup({ busCapacitanceF: v * 1e-12 }, 'Capacitance saved.')}
          />
        </div>
        {bus.pullUp.problem ? (
          <p role="alert" className="text-sm text-error">
            ✕ {bus.pullUp.problem}
          </p>
        ) : (
          <p className="text-sm">
            <span className="num font-semibold">{kohm(bus.pullUp.suggestedOhm!)}</span> on each line. Any
            value from <span className="num">{kohm(bus.pullUp.lowestOhm)}</span> (below that, a part cannot
            pull the line low) to <span className="num">{kohm(bus.pullUp.highestOhm)}</span> (above that, the
            line rises too slowly) works. Many modules have pull-ups of their own; these count in parallel.
          </p>
        )}
      </section>
      <section className="panel" aria-label="Logic levels">
        <h2>Mixing 3.3 V and 5 V</h2>
        {bus.crossings.length === 0 ? (
          <p className="mt-1 text-sm text-success">✓ All logic levels match.</p>
        ) : (
          <ul className="mt-2 grid gap-2 text-sm">
            {bus.crossings.map((c) => (
              <li key={c.sentence} className="flex gap-2">
                <span
                  className={`font-bold ${c.kind === 'harm' ? 'text-error' : 'text-warning'}`}
                  aria-hidden
                >
                  {c.kind === 'harm' ? '✕' : '≈'}
                </span>
                <span>{c.sentence}</span>
              </li>
            ))}
          </ul>
        )}
      </section>
    </div>
  );
}
