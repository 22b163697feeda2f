import { Type } from 'typebox';
import { number } from '../../stage/params.ts';
import type { DetectorKind } from '../kind.ts';

/** A button of the bench, pressed by hand: nothing is looked at. */
export const button: DetectorKind<{ handS: number }> = {
  kind: 'button',
  title: 'Manual button',
  summary: 'Pressed by hand in Lucky Needle, with the timing uncertainty of a person',
  looksAt: 'hand',
  params: Type.Object({ handS: number('Timing uncertainty of the hand', { min: 0, max: 10, unit: 's' }) }),
  defaults: { handS: 0.1 },
  levels: [],
  start: () => ({ memory: {}, push: () => undefined }),
};
