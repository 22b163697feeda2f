import { useId, useState } from 'react';
import type { StageSpec } from '@lucky-needle/core/model';
import { NumberField } from '../../parts/NumberField.tsx';
import { symbolOf, type ParamRule } from '../../parts/ParamFields.tsx';

interface Props {
  readonly stage: StageSpec;
  readonly rules: readonly (readonly [string, ParamRule])[];
  /** What makes constants of this line be off, as far as anybody said. */
  readonly causes: readonly string[];
  onChange(stage: StageSpec): void;
}

/** A constant that lies anywhere within ± is uncertain by so much less (JCGM 100:2008, 4.3.7). */
const HALF_WIDTH = Math.sqrt(3);

/** Settings of how a stage works are as they are; only what was measured or made can be off. */
const canBeOff = ([, rule]: readonly [string, ParamRule]) => rule.type === 'number';

/** What the maker states of the constants of a stage as bought, and which of them are off together. */
export function StageTolerances({ stage, rules, causes, onChange }: Props) {
  const list = useId();
  const [isOpen, setOpen] = useState(false);
  const named = rules.filter(canBeOff);
  if (named.length === 0) return null;
  const stated = named.filter(([name]) => stage.uncertainty[name] !== undefined);
  const setWorth = (name: string, halfWidth: number | null) => {
    const { [name]: _, ...uncertainty } = stage.uncertainty;
    if (halfWidth !== null) uncertainty[name] = halfWidth / HALF_WIDTH;
    onChange({ ...stage, uncertainty });
  };
  const setCause = (name: string, words: string) => {
    const { [name]: _, ...cause } = stage.cause ?? {};
    if (words.trim()) cause[name] = words;
    onChange({ ...stage, cause });
  };
  return (
    <details className="mt-3 border-t border-base-300 pt-2" onToggle={(e) => setOpen(e.currentTarget.open)}>
      <summary className="cursor-pointer text-sm">
        Tolerances of the constants
        <span className="muted text-xs">
          {stated.length === 0 ? ', unknown' : `, ${stated.length} of ${named.length} given`}
        </span>
      </summary>
      {isOpen && (
        <>
          <p className="muted mt-1 text-xs">
            Before calibration, from the datasheet or a meter: the true value lies anywhere within ±. Leave
            blank if unknown. Constants with the same cause, such as one reference voltage, are assumed to be
            off together.
          </p>
          <datalist id={list}>
            {causes.map((words) => (
              <option key={words} value={words} />
            ))}
          </datalist>
          <div className="mt-2 grid items-end gap-x-3 gap-y-2 sm:grid-cols-2">
            {named.map(([name, rule]) => {
              const title = rule.title ?? name;
              const u = stage.uncertainty[name];
              return [
                <NumberField
                  key={name}
                  label={`${title}, tolerance ±`}
                  unit={rule.unit && symbolOf(rule.unit)}
                  value={u === undefined ? null : Number((u * HALF_WIDTH).toPrecision(4))}
                  check={(v) => (v >= 0 ? null : `Enter 0 or more, not ${v}.`)}
                  onChange={(v) => setWorth(name, v)}
                  onEmpty={() => setWorth(name, null)}
                />,
                u === undefined ? (
                  <span key={`${name} cause`} className="hidden sm:block" />
                ) : (
                  <label key={`${name} cause`} className="block">
                    <span className="muted mb-1 block text-xs">shared cause</span>
                    <input
                      className="input input-sm w-full"
                      aria-label={`${title}, shared cause`}
                      list={list}
                      maxLength={60}
                      autoComplete="off"
                      placeholder="none (independent)"
                      value={stage.cause?.[name] ?? ''}
                      onChange={(e) => setCause(name, e.target.value)}
                    />
                  </label>
                ),
              ];
            })}
          </div>
        </>
      )}
    </details>
  );
}
