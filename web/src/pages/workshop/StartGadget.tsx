import { useState } from 'react';
import { useNavigate } from 'react-router';
import { TEMPLATES } from '@lucky-needle/core/plan';
import { useCreateGadgetMutation } from '../../api/gadgetApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';

/** A new gadget from a template, or from an empty brief. */
export function StartGadget() {
  const [create, { isLoading, error }] = useCreateGadgetMutation();
  const [name, setName] = useState('');
  const [template, setTemplate] = useState(TEMPLATES[0]!.id);
  const navigate = useNavigate();
  return (
    <form
      className="panel grid gap-3"
      onSubmit={async (event) => {
        event.preventDefault();
        const result = await create({ name: name.trim(), template });
        if (result.data) await navigate(`/g/${result.data.id}/brief`);
      }}
    >
      <h2>New gadget</h2>
      <label className="grid gap-1">
        <span className="muted text-xs">Name</span>
        <input
          className="input input-sm w-full"
          value={name}
          maxLength={80}
          required
          placeholder="Greenhouse probes"
          onChange={(e) => setName(e.target.value)}
        />
      </label>
      <fieldset className="grid max-h-104 gap-1 overflow-y-auto">
        <legend className="muted mb-1 text-xs">Template</legend>
        {TEMPLATES.map((t) => (
          <label
            key={t.id}
            className="flex cursor-pointer items-start gap-3 rounded-box border border-base-300 px-3 py-2 has-checked:border-primary"
          >
            <input
              type="radio"
              name="template"
              className="radio radio-sm radio-primary mt-0.5"
              checked={template === t.id}
              onChange={() => setTemplate(t.id)}
            />
            <span>
              <span className="block text-sm font-semibold">{t.title}</span>
              <span className="muted block text-xs">{t.summary}</span>
            </span>
          </label>
        ))}
      </fieldset>
      <ProblemNote problem={problemOf(error)} />
      <button
        className="btn btn-primary btn-sm justify-self-start"
        disabled={isLoading || name.trim() === ''}
      >
        Create gadget
      </button>
    </form>
  );
}
