import type { Ask, Brief, Channel, Gadget } from '../../model/gadget.ts';
import type { LineSpec, StageSpec } from '../../model/line.ts';
import type { NamedState } from '../../model/namedState.ts';

export interface GadgetTemplate {
  readonly id: string;
  /** Measuring family, 1 to 14, whose simulated gadget can stand in for the real one; null when there is none. */
  readonly family: number | null;
  readonly title: string;
  readonly summary: string;
  /** Why a field starts as it does: by "range", "tolerance", "fastest", "sensed" of an ask ("force.range"), or a field of the brief. */
  readonly reasons: Readonly<Record<string, string>>;
  make(): Pick<
    Gadget,
    'place' | 'brief' | 'picks' | 'hookup' | 'channels' | 'face' | 'cautionsRead' | 'sampleRateHz'
  >;
}

export const HOME = { name: 'My workshop', elevationM: 100, pressureHpa: null };

export const stage = (id: string, kind: string, params: StageSpec['params']): StageSpec => ({
  id,
  kind,
  params,
  uncertainty: {},
  off: false,
});

export const channel = (
  id: string,
  askId: string,
  name: string,
  sources: readonly (readonly [column: string, unit: LineSpec['sources'][number]['unit']])[],
  ...stages: StageSpec[]
): Channel => ({
  id,
  askId,
  name,
  line: { sources: sources.map(([column, unit]) => ({ column, unit })), stages },
});

/** A channel with words for what it shows. */
export const named = (channel: Channel, ...states: NamedState[]): Channel => ({ ...channel, states });

/** A template's sections; a brief starts without budget, and nothing is picked yet. */
export function sections(
  asks: Ask[],
  around: Pick<Brief, 'power' | 'surroundings'> & Partial<Brief>,
  channels: Channel[],
  sampleRateHz: number,
): ReturnType<GadgetTemplate['make']> {
  return {
    place: HOME,
    brief: { enduranceH: null, budget: null, readyMade: null, note: '', ...around, asks },
    picks: [],
    hookup: null,
    channels,
    face: null,
    cautionsRead: [],
    sampleRateHz,
  };
}
