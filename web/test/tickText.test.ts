import { describe, expect, it } from 'vitest';
import { isNamedOnLog, placeText, tickText } from '../src/parts/tickText.ts';

describe('marks on an axis', () => {
  it.each([
    [0, '0'],
    [0.1 + 0.2, '0.3'],
    [-2.5, '-2.5'],
    [250000, '250000'],
    [0.0002, '0.0002'],
    [0.000002, '2·10⁻⁶'],
    [1e-6, '10⁻⁶'],
    [-1e-6, '−10⁻⁶'],
    [3.5e12, '3.5·10¹²'],
  ])('%d is %s', (value, text) => expect(tickText(value)).toBe(text));

  it('have names where things stand there, and nothing beside them', () => {
    const people = { label: 'who', unit: '', names: ['Miller', 'Founder'] };
    expect([0, 0.9, 1.5, 2, 3].map((v) => placeText(people, v, 5))).toEqual([
      '',
      'Miller',
      '',
      'Founder',
      '',
    ]);
    expect(placeText({ label: 'time', unit: 's' }, 1.23456789, 5)).toBe('1.2346 s');
  });

  it('are named at 1, 2 and 5 of each power of ten', () => {
    const marks = [-7, -3, 0, 4].flatMap((power) => [1, 2, 3, 4, 5, 6, 7, 8, 9].map((v) => v * 10 ** power));
    expect(marks.filter(isNamedOnLog)).toHaveLength(12);
  });
});
