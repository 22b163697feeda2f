import type { Gadget } from '../model/gadget.ts';
import type { LineSpec } from '../model/line.ts';
import { lineForSensor } from './feasibility.ts';
import { BOARDS, SENSORS } from './shelf.ts';

export interface GadgetTemplate {
  readonly id: string;
  readonly title: string;
  readonly summary: string;
  /** Whether a simulated gadget can stand in for the real one. */
  readonly canSimulate: boolean;
  make(): Pick<Gadget, 'place' | 'brief' | 'pick' | 'hookup' | 'channels' | 'face' | 'sampleRateHz'>;
}

const HOME = { name: 'My workshop', elevationM: 100, pressureHpa: null };

/** A thermistor channel: converter, divider, curve, correction, smoothing. */
export function thermistorLine(column: string): LineSpec {
  const line = lineForSensor(SENSORS[0]!, BOARDS[0]!, column)!;
  return {
    ...line,
    stages: [
      ...line.stages,
      { id: 'correction', kind: 'gain-offset', params: { gain: 1, offset: 0 }, uncertainty: {}, off: false },
      { id: 'smoothing', kind: 'exponential', params: { timeConstantS: 1 }, uncertainty: {}, off: false },
    ],
  };
}

/** Starting points for a gadget of one's own. A new family is one entry here. */
export const TEMPLATES: readonly GadgetTemplate[] = [
  {
    id: 'several-temperatures',
    title: 'Several temperatures',
    summary: 'Up to four thermistor probes, each trued up on its own',
    canSimulate: true,
    make: () => ({
      place: HOME,
      brief: {
        quantity: 'Temperature',
        unit: 'degC',
        low: 0,
        high: 110,
        tolerance: 1,
        fastest: { kind: 'ramp', ratePerS: 0.3 },
        power: 'wall',
        surroundings: ['heat', 'damp'],
        budget: null,
        note: '',
      },
      pick: null,
      hookup: null,
      channels: [1, 2, 3, 4].map((i) => ({ id: `p${i}`, name: `Probe ${i}`, line: thermistorLine(`p${i}`) })),
      face: null,
      sampleRateHz: 10,
    }),
  },
  {
    id: 'empty',
    title: 'Empty brief',
    summary: 'One raw channel; you say what it shall show',
    canSimulate: false,
    make: () => ({
      place: HOME,
      brief: null,
      pick: null,
      hookup: null,
      channels: [
        { id: 'c1', name: 'Channel 1', line: { sources: [{ column: 'c1', unit: 'count' }], stages: [] } },
      ],
      face: null,
      sampleRateHz: 10,
    }),
  },
];
