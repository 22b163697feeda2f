import type { FaceButton } from '@lucky-needle/core/model';

export const BUTTONS: readonly (readonly [FaceButton, string])[] = [
  ['page', 'next page'],
  ['unit', 'next unit'],
  ['reset', 'reset'],
  ['none', 'nothing'],
];

interface Props {
  readonly a: FaceButton;
  readonly b: FaceButton;
  /** What a press would do now; null where it does nothing. */
  does(button: FaceButton): (() => void) | null;
}

/** The gadget's own buttons, below its display. */
export function GadgetButtons({ a, b, does }: Props) {
  return (
    <div className="mt-3 flex justify-center gap-8" role="group" aria-label="Gadget buttons">
      {[['A', a] as const, ['B', b] as const].map(([name, button]) => {
        const press = does(button);
        const word = BUTTONS.find(([id]) => id === button)![1];
        return (
          <button
            key={name}
            type="button"
            disabled={!press}
            onClick={() => press?.()}
            aria-label={`Button ${name}: ${word}`}
            className="group flex cursor-pointer items-center gap-2 text-xs text-neutral-content/80 disabled:cursor-default disabled:opacity-50"
          >
            <span className="grid size-8 place-items-center rounded-full border-2 border-neutral-content/40 bg-base-content/20 font-semibold text-neutral-content group-enabled:group-hover:border-neutral-content group-enabled:group-active:scale-95">
              {name}
            </span>
            {word}
          </button>
        );
      })}
    </div>
  );
}
