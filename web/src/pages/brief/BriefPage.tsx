import { typeboxResolver } from '@hookform/resolvers/typebox';
import { Plus } from 'lucide-react';
import { useEffect, useState, type ReactNode } from 'react';
import { useFieldArray, useForm, useWatch } from 'react-hook-form';
import { SURROUNDINGS, type Gadget } from '@lucky-needle/core/model';
import { briefFaults, briefOfAsk, contradictionsOf, planOf, TEMPLATES } from '@lucky-needle/core/plan';
import { useBench } from '../../app/useBench.ts';
import { useShelf } from '../../app/useShelf.ts';
import { Cautions } from '../../parts/Cautions.tsx';
import { FormField } from '../../parts/FormField.tsx';
import { parseTyped } from '../../parts/NumberField.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { useSaveGadget } from '../../parts/useSaveGadget.ts';
import { AskFields, asNumber } from './AskFields.tsx';
import { BriefDemands } from './BriefDemands.tsx';
import { BriefForm, fromForm, isComplete, newAsk, toForm } from './briefForm.ts';
import { ENVIRONMENT_WORDS } from '@lucky-needle/core/words';

const resolver = typeboxResolver(BriefForm);
const optionalNumber = {
  setValueAs: (v: unknown) =>
    v === null || v === '' ? null : typeof v === 'number' ? v : parseTyped(String(v)),
};
const cell = 'input input-sm num w-full';

/** What the needle must show, how well, how fast, and where. */
export function BriefPage() {
  const { gadget } = useBench();
  const shelf = useShelf();
  const { save, saving, problem, forget } = useSaveGadget(gadget);
  const form = useForm<BriefForm>({
    resolver: resolver as never,
    defaultValues: toForm(gadget),
    mode: 'onTouched',
  });
  const { register, control, handleSubmit, formState, reset, setError } = form;
  const asks = useFieldArray({ control, name: 'asks', keyName: 'key' });
  // What was typed outlives a change from another window, on the version it was typed on; a clean form follows along.
  const [edited, setEdited] = useState(gadget.version);
  useEffect(() => {
    if (formState.isDirty) return;
    reset(toForm(gadget));
    setEdited(gadget.version);
  }, [gadget, formState.isDirty, reset]);
  const now = { ...toForm(gadget), ...(useWatch({ control }) as BriefForm) };
  const typed = isComplete(now) ? fromForm(now, gadget) : null;
  const faults = typed?.brief.asks.map((ask) => briefFaults(briefOfAsk(typed.brief, ask))) ?? [];
  const sound = typed !== null && faults.every((f) => f.length === 0);
  const errors = formState.errors;

  const submit = handleSubmit(async (values) => {
    const next = fromForm(values, gadget);
    for (const [i, ask] of next.brief.asks.entries()) {
      const [first] = briefFaults(briefOfAsk(next.brief, ask));
      if (!first) continue;
      setError(`asks.${i}.${first.field}` as never, { message: first.message }, { shouldFocus: true });
      return;
    }
    if (await save(next, 'Brief saved.', edited)) reset(values);
  });

  const why = whyOf(gadget, now);
  return (
    <>
      <PageHead title="Brief" subtitle="What to measure, and how well" />
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
                  Reapply my changes to the latest version
                </button>
              )}
            </ProblemNote>
          )}
          <div className="grid gap-3">
            {asks.fields.map((field, i) => (
              <AskFields
                key={field.key}
                form={form}
                index={i}
                errors={errors.asks?.[i]}
                fault={(name) => faults[i]?.find((f) => f.field === name)?.message}
                why={(name) => why(`${field.id}.${name}`)}
                answeredBy={answeredBy(gadget, field.id)}
                onRemove={asks.fields.length > 1 ? () => asks.remove(i) : undefined}
              />
            ))}
            <button
              type="button"
              className="btn btn-ghost btn-sm justify-self-start"
              disabled={asks.fields.length >= 8}
              onClick={() => asks.append(newAsk(freshId(asks.fields)))}
            >
              <Plus className="size-4" aria-hidden /> Add another quantity
            </button>
          </div>
          <Group title="Place and power">
            <FormField label="Place" error={errors.placeName}>
              <input className="input input-sm w-full" {...register('placeName')} />
            </FormField>
            <FormField label="Elevation, m" error={errors.elevationM}>
              <input className={cell} inputMode="decimal" {...register('elevationM', asNumber)} />
            </FormField>
            <FormField label="Air pressure, hPa" error={errors.pressureHpa}>
              <input
                className={cell}
                inputMode="decimal"
                placeholder="from elevation"
                {...register('pressureHpa', optionalNumber)}
              />
            </FormField>
            <FormField label="Power" error={errors.power} why={why('power')}>
              <select className="select select-sm w-full" {...register('power')}>
                <option value="battery">Battery</option>
                <option value="wall">Wall power</option>
              </select>
            </FormField>
            <FormField label="Battery life needed, h" error={errors.enduranceH} why={why('enduranceH')}>
              <input
                className={cell}
                inputMode="decimal"
                placeholder={now.power === 'battery' ? '24' : 'not needed'}
                {...register('enduranceH', optionalNumber)}
              />
            </FormField>
            <FormField label="Readings per second" error={errors.sampleRateHz}>
              <input className={cell} inputMode="decimal" {...register('sampleRateHz', asNumber)} />
            </FormField>
            <FormField label="Budget" error={errors.budget}>
              <input
                className={cell}
                inputMode="decimal"
                placeholder="none"
                {...register('budget', optionalNumber)}
              />
            </FormField>
            <FormField label="Price of a ready-made product" error={errors.readyMade}>
              <input
                className={cell}
                inputMode="decimal"
                placeholder="unknown"
                {...register('readyMade', optionalNumber)}
              />
            </FormField>
          </Group>
          <fieldset>
            <legend className="section-title mb-2">Environment</legend>
            <div className="flex flex-wrap gap-x-5 gap-y-2">
              {SURROUNDINGS.map((s) => (
                <label key={s} className="flex items-center gap-2 text-sm">
                  <input
                    type="checkbox"
                    className="checkbox checkbox-sm"
                    value={s}
                    {...register('surroundings')}
                  />
                  {ENVIRONMENT_WORDS[s]}
                </label>
              ))}
            </div>
            {why('surroundings') && <p className="muted mt-1 text-xs italic">{why('surroundings')}</p>}
          </fieldset>
          <FormField label="Note" error={errors.note}>
            <textarea className="textarea textarea-sm w-full" rows={2} {...register('note')} />
          </FormField>
          <div className="flex items-center gap-3">
            <button className="btn btn-primary btn-sm" disabled={saving || !formState.isDirty}>
              {saving ? 'Saving…' : 'Save brief'}
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
          {sound && <Contradictions gadget={{ ...gadget, ...typed }} shelf={shelf} />}
          {sound && <BriefDemands gadget={typed} />}
          <Cautions gadget={gadget} />
        </div>
      </div>
    </>
  );
}

/** What cannot be true together, each with its way out. */
function Contradictions({ gadget, shelf }: { gadget: Gadget; shelf: ReturnType<typeof useShelf> }) {
  const plan = planOf(gadget, shelf);
  const found = plan ? contradictionsOf(plan) : [];
  if (found.length === 0) return null;
  return (
    <section role="alert" className="rounded-box border border-error/60 bg-error/8 p-3">
      <h2 className="section-title">These requirements conflict</h2>
      <ul className="mt-2 grid gap-2 text-sm">
        {found.map((c) => (
          <li key={c.sentence}>
            <p>{c.sentence}</p>
            <p className="muted">How to fix it: {c.wayOut}</p>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The template's reason for a field, while the field is as the template set it. */
function whyOf(gadget: Gadget, now: BriefForm): (field: string) => string | undefined {
  const template = TEMPLATES.find((t) => t.id === gadget.template);
  const start = template?.make();
  if (!template || !start?.brief) return () => undefined;
  const first = toForm({ ...gadget, ...start });
  return (field) => {
    const [id, part] = field.split('.');
    if (part === undefined) {
      const same =
        JSON.stringify(first[id as keyof BriefForm]) === JSON.stringify(now[id as keyof BriefForm]);
      return same ? template.reasons[field] : undefined;
    }
    const fields = {
      range: ['unit', 'low', 'high'],
      tolerance: ['unit', 'tolerance'],
      fastest: ['unit', 'fastestKind', 'fastestValue'],
      sensed: ['sensedUnit', 'sensedLow', 'sensedHigh', 'sensedTolerance'],
    }[part] as (keyof BriefForm['asks'][number])[] | undefined;
    const [was, is] = [first, now].map((f) => f.asks.find((a) => a.id === id));
    return fields?.every((name) => was?.[name] === is?.[name]) ? template.reasons[field] : undefined;
  };
}

function freshId(fields: readonly { readonly id: string }[]): string {
  for (let n = 1; ; n++) if (!fields.some((f) => f.id === `a${n}`)) return `a${n}`;
}

/** Which figure answers an ask, in words; null where a channel of its own stands for it. */
function answeredBy({ channels }: Gadget, askId: string): string | null {
  if (channels.some((c) => c.askId === askId)) return null;
  for (const { name, figures = [] } of channels) {
    const figure = figures.find((f) => f.askId === askId);
    if (figure) return `Calculated on the Line page: “${figure.name}” of ${name}.`;
  }
  return null;
}

function Group({ title, children }: { title: string; children: ReactNode }) {
  return (
    <fieldset>
      <legend className="section-title mb-2">{title}</legend>
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">{children}</div>
    </fieldset>
  );
}
