import { counting, made, watch, workedOut } from './counted.ts';
import { stopped } from '../namedStates.ts';
import { channel, named, sections, stage, type GadgetTemplate } from './template.ts';

/** Beats of a pendulum or of anything that swings through a beam of light. */
export const beatRate: GadgetTemplate = {
  id: 'beat-rate',
  family: 5,
  title: 'Optical beat rate',
  summary: 'Beats per minute from reflected light',
  reasons: {
    'beats.range': 'A tower clock beats sixty times per minute or less.',
    'beats.tolerance':
      'A twentieth of a beat is more than a minute per day; counting for longer is more accurate.',
    'beats.fastest': 'The shape of a flash of a tenth of a second is preserved.',
    'beats.sensed': 'Light as a voltage; only its changes matter.',
    'gain.range': 'You can hear it if a clock is worse than this.',
    'gain.tolerance': 'Half a minute per week is four seconds per day; the crystal is no more accurate.',
    'gain.fastest': 'It takes hours to become visible.',
    'missed.range': 'None, if the beam is well aligned.',
    'missed.tolerance': 'Every beat matters.',
    'missed.fastest': 'At most one per beat.',
    power: 'There is no socket near the clock in the tower.',
    enduranceH: 'Two days, to follow the clock overnight.',
    surroundings: 'The clockwork shakes with every beat.',
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
        workedOut('gain', 'Daily gain or loss', 'sPerD', -120, 120, 5),
        workedOut('missed', 'Missed or doubled beats', '1', 0, 100, 0.5),
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
            made('gain', 'Daily gain or loss', 'day-drift', { of: 'beat' }, { nominalS: 1 }),
            made('missed', 'Missed or doubled beats', 'missed', { of: 'beat' }, {}, { askId: 'missed' }),
            made('scatter', 'Interval scatter', 'interval-scatter', { of: 'beat' }, { over: 60 }),
            made('count', 'Beats since reset', 'count', { of: 'beat' }),
          ],
          'gain',
        ),
      ],
      100,
    ),
};
