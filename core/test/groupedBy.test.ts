import { describe, expect, it } from 'vitest';
import { groupings, groupOf } from '../src/trial/index.ts';

const trial = (label: string, runName = 'run 1', day = '1 May') => ({ label, runName, day });

describe('what trials are put together by', () => {
  it('is the label, its parts where it has several, the run and the day where there are more than one', () => {
    expect(groupings([trial('oak'), trial('iron')])).toEqual(['label']);
    expect(groupings([trial('oak / Wren'), trial('iron', 'run 2'), trial('', 'run 1', '2 May')])).toEqual([
      'label',
      'part 1',
      'part 2',
      'run',
      'day',
    ]);
    expect(groupings([])).toEqual(['label']);
  });

  it('takes the part that is asked for, whatever room is about it, and none where it is missing', () => {
    const of = (label: string, by: Parameters<typeof groupOf>[1]) => groupOf(trial(label), by);
    expect(of('oak /Wren', 'part 2')).toBe('Wren');
    expect(of(' / oak', 'part 1')).toBe('oak');
    expect(of('oak', 'part 2')).toBe('');
    expect(of('oak / Wren', 'label')).toBe('oak / Wren');
    expect(groupOf(trial('x', 'Races', '3 May'), 'run')).toBe('Races');
    expect(groupOf(trial('x', 'Races', '3 May'), 'day')).toBe('3 May');
  });
});
