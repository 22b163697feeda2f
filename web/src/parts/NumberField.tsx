import { useEffect, useId, useState } from 'react';
import { Explained } from './Explained.tsx';

interface Props {
  label: string;
  value: number | null;
  onChange(value: number): void;
  /** Told of what is wrong with what is typed, and null once it is right or was taken back. */
  onFault?(fault: string | null): void;
  /** Where a number may be left out: it was taken away. */
  onEmpty?(): void;
  unit?: string | undefined;
  /** Says what is wrong with a number, or null. */
  check?: (value: number) => string | null;
  hint?: string;
  step?: number;
  className?: string;
}

/** Characters of a unit that stand beside the number. */
const MOST_BESIDE = 8;

/** Accepts a decimal comma as well as a point. NaN for anything that is no number. */
export function parseTyped(text: string): number {
  const plain = text.trim().replace('\u2212', '-').replace(',', '.');
  return /^[+-]?(\d+(\.\d*)?|\.\d+)(e[+-]?\d+)?$/i.test(plain) ? Number(plain) : Number.NaN;
}

/** A number with its unit. What is typed stays; only numbers that pass go on. */
export function NumberField({
  label,
  value,
  onChange,
  onEmpty,
  onFault,
  unit,
  check,
  hint,
  className = '',
}: Props) {
  const id = useId();
  const [text, setText] = useState(value === null ? '' : String(value));
  const [fault, setFault] = useState<string | null>(null);
  // A long name of a unit would leave no room for the number.
  const long = (unit?.length ?? 0) > MOST_BESIDE;
  useEffect(() => {
    setText((now) =>
      value !== null && parseTyped(now) === value ? now : value === null ? '' : String(value),
    );
    setFault(null);
  }, [value]);
  useEffect(() => {
    onFault?.(fault);
    // A field that leaves is wrong no more.
    return () => onFault?.(null);
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [fault]);
  return (
    <div className={className}>
      <label htmlFor={id} className="muted mb-1 block text-xs">
        <Explained text={label} />
        {unit && long && ` ${unit}`}
      </label>
      <div className={`input input-sm w-full ${fault ? 'input-error' : ''}`}>
        <input
          id={id}
          className="num grow"
          inputMode="decimal"
          autoComplete="off"
          value={text}
          aria-invalid={fault !== null}
          aria-describedby={fault || hint ? `${id}-note` : undefined}
          onChange={(event) => {
            setText(event.target.value);
            if (onEmpty && event.target.value.trim() === '') {
              setFault(null);
              if (value !== null) onEmpty();
              return;
            }
            const next = parseTyped(event.target.value);
            const wrong = Number.isNaN(next)
              ? 'Enter a number such as 3300 or 0.5.'
              : (check?.(next) ?? null);
            setFault(wrong);
            if (wrong === null && next !== value) onChange(next);
          }}
        />
        {unit && !long && <span className="muted num text-xs">{unit}</span>}
      </div>
      {(fault || hint) && (
        <p id={`${id}-note`} className={`mt-1 text-xs ${fault ? 'text-error' : 'muted'}`}>
          {fault ?? hint}
        </p>
      )}
    </div>
  );
}
