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
  const unknown = !link ? 'no link: plug the gadget in' : !connected ? 'the bench does not answer' : null;
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
            Let this page sound as well, while it is open
          </label>
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={isTold}
              disabled={notices.state === 'unsupported' || notices.state === 'denied'}
              onChange={async (e) => setTold(e.target.checked && (await notices.ask()))}
            />
            Tell this computer as well, also while another window is in front
          </label>
          {(notices.state === 'unsupported' || notices.state === 'denied') && (
            <p className="muted text-xs">
              {notices.state === 'denied'
                ? 'The browser was told not to let this address give notices. Change that in its settings.'
                : 'This browser gives notices only from this computer itself, or over https.'}
            </p>
          )}
        </div>
      )}
      <ProblemNote problem={problem} />
      {rules.length === 0 && (
        <div className="panel flex flex-wrap items-center gap-3">
          <p className="grow text-sm">
            What the brief and this kind of gadget call for, with a reason for each level. Look at each before
            you trust it.
          </p>
          <button
            type="button"
            className="btn btn-primary btn-sm"
            disabled={saving}
            onClick={() => void keep(proposedAlarms(gadget), 'Alarms set.')}
          >
            Set the proposed alarms
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
              `Alarm “${rule.name}” kept.`,
            )
          }
          onRemove={() =>
            isNew
              ? setEditing(null)
              : void keep(
                  rules.filter((r) => r.id !== editing.id),
                  `Alarm “${editing.name}” taken away.`,
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
