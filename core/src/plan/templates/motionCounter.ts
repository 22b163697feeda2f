import { channel, sections, stage, type GadgetTemplate } from './template.ts';
import { axesToG, THREE_AXES } from './threeAxes.ts';

/** Strokes of something that swings or shakes, counted from its acceleration. */
export const motionCounter: GadgetTemplate = {
  id: 'motion-counter',
  family: 3,
  title: 'Repeated-motion counter',
  summary: 'Strokes and their cadence from three axes of acceleration',
  reasons: {
    'strokes.range': 'Up to more than two strokes a second.',
    'strokes.tolerance': 'One stroke a minute more or less.',
    'strokes.fastest': 'Twice the quickest cadence, so that the shape of a stroke is kept.',
    'strokes.sensed': 'A shaker stays within 3 g; half a tenth tells a stroke from a tremor.',
    power: 'It rides on what moves.',
    enduranceH: 'A week between changes of cells.',
    surroundings: 'It shakes, and flour flies.',
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
      ],
      { power: 'battery', enduranceH: 168, surroundings: ['shaking', 'dust'] },
      [channel('shake', 'strokes', 'Shaker', THREE_AXES, axesToG(4096), stage('size', 'magnitude', {}))],
      50,
    ),
};
