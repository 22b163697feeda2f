import type { Surrounding } from '../model/surroundings.ts';
import { ENVIRONMENT_WORDS } from '../words/index.ts';

/** What a part bears, as its kind does; what is not named is not known. */
export interface Bears {
  readonly title: string;
  readonly bears: readonly Surrounding[];
  readonly fails: readonly Surrounding[];
}

export interface EnvironmentFinding {
  readonly surrounding: Surrounding;
  readonly state: 'pass' | 'tight' | 'fail';
  readonly sentence: string;
  /** Empty where it is borne. */
  readonly wayOut: string;
}

const WAY_OUT: Readonly<Record<Surrounding, string>> = {
  sun: 'Shade it, or use a type that sun does not affect.',
  damp: 'Seal it, or use one in a sealed sleeve.',
  heat: 'Keep the heat away from it, or use one rated for higher temperatures.',
  shaking: 'Use a soft mount and solder its wires, or choose one without loose parts.',
  magnets: 'Keep it a hand’s width away from iron, motors and speakers, or measure in another way.',
  dust: 'Put it in a closed box, or use one without an optical window.',
};

/** How a part stands in the brief's surroundings: borne, not known, or not borne with the way out. */
export function environmentFindings(surroundings: readonly Surrounding[], part: Bears): EnvironmentFinding[] {
  return surroundings.map((surrounding) => {
    const wayOut = WAY_OUT[surrounding];
    const word = ENVIRONMENT_WORDS[surrounding];
    if (part.fails.includes(surrounding))
      return {
        surrounding,
        state: 'fail',
        sentence: `${part.title} does not tolerate ${word}. ${wayOut}`,
        wayOut,
      };
    if (part.bears.includes(surrounding))
      return { surrounding, state: 'pass', sentence: `${part.title} tolerates ${word}.`, wayOut: '' };
    return {
      surrounding,
      state: 'tight',
      sentence: `${part.title} is not known to tolerate ${word}. ${wayOut}`,
      wayOut,
    };
  });
}
