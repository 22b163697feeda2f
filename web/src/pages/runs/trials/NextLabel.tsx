import { useEffect, useState } from 'react';
import { dotOf } from './labels.ts';

interface Props {
  readonly labels: readonly string[];
  /** What the next trial is; null for no label. */
  readonly next: string | null;
  onNext(label: string | null): void;
}

const isTyping = (target: EventTarget | null) =>
  target instanceof HTMLElement && ['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName);

/** What the next trial is of: chosen by a digit, so that hands stay on the gadget. */
export function NextLabel({ labels, next, onNext }: Props) {
  const [typed, setTyped] = useState('');
  const all = next !== null && !labels.includes(next) ? [...labels, next] : labels;
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (isTyping(e.target) || e.ctrlKey || e.metaKey || e.altKey) return;
      if (all.length === 0 || !/^\d$/.test(e.key)) return;
      // While trials are recorded digits label them, and go to no other page.
      e.stopImmediatePropagation();
      e.preventDefault();
      const label = e.key === '0' ? null : all[Number(e.key) - 1];
      if (label !== undefined) onNext(label);
    };
    window.addEventListener('keydown', press, { capture: true });
    return () => window.removeEventListener('keydown', press, { capture: true });
  });
  return (
    <div className="flex flex-wrap items-center gap-2 text-sm" role="group" aria-label="Label for next trial">
      <span className="muted">Label for next trial</span>
      {all.slice(0, 9).map((label, k) => (
        <button
          key={label}
          type="button"
          aria-pressed={next === label}
          className={`btn btn-sm rounded-full ${next === label ? 'btn-outline border-primary' : ''}`}
          onClick={() => onNext(next === label ? null : label)}
        >
          <span aria-hidden className={`size-2.5 rounded-full ${dotOf(all, label)}`} />
          {label} <kbd className="kbd kbd-xs">{k + 1}</kbd>
        </button>
      ))}
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (typed.trim() === '') return;
          onNext(typed.trim());
          setTyped('');
        }}
      >
        <input
          className="input input-sm w-28"
          aria-label="New label"
          placeholder="new label"
          maxLength={40}
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
        />
      </form>
    </div>
  );
}
