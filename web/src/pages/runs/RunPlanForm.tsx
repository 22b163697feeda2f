import { format } from 'date-fns';
import { useState } from 'react';
import type { Gadget, RunPlan } from '@lucky-needle/core/model';
import { readingUnit } from '@lucky-needle/core/plan';
import { UNITS } from '@lucky-needle/core/units';
import { problemOf } from '../../api/problemOf.ts';
import { usePlanNoRunsMutation, usePlanRunsMutation, useRunPlanQuery } from '../../api/runPlanApi.ts';
import { Choice } from '../../parts/Choice.tsx';
import { ProblemNote } from '../../parts/ProblemNote.tsx';
import { lengthIn, LENGTHS, planInWords } from './planInWords.ts';

/** When runs begin and end by themselves, with no page open. */
export function RunPlanForm({ gadget }: { readonly gadget: Gadget }) {
  const plan = useRunPlanQuery(gadget.id).data?.plan ?? null;
  const [isOpen, setOpen] = useState(false);
  return (
    <div className="w-full text-sm">
      <div className="flex flex-wrap items-center gap-2">
        <button type="button" className="btn btn-sm" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          Plan
        </button>
        <span className="muted" data-testid="run-plan">
          {plan ? planInWords(plan, gadget) : 'Runs begin and end by hand'}
        </span>
      </div>
      {isOpen && (
        <Fields key={JSON.stringify(plan)} gadget={gadget} plan={plan} onDone={() => setOpen(false)} />
      )}
    </div>
  );
}

interface FieldsProps {
  readonly gadget: Gadget;
  readonly plan: RunPlan | null;
  onDone(): void;
}

const numberOf = (text: string) =>
  text.trim() === '' ? null : Number(text.replace(',', '.').replace('−', '-'));

function Fields({ gadget, plan, onDone }: FieldsProps) {
  const [keep, keeping] = usePlanRunsMutation();
  const [remove, removing] = usePlanNoRunsMutation();
  const [name, setName] = useState(plan?.name ?? '');
  const [start, setStart] = useState(
    plan?.startAt ? format(new Date(plan.startAt), "yyyy-MM-dd'T'HH:mm") : '',
  );
  const [daily, setDaily] = useState(plan?.daily ?? false);
  const [told, toldUnit] = plan?.stopAfterS ? lengthIn(plan.stopAfterS) : ['', 'min'];
  const [length, setLength] = useState(String(told));
  const [unit, setUnit] = useState<string>(toldUnit);
  const [channelId, setChannelId] = useState(plan?.stopAt?.channelId ?? '');
  const [side, setSide] = useState<'above' | 'below'>(plan?.stopAt?.side ?? 'above');
  const [value, setValue] = useState(plan?.stopAt ? String(plan.stopAt.value) : '');
  const channel = gadget.channels.find((c) => c.id === channelId);
  const symbol = channel ? readingUnit(gadget, channel) : null;
  const [typedLength, typedValue] = [numberOf(length), numberOf(value)];
  const wrong =
    typedLength !== null && !(typedLength > 0)
      ? `A run ends after a number above 0; “${length}” is none.`
      : channel && (typedValue === null || Number.isNaN(typedValue))
        ? `Give the value of ${channel.name} that a run ends at${value === '' ? '' : `; “${value}” is none`}.`
        : null;
  return (
    <form
      className="mt-2 grid gap-3"
      aria-label="Plan of runs"
      onSubmit={async (e) => {
        e.preventDefault();
        if (wrong) return;
        const scale = LENGTHS.find(([u]) => u === unit)![1];
        const kept = await keep({
          gadgetId: gadget.id,
          plan: {
            name: name.trim(),
            startAt: start === '' ? null : new Date(start).toISOString(),
            daily: start !== '' && daily,
            stopAfterS: typedLength === null ? null : typedLength * scale,
            stopAt: channel && typedValue !== null ? { channelId, side, value: typedValue } : null,
          },
        });
        if (kept.data) onDone();
      }}
    >
      <div className="flex flex-wrap items-end gap-4">
        <Labelled label="Begins at (empty: by hand)">
          <input
            type="datetime-local"
            className="input input-sm"
            aria-label="Begins at"
            value={start}
            onChange={(e) => setStart(e.target.value)}
          />
        </Labelled>
        {start !== '' && (
          <>
            <label className="flex h-8 items-center gap-2">
              <input
                type="checkbox"
                className="checkbox checkbox-sm"
                checked={daily}
                onChange={(e) => setDaily(e.target.checked)}
              />
              each day
            </label>
            <Labelled label="Named">
              <input
                className="input input-sm w-40"
                aria-label="Name of planned runs"
                maxLength={60}
                placeholder="Planned run"
                value={name}
                onChange={(e) => setName(e.target.value)}
              />
            </Labelled>
          </>
        )}
        <Labelled label="Ends after">
          <span className="flex gap-1">
            <input
              className="input input-sm num w-20"
              aria-label="Ends after"
              inputMode="decimal"
              placeholder="never"
              value={length}
              onChange={(e) => setLength(e.target.value)}
            />
            <select
              className="select select-sm w-auto"
              aria-label="Unit of the length"
              value={unit}
              onChange={(e) => setUnit(e.target.value)}
            >
              {LENGTHS.map(([u]) => (
                <option key={u}>{u}</option>
              ))}
            </select>
          </span>
        </Labelled>
        <Choice
          label="or when"
          value={channelId}
          options={[['', 'no channel'], ...gadget.channels.map((c) => [c.id, c.name] as const)]}
          onChange={setChannelId}
        />
        {channel && (
          <span className="flex items-end gap-1">
            <Choice
              label="reads"
              value={side}
              options={[
                ['above', 'above'],
                ['below', 'below'],
              ]}
              onChange={(id) => setSide(id as typeof side)}
            />
            <input
              className="input input-sm num w-24"
              aria-label="Value that ends a run"
              inputMode="decimal"
              value={value}
              onChange={(e) => setValue(e.target.value)}
            />
            <span className="muted pb-1.5">{symbol ? UNITS[symbol].symbol : ''}</span>
          </span>
        )}
      </div>
      {wrong && (
        <p
          role="alert"
          className={value === '' && !(typedLength !== null && !(typedLength > 0)) ? 'muted' : 'text-error'}
        >
          {wrong}
        </p>
      )}
      <ProblemNote problem={problemOf(keeping.error ?? removing.error)} />
      <div className="flex flex-wrap items-center gap-3">
        <button className="btn btn-primary btn-sm" disabled={keeping.isLoading || wrong !== null}>
          Keep plan
        </button>
        {plan && (
          <button
            type="button"
            className="btn btn-ghost btn-sm"
            disabled={removing.isLoading}
            onClick={async () => {
              await remove(gadget.id);
              onDone();
            }}
          >
            Plan nothing
          </button>
        )}
        <span className="muted text-xs">
          It holds with no page open, as long as the bench runs. Ends hold for runs begun by hand too.
        </span>
      </div>
    </form>
  );
}

function Labelled({ label, children }: { readonly label: string; readonly children: React.ReactNode }) {
  return (
    <div className="block">
      <span className="muted mb-1 block text-xs">{label}</span>
      {children}
    </div>
  );
}
