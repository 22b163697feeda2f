import type { Gadget, Pick } from '@lucky-needle/core/model';
import { withSensorLines, type GadgetPlan } from '@lucky-needle/core/plan';
import { useSaveGadget } from '../../parts/useSaveGadget.ts';

interface PresentProps {
  readonly plan: GadgetPlan;
  readonly gadget: Gadget;
  readonly slot: string;
  readonly pick: Pick | null;
  readonly reason: string;
  onReason(reason: string): void;
}

/** What stands in the slot now, why, and what of the line still belongs to another part. */
export function PresentPick({ plan, gadget, slot, pick, reason, onReason }: PresentProps) {
  const { save, saving } = useSaveGadget(gadget);
  const part = plan.parts.find((p) => p.id === pick?.partId);
  const converter = plan.parts.find((p) => p.id === pick?.converterId);
  const othersOf = ({ picks }: Gadget) => picks.filter((k) => k.slot !== slot);
  return (
    <section className="panel grid gap-3" aria-label="Picked">
      <h2 className="section-title">Picked</h2>
      <p className="text-sm">
        {pick ? (
          <>
            <strong>{part?.title ?? pick.partId}</strong>
            {pick.converterId && <> with {converter?.title ?? pick.converterId}</>}
          </>
        ) : (
          <span className="muted">Nothing picked yet.</span>
        )}
      </p>
      <label className="block text-sm">
        <span className="muted mb-1 block text-xs">Reason (saved in the logbook)</span>
        <textarea
          className="textarea textarea-sm w-full"
          rows={3}
          maxLength={2000}
          value={reason}
          onChange={(e) => onReason(e.target.value)}
          placeholder="Why you chose it, and what you rejected"
        />
      </label>
      {pick && (
        <div className="flex flex-wrap gap-2">
          <button
            type="button"
            className="btn btn-sm"
            disabled={saving || reason.trim() === pick.reason}
            onClick={() =>
              void save(
                (newest) => ({ picks: [...othersOf(newest), { ...pick, reason: reason.trim() }] }),
                'Reason saved.',
              )
            }
          >
            Save reason
          </button>
          <button
            type="button"
            className="btn btn-ghost btn-sm"
            disabled={saving}
            onClick={() => void save((newest) => ({ picks: othersOf(newest) }), 'Pick removed.')}
          >
            Remove pick
          </button>
        </div>
      )}
      {pick && part?.kind === 'sensor' && (
        <div className="border-t border-base-300 pt-3">
          <p className="muted text-xs">
            Your line has not been changed. To start over with this sensor’s datasheet constants:
          </p>
          <button
            type="button"
            className="btn btn-ghost btn-xs mt-1"
            disabled={saving}
            onClick={() =>
              void save({ channels: withSensorLines(plan, slot) }, 'Line replaced with this sensor’s line.')
            }
          >
            Use this sensor’s line
          </button>
        </div>
      )}
    </section>
  );
}
