interface Props {
  readonly label: string;
  readonly value: string;
  readonly options: readonly (readonly [id: string, name: string])[];
  onChange(id: string): void;
}

/** One of a few, with its label above. */
export function Choice({ label, value, options, onChange }: Props) {
  return (
    <label className="block">
      <span className="muted mb-1 block text-xs">{label}</span>
      <select
        className="select select-sm w-auto max-w-56"
        value={value}
        onChange={(e) => onChange(e.target.value)}
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
