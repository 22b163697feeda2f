import { counting, made, watch, workedOut } from './counted.ts';
import { channel, sections, stage, type GadgetTemplate } from './template.ts';

/** Heading from magnetic field and gravity. */
export const heading: GadgetTemplate = {
  id: 'heading',
  family: 12,
  title: 'Heading',
  summary: 'Direction something points in, with an alarm for a sector',
  reasons: {
    'heading.range': 'The full circle.',
    'heading.tolerance': 'Half a point of the compass, about 5°.',
    'heading.fastest': 'A vane swings round in about ten seconds; faster flutter is unwanted.',
    'mean.range': 'The full circle.',
    'mean.tolerance': 'Same as for the heading.',
    'mean.fastest': 'Averaged over one minute.',
    'wander.range': 'Beyond a right angle there is no clear direction.',
    'wander.tolerance': 'A degree.',
    'wander.fastest': 'Averaged over one minute.',
    'sector.range': 'A windy hour.',
    'sector.tolerance': 'A few seconds.',
    'sector.fastest': 'It accumulates while the vane is in the sector.',
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
        workedOut('mean', 'Mean heading', 'deg', 0, 360, 5),
        workedOut('wander', 'Wander', 'deg', 0, 90, 1),
        workedOut('sector', 'Time in the shutters’ sector', 's', 0, 3600, 5),
      ],
      { power: 'battery', enduranceH: 168, surroundings: ['sun'] },
      [
        counting(
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
          [
            watch('sector', 'In the shutters’ sector', 'sector', {
              fromDeg: 315,
              toDeg: 45,
              hysteresisDeg: 5,
            }),
          ],
          [
            made('mean', 'Mean heading', 'mean', {}, { windowS: 60 }, { askId: 'mean' }),
            made('wander', 'Wander', 'wander', {}, { windowS: 60 }, { askId: 'wander' }),
            made(
              'sector',
              'Time in the shutters’ sector',
              'time-beyond',
              { of: 'sector' },
              {},
              { askId: 'sector' },
            ),
          ],
        ),
      ],
      20,
    ),
};
