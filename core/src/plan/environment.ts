import type { Brief } from '../model/gadget.ts';

type Surrounding = Brief['surroundings'][number];

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
}

const WAY_OUT: Readonly<Record<Surrounding, string>> = {
  sun: 'Shade it, or take a reflective display that sun makes clearer.',
  damp: 'Seal it, or take one in a closed sleeve.',
  heat: 'Lead the heat away from it, or take one rated for more.',
  shaking: 'Mount it soft and solder its wires, or take one without loose parts.',
  magnets: 'Keep it a hand’s breadth from iron, motors and speakers, or measure another way.',
  dust: 'Close its box, or take one without a window.',
};

/** How a part stands in the brief's surroundings: borne, not known, or not borne with the way out. */
export function environmentFindings(surroundings: Brief['surroundings'], part: Bears): EnvironmentFinding[] {
  return surroundings.map((surrounding) => {
    if (part.fails.includes(surrounding))
      return {
        surrounding,
        state: 'fail',
        sentence: `${part.title} does not bear ${surrounding}. ${WAY_OUT[surrounding]}`,
      };
    if (part.bears.includes(surrounding))
      return { surrounding, state: 'pass', sentence: `${part.title} bears ${surrounding}.` };
    return {
      surrounding,
      state: 'tight',
      sentence: `Whether ${part.title} bears ${surrounding} is not known. ${WAY_OUT[surrounding]}`,
    };
  });
}
