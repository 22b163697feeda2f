import type { Gadget, Link, LinkFaults } from '@lucky-needle/core/model';
import { rawColumns } from '@lucky-needle/core/plan';
import { usePatchLinkMutation } from '../../api/linkApi.ts';

/** Faults of a simulated gadget, to see what the bench makes of them. */
export function FaultsCard({ gadget, link }: { gadget: Gadget; link: Link }) {
  const [patch] = usePatchLinkMutation();
  const { faults } = link;
  if (!faults) return null;
  const columns = rawColumns(gadget);
  const set = (change: Partial<LinkFaults>) =>
    void patch({ gadgetId: gadget.id, patch: { faults: { ...faults, ...change } } });
  const toggle = (label: string, on: boolean, change: Partial<LinkFaults>) => (
    <label className="flex cursor-pointer items-center gap-2 text-sm">
      <input type="checkbox" className="toggle toggle-sm" checked={on} onChange={() => set(change)} />
      {label}
    </label>
  );
  return (
    <section className="panel grid gap-2" aria-label="Simulate a fault">
      <h2 className="section-title">Simulate a fault</h2>
      <p className="muted text-xs">See how Lucky Needle handles it. These settings are not saved.</p>
      {toggle('Drop one reading in ten', faults.dropOuts > 0, {
        dropOuts: faults.dropOuts > 0 ? 0 : 0.1,
      })}
      {toggle('Replace one line in twenty with noise', faults.noise > 0, {
        noise: faults.noise > 0 ? 0 : 0.05,
      })}
      {toggle(`Freeze ${columns[0]}`, faults.stuck !== null, {
        stuck: faults.stuck === null ? columns[0]! : null,
      })}
    </section>
  );
}
