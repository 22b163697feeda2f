import type { Surrounding } from '../model/surroundings.ts';

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
  sun: 'Shade it, or take a kind that sun does not trouble.',
  damp: 'Seal it, or take one in a closed sleeve.',
  heat: 'Lead the heat away from it, or take one rated for more.',
  shaking: 'Mount it soft and solder its wires, or take one without loose parts.',
  magnets: 'Keep it a hand’s breadth from iron, motors and speakers, or measure another way.',
  dust: 'Close its box, or take one without a window.',
};

/** How a part stands in the brief's surroundings: borne, not known, or not borne with the way out. */
export function environmentFindings(surroundings: readonly Surrounding[], part: Bears): EnvironmentFinding[] {
  return surroundings.map((surrounding) => {
    const wayOut = WAY_OUT[surrounding];
    if (part.fails.includes(surrounding))
      return {
        surrounding,
        state: 'fail',
        sentence: `${part.title} does not bear ${surrounding}. ${wayOut}`,
        wayOut,
      };
    if (part.bears.includes(surrounding))
      return { surrounding, state: 'pass', sentence: `${part.title} bears ${surrounding}.`, wayOut: '' };
    return {
      surrounding,
      state: 'tight',
      sentence: `Whether ${part.title} bears ${surrounding} is not known. ${wayOut}`,
      wayOut,
    };
  });
}
