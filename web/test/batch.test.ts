import { describe, expect, it } from 'vitest';
import { runNameOf, takenAs } from '../src/pages/runs/batch.ts';

const upload = (...units: ('V' | null)[]) =>
  ({ columns: units.map((unit) => ({ name: '', unit })) }) as unknown as Parameters<
    typeof takenAs
  >[0]['upload'];

describe('a file of many', () => {
  it('is taken by its matched columns, raw where no unit is known, and the others left out', () => {
    expect(takenAs({ upload: upload(null, 'V', null), matched: ['p1', null, 'p2'] }, ['p1', 'p2'])).toEqual([
      { at: 0, name: 'p1', unit: 'count' },
      { at: 2, name: 'p2', unit: 'count' },
    ]);
    expect(takenAs({ upload: upload('V'), matched: ['p1'] }, ['p1'])).toEqual([
      { at: 0, name: 'p1', unit: 'V' },
    ]);
  });

  it('is looked at by itself where a raw column is missing, and says which', () => {
    expect(takenAs({ upload: upload(null), matched: ['p1'] }, ['p1', 'p2', 'p3'])).toBe(
      'No column for p2, p3. Import this file on its own.',
    );
  });

  it('names its run without the ending', () => {
    expect(runNameOf('race 7.csv')).toBe('race 7');
    expect(runNameOf('.csv')).toBe('Imported file');
    expect(runNameOf(`${'x'.repeat(100)}.log`)).toHaveLength(80);
  });
});
