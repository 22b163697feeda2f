import { CORRECTION, correctionOf } from './correction.ts';
import type { FitKind } from './fitKind.ts';

/** A shift alone. */
export const offsetOnly: FitKind = {
  id: 'offset',
  title: 'Offset',
  assumes: 'The error is the same everywhere on the scale.',
  parameterCount: 1,
  needs: CORRECTION,
  setUp(line, context, points) {
    const correction = correctionOf(line, context, points);
    return typeof correction === 'string' ? correction : { line, targets: [correction.offset] };
  },
};

/** A stretch alone. */
export const gainOnly: FitKind = {
  id: 'gain',
  title: 'Gain',
  assumes: 'Zero is right; the error grows in proportion to the reading.',
  parameterCount: 1,
  needs: CORRECTION,
  setUp(line, context, points) {
    const correction = correctionOf(line, context, points);
    return typeof correction === 'string' ? correction : { line, targets: [correction.gain] };
  },
};

/** A straight line between shown and true value, each point weighted by its uncertainty. */
export const gainAndOffset: FitKind = {
  id: 'gain-offset',
  title: 'Gain and offset',
  assumes: 'The error grows evenly along the scale: a straight line through shown and true values.',
  parameterCount: 2,
  needs: CORRECTION,
  setUp(line, context, points) {
    const correction = correctionOf(line, context, points);
    return typeof correction === 'string'
      ? correction
      : { line, targets: [correction.gain, correction.offset] };
  },
};
