import { useEffect, useId, useState } from 'react';
import { parseTyped } from './NumberField.tsx';

interface Props {
  readonly label: string;
  readonly unit?: string | undefined;
  readonly value: readonly number[];
  readonly least: number;
  readonly most: number;
  onChange(value: number[]): void;
}

/** Numbers with semicolons or blanks between them, so that a decimal comma can be typed. What is typed stays. */
export function ListField({ label, unit, value, least, most, onChange }: Props) {
  const id = useId();
  const [text, setText] = useState(value.join('; '));
  const [fault, setFault] = useState<string | null>(null);
  useEffect(() => {
    setText((now) => (same(parseList(now), value) ? now : value.join('; ')));
    setFault(null);
  }, [value]);
  return (
    <div className="sm:col-span-2">
      <label htmlFor={id} className="muted mb-1 block text-xs">
        {unit ? `${label}, ${unit}` : label}
      </label>
      <textarea
        id={id}
        className={`textarea textarea-sm num w-full ${fault ? 'textarea-error' : ''}`}
        rows={2}
        value={text}
        aria-invalid={fault !== null}
        aria-describedby={fault ? `${id}-note` : undefined}
        onChange={(event) => {
          setText(event.target.value);
          const next = parseList(event.target.value);
          const wrong = next.some(Number.isNaN)
            ? 'Enter numbers separated by semicolons, e.g. 0; 1.5; 3.'
            : next.length < least || next.length > most
              ? `Enter ${least === most ? least : `${least} to ${most}`} numbers; you entered ${next.length}.`
              : null;
          setFault(wrong);
          if (wrong === null && !same(next, value)) onChange(next);
        }}
      />
      {fault && (
        <p id={`${id}-note`} className="mt-1 text-xs text-error">
          {fault}
        </p>
      )}
    </div>
  );
}

const parseList = (text: string) =>
  text
    .split(/[;\s]+/)
    .filter((part) => part !== '')
    .map(parseTyped);

const same = (a: readonly number[], b: readonly number[]) =>
  a.length === b.length && a.every((v, i) => v === b[i]);
