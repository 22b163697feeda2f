import { typeboxResolver } from '@hookform/resolvers/typebox';
import { useEffect, useState, type ReactNode } from 'react';
import { useForm, useWatch, type FieldError } from 'react-hook-form';
import { SURROUNDINGS } from '@lucky-needle/core/model';
import { briefFaults, cautionsFor } from '@lucky-needle/core/plan';
import { DIMENSIONS, UNITS, unitsOf } from '@lucky-needle/core/units';
import { useBench } from '../../app/useBench.ts';
import { parseTyped } from '../../parts/NumberField.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { useSaveGadget } from '../../parts/useSaveGadget.ts';
import { BriefDemands } from './BriefDemands.tsx';
import { BriefForm, FASTEST, fromForm, toForm } from './briefForm.ts';

const resolver = typeboxResolver(BriefForm);
const number = { setValueAs: (v: unknown) => (typeof v === 'number' ? v : parseTyped(String(v))) };
const optionalNumber = {
  setValueAs: (v: unknown) =>
    v === null || v === '' ? null : typeof v === 'number' ? v : parseTyped(String(v)),
};

/** What a needle may show: everything but raw counts. */
const BRIEF_DIMENSIONS = Object.keys(DIMENSIONS).filter((d) => d !== 'count' && unitsOf(d).length > 0);

/** What the needle must show, how well, how fast, and where. */
export function BriefPage() {
  const bench = useBench();
  const { gadget } = bench;
  const { save, saving, problem, forget } = useSaveGadget(gadget);
  const form = useForm<BriefForm>({
    resolver: resolver as never,
    defaultValues: toForm(gadget),
    mode: 'onTouched',
  });
  const { register, handleSubmit, formState, reset, setError } = form;
  // What was typed outlives a change from another window, on the version it was typed on; a clean form follows along.
  const [edited, setEdited] = useState(gadget.version);
  useEffect(() => {
    if (formState.isDirty) return;
    reset(toForm(gadget));
    setEdited(gadget.version);
  }, [gadget, formState.isDirty, reset]);
  const now = { ...toForm(gadget), ...useWatch({ control: form.control }) };
  const symbol = UNITS[now.unit]?.symbol ?? '';
  const complete = [now.low, now.high, now.tolerance, now.fastestValue, now.elevationM].every((v) =>
    Number.isFinite(Number(v)),
  );
  const typed = complete
    ? fromForm({
        ...now,
        low: Number(now.low),
        high: Number(now.high),
        tolerance: Number(now.tolerance),
        fastestValue: Number(now.fastestValue),
        elevationM: Number(now.elevationM),
      })
    : null;
  const faults = typed && typed.brief.tolerance > 0 && typed.brief.fastest ? briefFaults(typed.brief) : [];
  const errors = formState.errors;
  const fault = (field: string) => faults.find((f) => f.field === field)?.message;

  const submit = handleSubmit(async (values) => {
    const next = fromForm(values);
    const [first] = briefFaults(next.brief);
    if (first) {
      setError(first.field as keyof BriefForm, { message: first.message }, { shouldFocus: true });
      return;
    }
    if (await save(next, 'Brief saved.', edited)) reset(values);
  });

  return (
    <>
      <PageHead title="Brief" subtitle="What the needle must show" />
      <div className="grid items-start gap-4 xl:grid-cols-[1fr_21rem]">
        <form className="panel grid gap-5" onSubmit={(event) => void submit(event)} noValidate>
          {problem && (
            <ProblemNote problem={problem}>
              {problem.code === 'stale-version' && (
                <button
                  type="button"
                  className="btn btn-sm mt-2"
                  onClick={() => {
                    setEdited(gadget.version);
                    forget();
                  }}
                >
                  Put mine on the newest version
                </button>
              )}
            </ProblemNote>
          )}
          <Group title="Quantity and range">
            <Field label="Quantity" error={errors.quantity}>
              <input className="input input-sm w-full" {...register('quantity')} />
            </Field>
            <Field label="Unit" error={errors.unit}>
              <select className="select select-sm w-full" {...register('unit')}>
                {BRIEF_DIMENSIONS.map((dimension) => (
                  <optgroup key={dimension} label={dimension}>
                    {unitsOf(dimension).map((u) => (
                      <option key={u} value={u}>
                        {UNITS[u].symbol ? `${UNITS[u].symbol} (${UNITS[u].name})` : UNITS[u].name}
                      </option>
                    ))}
                  </optgroup>
                ))}
              </select>
            </Field>
            <Field label={`Lowest, ${symbol}`} error={errors.low} fault={fault('low')}>
              <input className="input input-sm num w-full" inputMode="decimal" {...register('low', number)} />
            </Field>
            <Field label={`Highest, ${symbol}`} error={errors.high} fault={fault('high')}>
              <input
                className="input input-sm num w-full"
                inputMode="decimal"
                {...register('high', number)}
              />
            </Field>
            <Field label={`Tolerance, ± ${symbol}`} error={errors.tolerance} fault={fault('tolerance')}>
              <input
                className="input input-sm num w-full"
                inputMode="decimal"
                {...register('tolerance', number)}
              />
            </Field>
          </Group>
          <Group title="The fastest thing it must follow">
            <Field label="Kind" error={errors.fastestKind}>
              <select className="select select-sm w-full" {...register('fastestKind')}>
                {Object.entries(FASTEST).map(([kind, { title }]) => (
                  <option key={kind} value={kind}>
                    {title}
                  </option>
                ))}
              </select>
            </Field>
            <Field
              label={`How fast, ${now.fastestKind === 'ramp' ? `${symbol} ` : ''}${FASTEST[now.fastestKind].unit}`}
              error={errors.fastestValue}
            >
              <input
                className="input input-sm num w-full"
                inputMode="decimal"
                {...register('fastestValue', number)}
              />
            </Field>
          </Group>
          <Group title="Place">
            <Field label="Name" error={errors.placeName}>
              <input className="input input-sm w-full" {...register('placeName')} />
            </Field>
            <Field label="Elevation, m" error={errors.elevationM}>
              <input
                className="input input-sm num w-full"
                inputMode="decimal"
                {...register('elevationM', number)}
              />
            </Field>
            <Field label="Pressure there, hPa (if known)" error={errors.pressureHpa}>
              <input
                className="input input-sm num w-full"
                inputMode="decimal"
                placeholder="from elevation"
                {...register('pressureHpa', optionalNumber)}
              />
            </Field>
            <Field label="Power" error={errors.power}>
              <select className="select select-sm w-full" {...register('power')}>
                <option value="battery">Battery</option>
                <option value="wall">Wall power</option>
              </select>
            </Field>
            <Field label="Budget for the gadget (if any)" error={errors.budget}>
              <input
                className="input input-sm num w-full"
                inputMode="decimal"
                placeholder="none"
                {...register('budget', optionalNumber)}
              />
            </Field>
          </Group>
          <fieldset>
            <legend className="section-title mb-2">Surroundings</legend>
            <div className="flex flex-wrap gap-x-5 gap-y-2">
              {SURROUNDINGS.map((s) => (
                <label key={s} className="flex items-center gap-2 text-sm">
                  <input
                    type="checkbox"
                    className="checkbox checkbox-sm"
                    value={s}
                    {...register('surroundings')}
                  />
                  {s}
                </label>
              ))}
            </div>
          </fieldset>
          <Field label="Note" error={errors.note}>
            <textarea className="textarea textarea-sm w-full" rows={2} {...register('note')} />
          </Field>
          <div className="flex items-center gap-3">
            <button className="btn btn-primary btn-sm" disabled={saving || !formState.isDirty}>
              {saving ? 'Saving…' : 'Save the brief'}
            </button>
            {formState.isDirty && (
              <button type="button" className="btn btn-ghost btn-sm" onClick={() => reset(toForm(gadget))}>
                Discard changes
              </button>
            )}
            {!formState.isDirty && (
              <span className="muted text-sm">{gadget.brief ? 'Saved.' : 'Change a field to begin.'}</span>
            )}
          </div>
        </form>
        <div className="grid gap-4">
          {typed && faults.length === 0 && typed.brief.tolerance > 0 && (
            <BriefDemands brief={typed.brief} place={typed.place} channels={gadget.channels.length} />
          )}
          {cautionsFor({ brief: typed?.brief ?? gadget.brief, channels: gadget.channels }).map((c) => (
            <p
              key={c.id}
              role="note"
              className="rounded-box border border-warning/60 bg-warning/8 p-3 text-sm"
            >
              <strong>Take care. </strong>
              {c.text}
            </p>
          ))}
        </div>
      </div>
    </>
  );
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset>
      <legend className="section-title mb-2">{title}</legend>
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">{children}</div>
    </fieldset>
  );
}

function Field({
  label,
  error,
  fault,
  children,
}: {
  label: string;
  error: FieldError | undefined;
  fault?: string | undefined;
  children: ReactNode;
}) {
  const message = fault ?? error?.message;
  return (
    <label className="block">
      <span className="muted mb-1 block text-xs">{label}</span>
      {children}
      {message && (
        <span role="alert" className="mt-1 block text-xs text-error">
          {message}
        </span>
      )}
    </label>
  );
}
