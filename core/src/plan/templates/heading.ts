import { channel, sections, stage, type GadgetTemplate } from './template.ts';

/** Heading from magnetic field and gravity. */
export const heading: GadgetTemplate = {
  id: 'heading',
  family: 12,
  title: 'Heading',
  summary: 'Where something points, with an alarm on a sector',
  reasons: {
    'heading.range': 'All around.',
    'heading.tolerance': 'Half a point of the compass, about 5°.',
    'heading.fastest': 'A vane swings round in some ten seconds; quicker flutter is not wanted.',
    power: 'On the roof.',
    enduranceH: 'A week between visits.',
    surroundings: 'Sun, and iron not far away.',
  },
  make: () =>
    sections(
      [
        {
          id: 'heading',
          quantity: 'Heading',
          unit: 'deg',
          low: 0,
          high: 360,
          tolerance: 5,
          fastest: { kind: 'ramp', ratePerS: 20 },
          measurand: 'heading',
          sensed: null,
        },
      ],
      { power: 'battery', enduranceH: 168, surroundings: ['sun'] },
      [
        channel(
          'vane',
          'heading',
          'Wind vane',
          (['mx', 'my', 'mz', 'ax', 'ay', 'az'] as const).map((c) => [c, 'count'] as const),
          stage('iron', 'vector-correction', {
            offset: [0, 0, 0],
            matrix: [1, 0, 0, 0, 1, 0, 0, 0, 1],
            to: 'count',
          }),
          stage('heading', 'heading', { declinationDeg: 0, mountingDeg: 0 }),
          stage('column', 'pick-column', { column: 1 }),
        ),
      ],
      20,
    ),
};
