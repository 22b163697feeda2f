import { useEffect, useState } from 'react';
import type { ParamValue, Study, StudyBody } from '@lucky-needle/core/model';
import { rawColumns } from '@lucky-needle/core/plan';
import type { StudyKind } from '@lucky-needle/core/study';
import { UNITS, type UnitId } from '@lucky-needle/core/units';
import { useBench } from '../../../app/useBench.ts';
import { ParamFields } from '../../../parts/ParamFields.tsx';

type Told = Pick<StudyBody, 'title' | 'by' | 'place' | 'settings'>;

interface Props {
  readonly study: Study;
  readonly kind: StudyKind;
  readonly unit: UnitId;
  readonly busy: boolean;
  onKeep(change: Told): void;
}

/** What the maker says about a study: its limits, what references are good to, who did it and where. */
export function StudySettings({ study, kind, unit, busy, onKeep }: Props) {
  const { gadget } = useBench();
  const kept: Told = { title: study.title, by: study.by, place: study.place, settings: study.settings };
  const [told, setTold] = useState(kept);
  const key = JSON.stringify(kept);
  // What another page has kept since is taken over; what is typed here and not kept goes on when the rest is the same.
  useEffect(() => setTold(JSON.parse(key) as Told), [key]);
  const isChanged = JSON.stringify(told) !== key;
  const set = (name: string, value: ParamValue) =>
    setTold((now) => ({ ...now, settings: { ...now.settings, [name]: value } }));
  const text = (name: 'title' | 'by' | 'place', label: string) => (
    <label className="block">
      <span className="muted mb-1 block text-xs">{label}</span>
      <input
        className="input input-sm w-full"
        maxLength={80}
        value={told[name]}
        onChange={(e) => setTold({ ...told, [name]: e.target.value })}
      />
    </label>
  );
  const isHeld = kind.takes === 'held';
  return (
    <form
      className="no-print grid gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (told.title.trim() !== '') onKeep(told);
      }}
    >
      <div className="grid gap-3 sm:grid-cols-2">
        {isHeld && (
          <label className="block">
            <span className="muted mb-1 block text-xs">Column held constant</span>
            <select
              className="select select-sm w-full"
              value={String(told.settings['column'] ?? '')}
              onChange={(e) => set('column', e.target.value)}
            >
              <option value="">choose…</option>
              {rawColumns(gadget).map((name) => (
                <option key={name}>{name}</option>
              ))}
            </select>
          </label>
        )}
        <ParamFields
          schema={
            isHeld
              ? { ...kind.settings, properties: { value: kind.settings.properties['value']! } }
              : kind.settings
          }
          values={told.settings}
          unitOf={(name) => (kind.inUnit.includes(name) ? UNITS[unit].symbol : undefined)}
          onChange={set}
        />
        {text('title', 'Title')}
        {text('by', 'Done by')}
        {text('place', 'Place')}
      </div>
      <button type="submit" className="btn btn-sm justify-self-start" disabled={busy || !isChanged}>
        Save settings
      </button>
    </form>
  );
}
