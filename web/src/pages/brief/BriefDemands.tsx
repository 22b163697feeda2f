import { askedOfFigures, demandsOf, gadgetDemands, briefOfAsk, type Demand } from '@lucky-needle/core/plan';
import type { Gadget } from '@lucky-needle/core/model';
import { printSignificant } from '@lucky-needle/core/units';

/** What the brief asks of the parts, with the arithmetic on show. */
export function BriefDemands({ gadget }: { gadget: Pick<Gadget, 'brief' | 'channels' | 'place'> }) {
  const brief = gadget.brief!;
  return (
    <section className="panel">
      <h2>Requirements for the parts</h2>
      <DemandList demands={gadgetDemands(gadget)} />
      {brief.asks
        .filter((ask) => !isOfFigures(gadget, ask.id))
        .map((ask) => (
          <div key={ask.id}>
            {brief.asks.length > 1 && (
              <h3 className="mt-4 border-t border-base-300 pt-3 text-sm font-semibold">{ask.quantity}</h3>
            )}
            <DemandList demands={demandsOf(briefOfAsk(brief, ask))} />
          </div>
        ))}
    </section>
  );
}

/** What a figure answers asks nothing of the parts beyond what its channel asks. */
const isOfFigures = ({ channels }: Pick<Gadget, 'channels'>, askId: string) =>
  !channels.some((c) => c.askId === askId) && askedOfFigures(channels).has(askId);

function DemandList({ demands }: { demands: readonly Demand[] }) {
  return (
    <dl className="mt-3 grid gap-2.5">
      {demands.map((d) => (
        <div key={d.id}>
          <dt className="flex items-baseline justify-between gap-3">
            <span className="text-sm">{d.title}</span>
            <span className="num text-[0.95rem] font-semibold whitespace-nowrap">{figure(d)}</span>
          </dt>
          <dd className="muted text-xs">{d.arithmetic}</dd>
        </div>
      ))}
    </dl>
  );
}

function figure({ id, value, unit }: Demand): string {
  switch (id) {
    case 'inputs':
      return `${value} ${unit}`;
    case 'reference':
      return `±${printSignificant(value, 2)} ${unit}`;
    case 'boiling':
      return `${value.toFixed(1)} ${unit}`;
    case 'rate':
      return `${printSignificant(value, 2)}${unit}`;
    case 'endurance':
      return value < 0.1 ? `${printSignificant(value * 1e3, 2)} mA` : `${printSignificant(value, 2)} A`;
    case 'timing':
    case 'latency':
      return value < 1 ? `${printSignificant(value * 1e3, 2)} ms` : `${printSignificant(value, 2)} s`;
    default:
      return `${printSignificant(value, 2)} ${unit}`.trim();
  }
}
