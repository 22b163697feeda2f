import type { Gadget } from '../model/gadget.ts';

export interface Caution {
  readonly id: string;
  readonly text: string;
}

/** Cautions that the gadget's own brief calls for; each one or two lines, listed in the report as well. */
export function cautionsFor(gadget: Pick<Gadget, 'brief' | 'channels'>): Caution[] {
  const cautions: Caution[] = [];
  const hot = gadget.brief?.unit === 'degF' ? 140 : 60;
  if (gadget.brief && ['degC', 'degF', 'K'].includes(gadget.brief.unit) && gadget.brief.high >= hot) {
    cautions.push({
      id: 'hot',
      text: 'Hot water, steam and kilns burn. Fix the pot and the leads, keep children away, let things cool before touching.',
    });
  }
  if (gadget.brief?.power === 'wall') {
    cautions.push({
      id: 'mains',
      text: 'Feed the gadget from a certified low-voltage supply. Anything above extra-low voltage is for a licensed electrician and the local code.',
    });
  }
  return cautions;
}
