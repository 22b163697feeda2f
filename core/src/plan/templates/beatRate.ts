import { counting, made, watch, workedOut } from './counted.ts';
import { stopped } from '../namedStates.ts';
import { channel, named, sections, stage, type GadgetTemplate } from './template.ts';

/** Beats of a pendulum or of anything that swings through a beam of light. */
export const beatRate: GadgetTemplate = {
  id: 'beat-rate',
  family: 5,
  title: 'Optical beat rate',
  summary: 'Beats a minute from light that is thrown back',
  reasons: {
    'beats.range': 'A tower clock beats sixty times a minute or less.',
    'beats.tolerance': 'A twentieth of a beat is more than a minute a day; longer counting does better.',
    'beats.fastest': 'A flash of a tenth of a second keeps its shape.',
    'beats.sensed': 'Light as volts; only its ups and downs matter.',
    'gain.range': 'A clock that is worse is heard to be.',
    'gain.tolerance': 'Half a minute a week is four seconds a day; the crystal knows no better.',
    'gain.fastest': 'It takes hours to show.',
    'missed.range': 'None, if the beam is well set.',
    'missed.tolerance': 'Every one counts.',
    'missed.fastest': 'One a beat at most.',
    power: 'The tower has no socket by the clock.',
    enduranceH: 'Two days, to see the clock over nights.',
    surroundings: 'The works shake with each beat.',
  },
  make: () =>
    sections(
      [
        {
          id: 'beats',
          quantity: 'Beat rate',
          unit: 'perMin',
          low: 20,
          high: 120,
          tolerance: 0.05,
          fastest: { kind: 'tone', frequencyHz: 8 },
          measurand: 'reflected light',
          sensed: { unit: 'V', low: 0.2, high: 2.8, tolerance: 0.1 },
        },
        workedOut('gain', 'Gain or loss a day', 'sPerD', -120, 120, 5),
        workedOut('missed', 'Beats missed or doubled', '1', 0, 100, 0.5),
      ],
      { power: 'battery', enduranceH: 48, surroundings: ['shaking'] },
      [
        named(
          channel(
            'beat',
            'beats',
            'Pendulum',
            [['light', 'count']],
            stage('adc', 'adc', { bits: 12, referenceV: 3.3, gives: 'volt' }),
            stage('rate', 'beat-rate', {
              over: 20,
              shortestS: 0.4,
              memoryS: 4,
              minHeight: 0.2,
              to: 'perMin',
            }),
            stage('clock', 'gain-offset', { gain: 1, offset: 0 }),
          ),
          stopped('perMin'),
        ),
        // The light itself, whose flashes are counted one by one.
        counting(
          channel(
            'flash',
            'gain',
            'Flashes',
            [['light', 'count']],
            stage('adc', 'adc', { bits: 12, referenceV: 3.3, gives: 'volt' }),
          ),
          [watch('beat', 'Beat', 'beat', { minHeight: 0.2, refractoryS: 0.4, memoryS: 4 })],
          [
            made('gain', 'Gain or loss a day', 'day-drift', { of: 'beat' }, { nominalS: 1 }),
            made('missed', 'Beats missed or doubled', 'missed', { of: 'beat' }, {}, { askId: 'missed' }),
            made('scatter', 'Scatter of intervals', 'interval-scatter', { of: 'beat' }, { over: 60 }),
            made('count', 'Beats since the reset', 'count', { of: 'beat' }),
          ],
          'gain',
        ),
      ],
      100,
    ),
};
