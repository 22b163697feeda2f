import type { Link } from '@lucky-needle/core/model';
import { usePatchLinkMutation } from '../api/linkApi.ts';

interface Props {
  readonly gadgetId: string;
  readonly link: Link | null;
}

/** What happens to a simulated gadget: chosen beside what is being measured. Nothing for a real one. */
export function SimulatedCondition({ gadgetId, link }: Props) {
  const [patch] = usePatchLinkMutation();
  if (!link || link.conditions.length === 0) return null;
  return (
    <label className="flex items-center gap-2 text-sm">
      <span className="muted shrink-0">Simulated condition</span>
      <select
        className="select select-xs w-auto max-w-56 min-w-0 grow"
        value={link.condition ?? ''}
        onChange={(e) => void patch({ gadgetId, patch: { condition: e.target.value } })}
      >
        {link.conditions.map((c) => (
          <option key={c.id} value={c.id}>
            {c.title}
          </option>
        ))}
      </select>
    </label>
  );
}
