import { format } from 'date-fns';
import { Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { NewOwnReference, OwnReference } from '@lucky-needle/core/model';
import { dueState } from '@lucky-needle/core/references';
import { printWithUncertainty, type UnitId } from '@lucky-needle/core/units';
import {
  useAddOwnReferenceMutation,
  useDeleteOwnReferenceMutation,
  useOwnReferencesQuery,
  useReplaceOwnReferenceMutation,
} from '../../api/shelfApi.ts';
import { problemOf } from '../../api/problemOf.ts';
import { Brand } from '../../app/shell/Brand.tsx';
import { ThemeSwitch } from '../../app/shell/ThemeSwitch.tsx';
import { useAppDispatch } from '../../app/store.ts';
import { toastShown } from '../../app/toasts.ts';
import { EmptyState } from '../../parts/EmptyState.tsx';
import { NumberField } from '../../parts/NumberField.tsx';
import { PageHead } from '../../parts/PageHead.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { UnitSelect } from '../../parts/UnitSelect.tsx';

const today = () => new Date().toISOString().slice(0, 10);

/** The maker's own references: what each is worth, when it was last checked, and until when it is trusted. */
export function ReferencesPage() {
  const { data = [], error, isLoading } = useOwnReferencesQuery();
  const [editing, setEditing] = useState<OwnReference | 'new' | null>(null);
  const overdue = data.filter((r) => dueState(r, today()).overdue).length;
  return (
    <div className="flex min-h-dvh flex-col bg-base-200">
      <header className="rail flex items-center justify-between bg-neutral px-5 py-4 text-neutral-content lg:px-10">
        <Brand />
        <ThemeSwitch />
      </header>
      <main id="main" tabIndex={-1} className="mx-auto w-full max-w-5xl grow p-4 lg:px-10 lg:py-6">
        <PageHead
          title="Your references"
          subtitle={`${data.length} on the shelf${overdue > 0 ? `, ${overdue} overdue for a check` : ''}`}
        >
          <button type="button" className="btn btn-primary btn-sm" onClick={() => setEditing('new')}>
            <Plus className="size-4" aria-hidden /> Add a reference
          </button>
          <Link className="btn btn-sm" to="/shelf">
            Parts
          </Link>
        </PageHead>
        <ProblemNote problem={problemOf(error)} />
        <div className={`grid items-start gap-4 ${editing ? 'lg:grid-cols-[1fr_20rem]' : ''}`}>
          {data.length === 0 && !isLoading ? (
            <EmptyState title="No references yet">
              Add the references you own, such as checked kitchen weights, a certified thermometer or a bottle
              of standard solution, with their uncertainty and the date of the last check. You can then choose
              them by name on the True-up page.
            </EmptyState>
          ) : (
            <ul className="panel divide-y divide-base-300 p-0" aria-label="Your references">
              {data.map((r) => (
                <ReferenceRow key={r.id} reference={r} onEdit={() => setEditing(r)} />
              ))}
            </ul>
          )}
          {editing && (
            <ReferenceForm
              key={editing === 'new' ? 'new' : editing.id}
              own={editing === 'new' ? null : editing}
              onDone={() => setEditing(null)}
            />
          )}
        </div>
      </main>
    </div>
  );
}

function ReferenceRow({ reference: r, onEdit }: { reference: OwnReference; onEdit(): void }) {
  const [replace, replacing] = useReplaceOwnReferenceMutation();
  const [remove] = useDeleteOwnReferenceMutation();
  const dispatch = useAppDispatch();
  const worth = printWithUncertainty(r.value, r.uncertainty, r.unit);
  const state = dueState(r, today());
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 px-4 py-3 sm:flex-nowrap">
      <div className="min-w-0 grow">
        <p className="font-semibold">
          <span className="text-secondary" aria-hidden>
            ◆
          </span>{' '}
          {r.title}{' '}
          <span className="num font-normal">
            {worth.value} <span className="muted">±{worth.uncertainty}</span> {worth.symbol}
          </span>
        </p>
        <p className={`text-sm ${state.overdue ? 'text-warning' : 'muted'}`}>
          Last checked {format(new Date(r.checkedOn), 'd MMM yyyy')};{' '}
          {state.overdue ? '⚠ check overdue since' : 'next check due'}{' '}
          {format(new Date(state.dueOn), 'd MMM yyyy')}
        </p>
        {r.note && <p className="muted text-xs">{r.note}</p>}
        <ProblemNote problem={problemOf(replacing.error)} />
      </div>
      <div className="flex shrink-0 items-center gap-1">
        <button
          type="button"
          className="btn btn-sm"
          disabled={r.checkedOn === today()}
          onClick={() => {
            const { id, version, ...rest } = r;
            void replace({ id, version, reference: { ...rest, checkedOn: today() } });
          }}
        >
          Mark as checked today
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onEdit}>
          Edit
        </button>
        <button
          type="button"
          className="btn btn-ghost btn-sm px-2"
          aria-label={`Remove ${r.title} from the shelf`}
          title="Remove from shelf"
          onClick={async () => {
            await remove(r.id);
            dispatch(
              toastShown({
                text: `${r.title} removed from the shelf.`,
                tone: 'done',
                restoreReferenceId: r.id,
              }),
            );
          }}
        >
          <Trash2 className="size-4" aria-hidden />
        </button>
      </div>
    </li>
  );
}

const BLANK: NewOwnReference = {
  title: '',
  value: 1,
  uncertainty: 0.01,
  unit: 'kg',
  checkedOn: '',
  goodForMonths: 24,
  note: '',
};

function ReferenceForm({ own, onDone }: { own: OwnReference | null; onDone(): void }) {
  const [fields, setFields] = useState<NewOwnReference>(() => {
    if (!own) return { ...BLANK, checkedOn: today() };
    const { id: _id, version: _version, ...rest } = own;
    return rest;
  });
  const [add, adding] = useAddOwnReferenceMutation();
  const [replace, replacing] = useReplaceOwnReferenceMutation();
  const dispatch = useAppDispatch();
  const set = <K extends keyof NewOwnReference>(name: K, value: NewOwnReference[K]) =>
    setFields((now) => ({ ...now, [name]: value }));
  const future = fields.checkedOn > today();
  const save = async () => {
    const result = own
      ? await replace({ id: own.id, version: own.version, reference: fields })
      : await add(fields);
    if (result.error) return;
    dispatch(toastShown({ text: `${fields.title} saved to the shelf.`, tone: 'done' }));
    onDone();
  };
  return (
    <form
      className="panel grid gap-3"
      aria-label={own ? `Edit ${own.title}` : 'New reference'}
      onSubmit={(e) => {
        e.preventDefault();
        void save();
      }}
    >
      <header className="flex items-baseline justify-between gap-3">
        <h2 className="section-title">{own ? own.title : 'New reference'}</h2>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onDone}>
          Close
        </button>
      </header>
      <ProblemNote problem={problemOf(adding.error ?? replacing.error)} />
      <label className="grid gap-1">
        <span className="muted text-xs">Name</span>
        <input
          className="input input-sm w-full"
          required
          maxLength={80}
          placeholder="Brass weight, 1 kg"
          value={fields.title}
          onChange={(e) => set('title', e.target.value)}
        />
      </label>
      <label className="grid gap-1">
        <span className="muted text-xs">Unit</span>
        <UnitSelect value={fields.unit} onChange={(e) => set('unit', e.target.value as UnitId)} />
      </label>
      <div className="grid grid-cols-2 gap-2">
        <NumberField label="Value" value={fields.value} onChange={(v) => set('value', v)} />
        <NumberField
          label="Uncertainty ± (k = 2)"
          value={fields.uncertainty}
          onChange={(v) => set('uncertainty', v)}
          check={(v) => (v > 0 ? null : 'Enter a value above 0: no reference is exact.')}
        />
      </div>
      <div className="grid grid-cols-2 gap-2">
        <label className="grid content-start gap-1">
          <span className="muted text-xs">Last checked</span>
          <input
            type="date"
            required
            className={`input input-sm w-full ${future ? 'input-error' : ''}`}
            value={fields.checkedOn}
            onChange={(e) => set('checkedOn', e.target.value)}
          />
          {future && <span className="text-xs text-error">The date is in the future.</span>}
        </label>
        <NumberField
          label="Check interval"
          unit="months"
          value={fields.goodForMonths}
          onChange={(v) => set('goodForMonths', v)}
          check={(v) => (Number.isInteger(v) && v >= 1 && v <= 240 ? null : 'Enter whole months, 1 to 240.')}
        />
      </div>
      <label className="grid gap-1">
        <span className="muted text-xs">Note</span>
        <textarea
          className="textarea textarea-sm w-full"
          maxLength={2000}
          rows={2}
          placeholder="Checked by whom, against what"
          value={fields.note}
          onChange={(e) => set('note', e.target.value)}
        />
      </label>
      <button className="btn btn-primary btn-sm" disabled={fields.title.trim() === '' || future}>
        {own ? 'Save' : 'Add to shelf'}
      </button>
    </form>
  );
}
