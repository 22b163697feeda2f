import { useState } from 'react';

interface Props {
  readonly label: string;
  readonly value: string;
  readonly placeholder: string;
  readonly most: number;
  onKeep(text: string): void;
}

/** A text that is kept when the field is left or Enter is pressed; what is typed is never replaced by what is fetched. */
export function TypedCell({ label, value, placeholder, most, onKeep }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const keep = () => {
    if (typed !== null && typed.trim() !== value) onKeep(typed.trim());
    setTyped(null);
  };
  return (
    <input
      className="input input-ghost input-xs w-20 sm:w-28"
      aria-label={label}
      placeholder={placeholder}
      maxLength={most}
      value={typed ?? value}
      onChange={(e) => setTyped(e.target.value)}
      onBlur={keep}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur();
        if (e.key === 'Escape') setTyped(null);
      }}
    />
  );
}
