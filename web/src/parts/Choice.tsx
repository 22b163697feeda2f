interface Props<Id extends string> {
  readonly label: string;
  readonly value: Id;
  readonly options: readonly (readonly [id: Id, name: string])[];
  /** As wide as its place, in a form of columns. */
  readonly wide?: boolean;
  onChange(id: Id): void;
}

/** One of a few, with its label above. */
export function Choice<Id extends string>({ label, value, options, wide = false, onChange }: Props<Id>) {
  return (
    <label className="block">
      <span className="muted mb-1 block text-xs">{label}</span>
      <select
        className={`select select-sm ${wide ? 'w-full' : 'w-auto max-w-56'}`}
        value={value}
        onChange={(e) => onChange(e.target.value as Id)}
      >
        {options.map(([id, name]) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
