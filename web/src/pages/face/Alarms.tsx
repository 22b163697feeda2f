import { useState } from 'react';
import { outputsOf } from '@lucky-needle/core/alarm';
import { proposedAlarms } from '@lucky-needle/core/plan';
import type { AlarmRule, Gadget } from '@lucky-needle/core/model';
import { useBench } from '../../app/useBench.ts';
import { useLive } from '../../live/useLive.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { useSaveGadget } from '../../parts/useSaveGadget.ts';
import { AlarmBanner } from './AlarmBanner.tsx';
import { AlarmEditor } from './AlarmEditor.tsx';
import { AlarmList } from './AlarmList.tsx';
import { AlarmTrialCard } from './AlarmTrialCard.tsx';
import { useNotices } from './useNotices.ts';
import { useSounder } from './useSounder.ts';

/** The gadget's alarms as the server runs them, page or no page: how they stand, and what they are. */
export function Alarms() {
  const { gadget, link, recordings } = useBench();
  const { alarms, connected } = useLive();
  const { save, saving, problem } = useSaveGadget(gadget);
  const [editing, setEditing] = useState<AlarmRule | null>(null);
  const rules = gadget.alarms ?? [];
  const unknown = !link
    ? 'No link: connect the gadget.'
    : !connected
      ? 'The server is not responding.'
      : null;
  const keep = async (next: readonly AlarmRule[], text: string) => {
    if (await save({ alarms: [...next] }, text)) setEditing(null);
  };
  const [isHeard, setHeard] = useState(false);
  const { sounder } = outputsOf(rules, alarms?.items ?? []);
  useSounder(isHeard && unknown === null && sounder !== 'none' ? sounder : null);
  const [isTold, setTold] = useState(false);
  const notices = useNotices(isTold, gadget.name, rules, unknown === null ? alarms : null);
  const isNew = editing !== null && !rules.some((r) => r.id === editing.id);
  return (
    <div className="grid gap-3">
      <AlarmBanner gadgetId={gadget.id} rules={rules} alarms={alarms} unknown={unknown} />
      {rules.length > 0 && (
        <div className="grid gap-2 text-sm">
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={isHeard}
              onChange={(e) => setHeard(e.target.checked)}
            />
            Also sound alarms in this tab while it is open
          </label>
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={isTold}
              disabled={notices.state === 'unsupported' || notices.state === 'denied'}
              onChange={async (e) => setTold(e.target.checked && (await notices.ask()))}
            />
            Also show notifications on this computer, even when another window is in front
          </label>
          {(notices.state === 'unsupported' || notices.state === 'denied') && (
            <p className="muted text-xs">
              {notices.state === 'denied'
                ? 'Notifications are blocked for this site. Allow them in the browser settings.'
                : 'Notifications need https, or the page opened on the server’s own computer.'}
            </p>
          )}
        </div>
      )}
      <ProblemNote problem={problem} />
      {rules.length === 0 && (
        <div className="panel flex flex-wrap items-center gap-3">
          <p className="grow text-sm">
            Suggested alarms from the brief and the type of gadget, each with a reason for its level. Review
            each one before you rely on it.
          </p>
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={saving}
            onClick={() => void keep(proposedAlarms(gadget), 'Alarms added.')}
          >
            Add suggested alarms
          </button>
        </div>
      )}
      <AlarmList
        gadgetId={gadget.id}
        rules={rules}
        alarms={alarms}
        unknown={unknown}
        editing={editing?.id ?? null}
        onEdit={(id) => setEditing(editing?.id === id ? null : rules.find((r) => r.id === id)!)}
      />
      {editing ? (
        <AlarmEditor
          key={`${editing.id} ${editing.limit}`}
          gadget={gadget}
          rule={editing}
          saving={saving}
          onSave={(rule) =>
            void keep(
              isNew ? [...rules, rule] : rules.map((r) => (r.id === rule.id ? rule : r)),
              `Alarm “${rule.name}” saved.`,
            )
          }
          onRemove={() =>
            isNew
              ? setEditing(null)
              : void keep(
                  rules.filter((r) => r.id !== editing.id),
                  `Alarm “${editing.name}” deleted.`,
                )
          }
          onCancel={() => setEditing(null)}
        />
      ) : (
        <button
          type="button"
          className="btn btn-sm justify-self-start"
          onClick={() => setEditing(blank(gadget))}
        >
          Add an alarm
        </button>
      )}
      {rules.length > 0 && (
        <AlarmTrialCard
          rules={rules}
          channels={gadget.channels}
          recordings={recordings}
          onLevel={(rule, limit) => setEditing({ ...rule, limit, caution: cautionBefore(rule, limit) })}
        />
      )}
    </div>
  );
}

/** A caution that still comes before another limit; none where it would not. */
function cautionBefore({ kind, caution }: AlarmRule, limit: number): number | null {
  if (caution === null) return null;
  return (kind === 'low' ? caution > limit : caution < limit) ? caution : null;
}

/** A rule to begin with: nothing heard, which every gadget can have. */
function blank(gadget: Gadget): AlarmRule {
  const silent = proposedAlarms(gadget).at(-1)!;
  const used = new Set((gadget.alarms ?? []).map((r) => r.id));
  let n = 1;
  while (used.has(`alarm-${n}`)) n++;
  return { ...silent, id: `alarm-${n}`, name: `Alarm ${n}`, why: '' };
}
