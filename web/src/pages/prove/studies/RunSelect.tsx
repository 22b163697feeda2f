import type { Recording } from '@lucky-needle/core/model';

interface RunSelectProps {
  readonly label: string;
  readonly runs: readonly Recording[];
  readonly value: string;
  onChange(runId: string): void;
}

/** One of a gadget's runs, by its name. */
export function RunSelect({ label, runs, value, onChange }: RunSelectProps) {
  return (
    <select
      className="select select-sm w-auto max-w-56"
      aria-label={label}
      value={value}
      onChange={(e) => onChange(e.target.value)}
    >
      <option value="">choose…</option>
      {runs.map((r) => (
        <option key={r.id} value={r.id}>
          {r.name}
        </option>
      ))}
    </select>
  );
}
