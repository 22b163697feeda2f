import { Trash2 } from 'lucide-react';
import { useWatch, type FieldErrors, type UseFormReturn } from 'react-hook-form';
import { MEASURANDS } from '@lucky-needle/core/model';
import { UNITS } from '@lucky-needle/core/units';
import { FormField } from '../../parts/FormField.tsx';
import { parseTyped } from '../../parts/NumberField.tsx';
import { UnitSelect } from '../../parts/UnitSelect.tsx';
import { FASTEST, type AskForm, type BriefForm } from './briefForm.ts';
import { MEASURAND_WORDS } from '@lucky-needle/core/words';

export const asNumber = {
  setValueAs: (v: unknown) => (typeof v === 'number' ? v : parseTyped(String(v))),
};

interface Props {
  readonly form: UseFormReturn<BriefForm>;
  readonly index: number;
  readonly errors: FieldErrors<AskForm> | undefined;
  /** A rule broken by a field of this ask. */
  fault(field: string): string | undefined;
  /** Why a field starts as it does, while it still does. */
  why(field: string): string | undefined;
  /** The figure that answers it, and the channel that makes it; null where a channel stands for it. */
  readonly answeredBy: string | null;
  /** Absent when it is the only ask. */
  onRemove?: (() => void) | undefined;
}

const cell = 'input input-sm num w-full';

/** One thing that the needle must show: quantity, range, tolerance, the fastest event, and what a sensor must feel for it. */
export function AskFields({ form, index, errors, fault, why, answeredBy, onRemove }: Props) {
  const { register, control } = form;
  const at = `asks.${index}` as const;
  const ask = useWatch({ control, name: at });
  const symbol = UNITS[ask.unit]?.symbol ?? '';
  const sensedSymbol = UNITS[ask.sensedUnit]?.symbol ?? '';
  const number = (name: keyof AskForm) => register(`${at}.${name}`, asNumber);
  return (
    <fieldset className="rounded-box border border-base-300 p-3">
      <legend className="section-title flex items-center gap-2 px-1">
        {ask.quantity || 'New quantity'}
        {onRemove && (
          <button
            type="button"
            className="btn btn-ghost btn-xs"
            aria-label={`Remove ${ask.quantity}`}
            onClick={onRemove}
          >
            <Trash2 className="size-3.5" aria-hidden />
          </button>
        )}
      </legend>
      <div className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
        <FormField label="Quantity" error={errors?.quantity}>
          <input className="input input-sm w-full" {...register(`${at}.quantity`)} />
        </FormField>
        <FormField label="Unit" error={errors?.unit}>
          <UnitSelect {...register(`${at}.unit`)} />
        </FormField>
        <FormField
          label={`Lowest, ${symbol}`}
          error={errors?.low}
          fault={ask.isSensed ? undefined : fault('low')}
        >
          <input className={cell} inputMode="decimal" {...number('low')} />
        </FormField>
        <FormField label={`Highest, ${symbol}`} error={errors?.high} fault={fault('high')} why={why('range')}>
          <input className={cell} inputMode="decimal" {...number('high')} />
        </FormField>
        <FormField
          label={`Tolerance, ± ${symbol}`}
          error={errors?.tolerance}
          fault={fault('tolerance')}
          why={why('tolerance')}
        >
          <input className={cell} inputMode="decimal" {...number('tolerance')} />
        </FormField>
        {answeredBy !== null && (
          <p className="muted self-center text-sm sm:col-span-1 lg:col-span-3">{answeredBy}</p>
        )}
        {answeredBy === null && (
          <>
            <FormField label="Fastest change to follow" error={errors?.fastestKind}>
              <select className="select select-sm w-full" {...register(`${at}.fastestKind`)}>
                {Object.entries(FASTEST).map(([kind, { title }]) => (
                  <option key={kind} value={kind}>
                    {title}
                  </option>
                ))}
              </select>
            </FormField>
            <FormField
              label={[
                FASTEST[ask.fastestKind].value,
                `${ask.fastestKind === 'ramp' ? `${symbol} ` : ''}${FASTEST[ask.fastestKind].unit}`,
              ]
                .filter(Boolean)
                .join(', ')}
              error={errors?.fastestValue}
              why={why('fastest')}
            >
              <input className={cell} inputMode="decimal" {...number('fastestValue')} />
            </FormField>
            <FormField label="Number of channels" error={errors?.channels}>
              <input className={cell} inputMode="numeric" {...number('channels')} />
            </FormField>
            <FormField label="Sensor measures" error={errors?.measurand}>
              <select className="select select-sm w-full" {...register(`${at}.measurand`)}>
                {MEASURANDS.map((m) => (
                  <option key={m} value={m}>
                    {MEASURAND_WORDS[m]}
                  </option>
                ))}
              </select>
            </FormField>
            <label className="flex items-center gap-2 text-sm sm:col-span-1 lg:col-span-3 lg:mt-5">
              <input type="checkbox" className="checkbox checkbox-sm" {...register(`${at}.isSensed`)} />
              The sensor’s range or unit differs from the reading’s
            </label>
          </>
        )}
        {answeredBy === null && ask.isSensed && (
          <>
            <FormField label="Sensor unit" error={errors?.sensedUnit} why={why('sensed')}>
              <UnitSelect {...register(`${at}.sensedUnit`)} />
            </FormField>
            <FormField label={`Sensor range, from, ${sensedSymbol}`} error={errors?.sensedLow}>
              <input className={cell} inputMode="decimal" {...number('sensedLow')} />
            </FormField>
            <FormField label={`Sensor range, to, ${sensedSymbol}`} error={errors?.sensedHigh}>
              <input className={cell} inputMode="decimal" {...number('sensedHigh')} />
            </FormField>
            <FormField label={`Sensor tolerance, ± ${sensedSymbol}`} error={errors?.sensedTolerance}>
              <input className={cell} inputMode="decimal" {...number('sensedTolerance')} />
            </FormField>
          </>
        )}
      </div>
    </fieldset>
  );
}
