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
          Schedule
        </button>
        <span className="muted" data-testid="run-plan">
          {plan ? planInWords(plan, gadget) : 'Runs are started and stopped manually'}
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
      ? `Enter a run length above 0; “${length}” is not valid.`
      : channel && (typedValue === null || Number.isNaN(typedValue))
        ? `Enter the value of ${channel.name} at which a run stops${value === '' ? '' : `; “${value}” is not a number`}.`
        : null;
  return (
    <form
      className="mt-2 grid gap-3"
      aria-label="Run schedule"
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
        <Labelled label="Start at (empty: manual)">
          <input
            type="datetime-local"
            className="input input-sm"
            aria-label="Start at"
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
              every day
            </label>
            <Labelled label="Run name">
              <input
                className="input input-sm w-40"
                aria-label="Name of scheduled runs"
                maxLength={60}
                placeholder="Scheduled run"
                value={name}
                onChange={(e) => setName(e.target.value)}
              />
            </Labelled>
          </>
        )}
        <Labelled label="Stop after">
          <span className="flex gap-1">
            <input
              className="input input-sm num w-20"
              aria-label="Stop after"
              inputMode="decimal"
              placeholder="no limit"
              value={length}
              onChange={(e) => setLength(e.target.value)}
            />
            <select
              className="select select-sm w-auto"
              aria-label="Unit of the run length"
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
          label="or when channel"
          value={channelId}
          options={[['', 'none'], ...gadget.channels.map((c) => [c.id, c.name] as const)]}
          onChange={setChannelId}
        />
        {channel && (
          <span className="flex items-end gap-1">
            <Choice
              label="is"
              value={side}
              options={[
                ['above', 'above'],
                ['below', 'below'],
              ]}
              onChange={(id) => setSide(id as typeof side)}
            />
            <input
              className="input input-sm num w-24"
              aria-label="Value that stops a run"
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
          Save schedule
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
            Delete schedule
          </button>
        )}
        <span className="muted text-xs">
          The schedule runs even with no page open, as long as the server is running. Stop conditions also
          apply to runs started manually.
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
