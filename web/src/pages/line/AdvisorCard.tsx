import { useState } from 'react';
import { LEAST_READINGS, stageKind, type Advice, type FilterAdvice } from '@lucky-needle/core/line';
import { printNominal, UNITS, type UnitId } from '@lucky-needle/core/units';

interface Props {
  readonly unit: UnitId;
  /** Looks at the readings shown. */
  advise(): Promise<Advice | null>;
  /** Puts the chain in the place of the line's filters. */
  onTry(chain: FilterAdvice): void;
}

/** Filters proposed from the readings' spectrum and the brief, each with its reason and its price. */
export function AdvisorCard({ unit, advise, onTry }: Props) {
  const [advice, setAdvice] = useState<Advice | 'too few' | null>(null);
  const [looking, setLooking] = useState(false);
  const symbol = UNITS[unit].symbol;
  return (
    <section className="panel" aria-label="Filter advice">
      <header className="flex flex-wrap items-center gap-3">
        <h2 className="section-title grow">Filter advice</h2>
        <button
          type="button"
          className="btn btn-sm"
          disabled={looking}
          onClick={async () => {
            setLooking(true);
            setAdvice((await advise()) ?? 'too few');
            setLooking(false);
          }}
        >
          {looking ? 'Analysing…' : 'Analyse these readings'}
        </button>
      </header>
      {advice === null && (
        <p className="muted mt-1 text-sm">
          Finds spikes, hum, drift and noise, and suggests filters that can still follow the brief’s fastest
          change.
        </p>
      )}
      {advice === 'too few' && (
        <p className="mt-1 text-sm">
          {LEAST_READINGS} readings in the brief’s quantity are the minimum for a spectrum. Wait for more, or
          choose a longer section.
        </p>
      )}
      {advice !== null && advice !== 'too few' && (
        <>
          <ul className="mt-2 list-disc pl-5 text-sm">
            {advice.findings.map((f) => (
              <li key={f}>{f}</li>
            ))}
          </ul>
          {advice.chains.length === 0 ? (
            <p className="mt-2 text-sm text-success">✓ No filter is needed for this brief.</p>
          ) : (
            <div className="mt-3 grid gap-3 md:grid-cols-2">
              {advice.chains.map((chain) => (
                <article
                  key={chain.title}
                  className="rounded-box border border-base-300 p-3"
                  aria-label={chain.title}
                >
                  <h3 className="text-sm font-semibold">{chain.title}</h3>
                  <ol className="mt-1 list-decimal pl-5 text-sm">
                    {chain.stages.map((s) => (
                      <li key={s.kind}>
                        {stageKind(s.kind)!.title}: <span className="muted">{s.reason}</span>
                      </li>
                    ))}
                  </ol>
                  <p className="mt-2 text-sm">
                    Remaining noise{' '}
                    <span className="num font-semibold">{printNominal(chain.noiseLeft, 2)}</span> {symbol}{' '}
                    (SD), delay <span className="num font-semibold">{printNominal(chain.delayS, 2)}</span> s.{' '}
                    {chain.price}
                  </p>
                  <button type="button" className="btn btn-sm mt-2" onClick={() => onTry(chain)}>
                    Try this
                  </button>
                </article>
              ))}
            </div>
          )}
        </>
      )}
    </section>
  );
}
