import { useState } from 'react';
import type { OwnPart, Part, PartIssue } from '@lucky-needle/core/model';
import { partFromCells, partQuestion, partToCells } from '@lucky-needle/core/plan';
import { UNITS, type UnitId } from '@lucky-needle/core/units';
import { useAddPartMutation, useReplacePartMutation } from '../../api/shelfApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { useAppDispatch } from '../../app/store.ts';
import { toastShown } from '../../app/toasts.ts';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { fieldGroups, type PartField } from './partFields.ts';

interface Props {
  /** What the form starts from. */
  readonly start: Part;
  /** The part of one's own that is changed; null for a new one. */
  readonly own: OwnPart | null;
  onDone(): void;
}

/** A form for a part of one's own: every field of its kind, checked as a row of an imported file is. */
export function PartForm({ start, own, onDone }: Props) {
  const [cells, setCells] = useState(() => partToCells(start));
  const [tried, setTried] = useState(false);
  const [add, adding] = useAddPartMutation();
  const [replace, replacing] = useReplacePartMutation();
  const dispatch = useAppDispatch();
  const told = partFromCells(cells);
  const issues: PartIssue[] = Array.isArray(told) ? told : [];
  const part = Array.isArray(told) ? null : told;
  const question = part && partQuestion(part);
  const set = (name: string, value: string) => setCells((now) => ({ ...now, [name]: value }));

  const save = async () => {
    setTried(true);
    if (!part) return;
    const result = own ? await replace({ part, version: own.version }) : await add(part);
    if (result.error) return;
    dispatch(toastShown({ text: `${part.title} saved to the shelf.`, tone: 'done' }));
    onDone();
  };

  return (
    <form
      className="panel grid gap-4"
      aria-label={own ? `Edit ${start.title}` : 'New part'}
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        void save();
      }}
    >
      <header className="flex items-baseline justify-between gap-3">
        <h2 className="section-title">{own ? own.part.title : 'New custom part'}</h2>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onDone}>
          Close
        </button>
      </header>
      <ProblemNote problem={problemOf(adding.error ?? replacing.error)} />
      {fieldGroups(start.kind, cells['signal']).map((group) => (
        <fieldset key={group.title}>
          <legend className="section-title mb-2">{group.title}</legend>
          <div className="grid gap-3 sm:grid-cols-2">
            {group.fields.map((field) => (
              <PartInput
                key={field.name}
                field={unitOfOwn(field, cells)}
                value={cells[field.name] ?? ''}
                fixed={own !== null && field.name === 'id'}
                message={tried ? issues.find((i) => i.field === field.name)?.message : undefined}
                onChange={(value) => set(field.name, value)}
              />
            ))}
          </div>
        </fieldset>
      ))}
      {question && (
        <p role="status" className="rounded-box border border-warning/60 bg-warning/8 p-3 text-sm">
          {question}
        </p>
      )}
      {tried && issues.length > 0 && (
        <p role="alert" className="text-sm text-error">
          {issues.map((i) => i.message).join(' ')}
        </p>
      )}
      <button
        className="btn btn-primary btn-sm justify-self-start"
        disabled={adding.isLoading || replacing.isLoading}
      >
        Save part
      </button>
    </form>
  );
}

/** Figures of a sensor are in its own unit. */
const IN_OWN_UNIT = ['low', 'high', 'step', 'noise', 'accuracyFixed', 'afterTrueUp', 'baseline'];

function unitOfOwn(field: PartField, cells: Record<string, string>): PartField {
  const unit = cells['unit'] as UnitId | undefined;
  if (!unit || !IN_OWN_UNIT.includes(field.name) || !UNITS[unit]) return field;
  return { ...field, unit: UNITS[unit].symbol };
}

interface InputProps {
  readonly field: PartField;
  readonly value: string;
  readonly fixed: boolean;
  readonly message: string | undefined;
  onChange(value: string): void;
}

function PartInput({ field, value, fixed, message, onChange }: InputProps) {
  const { input, choices, unit } = field;
  const wide = field.name === 'summary' || field.name === 'title' || input === 'list';
  return (
    <label className={`block ${wide ? 'sm:col-span-2' : ''}`}>
      <span className="muted mb-1 block text-xs">
        {field.label}
        {unit && `, ${unit}`}
      </span>
      {input === 'choice' || input === 'yes-no' ? (
        <select
          className="select select-sm w-full"
          value={value}
          aria-invalid={message !== undefined}
          onChange={(e) => onChange(e.target.value)}
        >
          {(choices ?? ['yes', 'no']).map((c) => (
            <option key={c} value={c}>
              {field.name === 'unit' || field.name === 'valueUnit'
                ? `${UNITS[c as UnitId].symbol || '1'} (${UNITS[c as UnitId].name})`
                : field.wordOf(c)}
            </option>
          ))}
        </select>
      ) : (
        <input
          className={`input input-sm w-full ${input === 'number' ? 'num' : ''} ${message ? 'input-error' : ''}`}
          inputMode={input === 'number' ? 'decimal' : 'text'}
          autoComplete="off"
          value={value}
          readOnly={fixed}
          aria-invalid={message !== undefined}
          onChange={(e) => onChange(e.target.value)}
        />
      )}
      {message ? (
        <span className="mt-1 block text-xs text-error">{message}</span>
      ) : fixed ? (
        <span className="muted mt-1 block text-xs">The id can’t be changed.</span>
      ) : (
        input === 'list' && (
          <span className="muted mt-1 block text-xs">
            {choices ? `Any of: ${choices.join(', ')}` : listHint(field.name)}. Separate with semicolons.
          </span>
        )
      )}
    </label>
  );
}

const listHint = (name: string) =>
  name === 'pins'
    ? 'Pins and their functions, e.g. “A4: analog digital i2c-data”; add “!console” to reserve a pin'
    : 'Numbers from 3 to 119, the current address first';
