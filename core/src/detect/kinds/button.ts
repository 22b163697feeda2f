import { Type } from 'typebox';
import { number } from '../../stage/params.ts';
import type { DetectorKind } from '../kind.ts';

/** A button of the bench, pressed by hand: nothing is looked at. */
export const button: DetectorKind<{ handS: number }> = {
  kind: 'button',
  title: 'Button in the bench',
  summary: 'Pressed by hand, with the uncertainty of a hand',
  looksAt: 'hand',
  params: Type.Object({ handS: number('A hand is sure to', { min: 0, max: 10, unit: 's' }) }),
  defaults: { handS: 0.1 },
  levels: [],
  start: () => ({ memory: {}, push: () => undefined }),
};
