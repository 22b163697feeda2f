import { Plus } from 'lucide-react';
import { useState } from 'react';
import type { StageKind } from '@lucky-needle/core/line';
import { UNITS, type UnitId } from '@lucky-needle/core/units';

interface Props {
  /** Kinds that fit the units there. */
  readonly kinds: readonly StageKind[];
  readonly units: readonly UnitId[];
  /** Title of the stage that the new one comes behind. */
  readonly behind: string;
  onAdd(kind: string): void;
}

const ROLES = [
  ['conversion', 'Conversions'],
  ['calibration', 'Corrections'],
  ['filter', 'Filters'],
] as const;

/** A list of the stages that fit the units at one point of the line, to be searched by name or by what it does. */
export function StagePicker({ kinds, units, behind, onAdd }: Props) {
  const [open, setOpen] = useState(false);
  const [wanted, setWanted] = useState('');
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean);
  const titled = (k: StageKind) => words.every((w) => k.title.toLowerCase().includes(w));
  // What is called so comes before what only does something of the kind.
  const found = kinds
    .filter((k) => words.every((w) => `${k.title} ${k.summary} ${k.kind}`.toLowerCase().includes(w)))
    .sort((a, b) => Number(titled(b)) - Number(titled(a)));
  const add = (kind: string) => {
    setOpen(false);
    setWanted('');
    onAdd(kind);
  };
  if (!open)
    return (
      <button type="button" className="btn btn-sm justify-self-start" onClick={() => setOpen(true)}>
        <Plus className="size-4" aria-hidden /> Add a stage after {behind}
      </button>
    );
  return (
    <section className="panel grid gap-2 p-3" aria-label="Matching stages">
      <div className="flex items-center gap-2">
        <input
          autoFocus
          type="search"
          className="input input-sm grow"
          aria-label="Search stages"
          placeholder={`Stages for ${units.map((u) => UNITS[u].name).join(', ')}`}
          value={wanted}
          onChange={(e) => setWanted(e.target.value)}
          onKeyDown={(e) => {
            if (e.key === 'Escape') setOpen(false);
            if (e.key === 'Enter' && found[0]) add(found[0].kind);
          }}
        />
        <button type="button" className="btn btn-ghost btn-sm" onClick={() => setOpen(false)}>
          Close
        </button>
      </div>
      {found.length === 0 && (
        <p className="muted text-sm">
          {kinds.length === 0 ? 'No stage accepts these units.' : 'No matching stage found.'}
        </p>
      )}
      <div className="max-h-80 overflow-y-auto">
        {ROLES.map(([role, title]) => {
          const own = found.filter((k) => k.role === role);
          if (own.length === 0) return null;
          return (
            <div key={role}>
              <p className="muted px-1 pt-1 text-xs">{title}</p>
              <ul>
                {own.map((k) => (
                  <li key={k.kind}>
                    <button
                      type="button"
                      className="w-full rounded-field px-2 py-1 text-left hover:bg-base-200"
                      onClick={() => add(k.kind)}
                    >
                      <span className="text-sm font-medium">{k.title}</span>
                      <span className="muted block text-xs">{k.summary}</span>
                    </button>
                  </li>
                ))}
              </ul>
            </div>
          );
        })}
      </div>
    </section>
  );
}
