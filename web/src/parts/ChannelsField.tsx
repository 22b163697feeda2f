import { idsIn } from '@lucky-needle/core/line';

interface Props {
  readonly label: string;
  /** Ids of the chosen ones, with a space between. */
  readonly value: string;
  readonly others: readonly { readonly id: string; readonly name: string }[];
  /** Of one, choosing another takes its place. */
  readonly most: number;
  onChange(value: string): void;
}

/** Other channels that are chosen by their names. */
export function ChannelsField({ label, value, others, most, onChange }: Props) {
  const ids = idsIn(value);
  const gone = ids.filter((id) => !others.some((o) => o.id === id));
  // As the gadget has them: numbers for each stand in the same order.
  const inOrder = (chosen: readonly string[]) => [
    ...others.map((o) => o.id).filter((id) => chosen.includes(id)),
    ...gone.filter((id) => chosen.includes(id)),
  ];
  return (
    <fieldset className="sm:col-span-2">
      <legend className="muted mb-1 text-xs">{label}</legend>
      {others.length === 0 && <p className="text-sm">This gadget has no other channels.</p>}
      <div className="flex flex-wrap gap-x-4 gap-y-1">
        {[...others, ...gone.map((id) => ({ id, name: `“${id}” (deleted)` }))].map(({ id, name }) => (
          <label key={id} className="flex items-center gap-2 text-sm">
            <input
              type="checkbox"
              className="checkbox checkbox-sm"
              checked={ids.includes(id)}
              onChange={(e) =>
                onChange(
                  inOrder(
                    e.target.checked ? [...(most === 1 ? [] : ids), id] : ids.filter((o) => o !== id),
                  ).join(' '),
                )
              }
            />
            {name}
          </label>
        ))}
      </div>
    </fieldset>
  );
}
