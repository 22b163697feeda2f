import { counting, made, watch, workedOut } from './counted.ts';
import { stopped } from '../namedStates.ts';
import { channel, named, sections, stage, type GadgetTemplate } from './template.ts';
import { axesToG, THREE_AXES } from './threeAxes.ts';

/** Strokes of something that swings or shakes, counted from its acceleration. */
export const motionCounter: GadgetTemplate = {
  id: 'motion-counter',
  family: 3,
  title: 'Repeated-motion counter',
  summary: 'Strokes and their cadence from three-axis acceleration',
  reasons: {
    'strokes.range': 'Up to a little more than two strokes per second.',
    'strokes.tolerance': 'One stroke per minute.',
    'strokes.fastest': 'Twice the fastest cadence, so that the shape of a stroke is preserved.',
    'strokes.sensed': 'A shaker stays within 3 g; half a tenth of a g tells a stroke from a tremor.',
    'count.range': 'A sack takes a thousand strokes; a day has about twenty sacks.',
    'count.tolerance': 'Two in a thousand.',
    'count.fastest': 'It only counts up.',
    power: 'It is mounted on the moving part.',
    enduranceH: 'One week between battery changes.',
    surroundings: 'Vibration and flour dust.',
  },
  make: () =>
    sections(
      [
        {
          id: 'strokes',
          quantity: 'Strokes',
          unit: 'perMin',
          low: 0,
          high: 150,
          tolerance: 1,
          fastest: { kind: 'tone', frequencyHz: 5 },
          measurand: 'acceleration',
          sensed: { unit: 'gn', low: -3, high: 3, tolerance: 0.05 },
        },
        workedOut('count', 'Strokes since reset', '1', 0, 20000, 2),
      ],
      { power: 'battery', enduranceH: 168, surroundings: ['shaking', 'dust'] },
      [
        named(
          counting(
            channel(
              'shake',
              'strokes',
              'Shaker',
              THREE_AXES,
              axesToG(4096),
              // Along the stroke: the size of all three together rises twice a stroke wherever gravity lies across it.
              stage('axis', 'pick-column', { column: 1 }),
              stage('band', 'butterworth-bandpass', { order: 2, lowHz: 0.4, highHz: 6 }),
            ),
            [
              watch('stroke', 'Stroke', 'beat', { minHeight: 0.5, refractoryS: 0.2, memoryS: 3 }),
              watch('bout', 'Bout', 'bout', {
                minHeight: 0.5,
                refractoryS: 0.2,
                memoryS: 3,
                gapS: 5,
                least: 5,
              }),
            ],
            [
              made('cadence', 'Cadence', 'cadence', { of: 'stroke' }, { over: 10, stillS: 4 }),
              made('count', 'Strokes since reset', 'count', { of: 'stroke' }, {}, { askId: 'count' }),
              made('longest', 'Longest bout', 'event-length', { of: 'bout' }),
              made('scatter', 'Stroke interval scatter', 'interval-scatter', { of: 'stroke' }),
            ],
            'cadence',
          ),
          stopped('perMin'),
        ),
      ],
      50,
    ),
};
