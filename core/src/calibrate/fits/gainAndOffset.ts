import { CORRECTION, correctionOf } from './correction.ts';
import type { FitKind } from './fitKind.ts';

type Words = Pick<FitKind, 'id' | 'title' | 'assumes'>;

/** A fit of gain, offset or both of the correction, each point weighted by its uncertainty. */
function straight(words: Words, constants: readonly ('gain' | 'offset')[]): FitKind {
  return {
    ...words,
    parameterCount: constants.length,
    needs: CORRECTION,
    setUp(line, context, points) {
      const correction = correctionOf(line, context, points);
      if (typeof correction === 'string') return correction;
      return { line, targets: constants.map((name) => correction[name]) };
    },
  };
}

export const offsetOnly = straight(
  { id: 'offset', title: 'Offset', assumes: 'The error is the same over the whole range.' },
  ['offset'],
);

export const gainOnly = straight(
  { id: 'gain', title: 'Gain', assumes: 'Zero is correct; the error is proportional to the reading.' },
  ['gain'],
);

export const gainAndOffset = straight(
  {
    id: 'gain-offset',
    title: 'Gain and offset',
    assumes:
      'The error changes linearly over the range: a straight line through readings and reference values.',
  },
  ['gain', 'offset'],
);
