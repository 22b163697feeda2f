import { Link as RouterLink } from 'react-router';
import type { Gadget, Link } from '@lucky-needle/core/model';
import { TEMPLATES } from '@lucky-needle/core/plan';
import { printWithUncertainty } from '@lucky-needle/core/units';
import { useMakeLinkMutation, usePatchLinkMutation } from '../api/linkApi.ts';
import { problemOf } from '../api/problemOf.ts';
import { useLiveOf } from '../live/useLive.ts';
import { ProblemNote } from './ProblemNote.tsx';

/** The link of the gadget. A simulated one can be moved between baths, hurried and unplugged. */
export function LinkCard({ gadget, link }: { gadget: Gadget; link: Link | null }) {
  const [make, { isLoading, error }] = useMakeLinkMutation();
  const [patch, patching] = usePatchLinkMutation();
  const status = useLiveOf((live) => live.status);
  if (!link) {
    const simulated = TEMPLATES.some((t) => t.id === gadget.template && t.family !== null);
    return (
      <section className="panel grid gap-2">
        <h2>Link</h2>
        <p className="muted text-sm">
          {simulated
            ? 'No board is linked. A simulated gadget sends raw counts like a real one, including errors that only calibration can find.'
            : 'No board is linked yet.'}
        </p>
        <ProblemNote problem={problemOf(error)} />
        {simulated && (
          <button
            type="button"
            className="btn btn-primary btn-sm justify-self-start"
            disabled={isLoading}
            onClick={() =>
              void make({ gadgetId: gadget.id, body: { settings: { kind: 'simulated' }, mapping: null } })
            }
          >
            Use a simulated gadget
          </button>
        )}
        <RouterLink className="link text-sm" to={`/g/${gadget.id}/link`}>
          {simulated ? 'Link a real gadget' : 'Set up a link'}
        </RouterLink>
      </section>
    );
  }
  if (link.kind !== 'simulated')
    return (
      <section className="panel grid gap-1">
        <h2 className="section-title">{link.name}</h2>
        <p className={`text-sm ${(status?.state ?? link.state) === 'up' ? 'text-success' : 'text-error'}`}>
          {(status?.state ?? link.state) === 'up' ? '● receiving readings' : '✕ no readings'}
        </p>
        {status?.problem && <p className="text-sm text-warning">{status.problem}</p>}
        <RouterLink className="link text-sm" to={`/g/${gadget.id}/link`}>
          Link status and line format
        </RouterLink>
      </section>
    );
  const send = (change: Parameters<typeof patch>[0]['patch']) =>
    void patch({ gadgetId: gadget.id, patch: change });
  const unplugged = (status?.state ?? link.state) === 'unplugged';
  return (
    <section className="panel grid gap-3">
      <div>
        <h2 className="section-title">Simulated gadget</h2>
        <p className="muted text-xs">Simulated sensors, real calculations</p>
      </div>
      <ProblemNote problem={problemOf(patching.error)} />
      <div role="group" aria-label="Simulated condition" className="flex flex-wrap gap-1">
        {link.conditions.map((c) => (
          <button
            key={c.id}
            type="button"
            aria-pressed={link.condition === c.id}
            className={`btn btn-xs ${link.condition === c.id ? 'bg-base-content text-base-100' : ''}`}
            onClick={() => send({ condition: c.id })}
          >
            {c.title}
          </button>
        ))}
      </div>
      {status && (
        <dl className="grid gap-1 text-sm">
          {status.instruments.map((i) => {
            const told = printWithUncertainty(i.value, i.uncertainty, i.unit);
            return (
              <div key={i.title} className="flex flex-wrap justify-between gap-x-3">
                <dt className="muted">{i.title}</dt>
                <dd className="num ml-auto whitespace-nowrap">
                  {told.value} <span className="muted">±{told.uncertainty}</span> {told.symbol}
                </dd>
              </div>
            );
          })}
        </dl>
      )}
      <div className="flex flex-wrap items-center gap-2 text-sm">
        <span className="muted">Speed</span>
        {[1, 5, 20].map((speed) => (
          <button
            key={speed}
            type="button"
            aria-pressed={link.speed === speed}
            className={`btn btn-xs ${link.speed === speed ? 'bg-base-content text-base-100' : ''}`}
            onClick={() => send({ speed })}
          >
            ×{speed}
          </button>
        ))}
        <button type="button" className="btn btn-xs ml-auto" onClick={() => send({ plugged: unplugged })}>
          {unplugged ? 'Plug in' : 'Unplug'}
        </button>
      </div>
    </section>
  );
}
