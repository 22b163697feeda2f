import { describe, expect, it } from 'vitest';
import { characterFace, faceUnit, type FaceContent } from '../src/face/index.ts';

describe('characterFace', () => {
  const content: FaceContent = {
    columns: 20,
    rows: 4,
    big: { label: 'P4', value: 97.84, unit: 'C' },
    list: [61.04, 65.2, Number.NaN, 97.84].map((value, i) => ({ label: String(i + 1), value, unit: 'C' })),
    decimals: 1,
    alarm: 'limit',
  };
  const text = (c: FaceContent) =>
    characterFace(c).map((row) => row.map((cell) => (cell.shape ? '#' : cell.text)).join(''));

  it('fits the display exactly and lists every channel', () => {
    const rows = text(content);
    expect(rows.map((r) => r.length)).toEqual([20, 20, 20, 20]);
    expect(rows[0]!.slice(12)).toBe('1  61.0C');
    expect(rows[2]!.slice(12)).toBe('3    --C');
    expect(rows[3]).toBe('P4 LIMIT!   4  97.8C');
  });

  it('writes three big figures with the point between them', () => {
    const rows = characterFace(content);
    const shapes = rows.slice(0, 3).map((row) =>
      row
        .slice(0, 12)
        .map((c) => c.shape ?? c.text)
        .join(''),
    );
    expect(shapes[0]).toBe('FUF UUF FUF ');
    expect(shapes[2]!.indexOf('.')).toBe(7);
  });

  it('drops the decimal rather than a figure when the number is too long', () => {
    const wide = characterFace({ ...content, big: { label: 'P1', value: 108.63, unit: 'C' } });
    expect(wide[2]!.slice(0, 12).some((c) => c.text === '.')).toBe(false);
    expect(
      characterFace({ ...content, big: { label: 'P1', value: Number.NaN, unit: 'C' } })[1]!
        .slice(0, 3)
        .map((c) => c.shape),
    ).toEqual(['U', 'U', 'U']);
  });

  it('shows as many decimals as there is room for, and no minus zero', () => {
    const fine = { ...content, decimals: 2 };
    const big = (value: number) =>
      characterFace({ ...fine, big: { label: 'C1', value, unit: '' } })[2]!
        .slice(0, 12)
        .filter((c) => c.text === '.').length;
    expect([big(9.87), big(60.03), big(-0.004)]).toEqual([1, 1, 1]);
    const row = text({ ...fine, list: [{ label: '1', value: -0.004, unit: 'N' }] })[0]!;
    expect(row.slice(12)).toBe('1  0.00N');
    expect(text({ ...fine, list: [{ label: '1', value: 12345.678, unit: 'N' }] })[0]!.slice(12)).toBe(
      '112346N'.padStart(8).replace(' 1', '1 '),
    );
  });

  it('shows thousands where three figures do not do, and says so', () => {
    const rows = text({ ...content, big: { label: 'C1', value: 1487, unit: 'N' }, alarm: 'quiet' });
    expect(rows[3]!.slice(0, 12)).toBe('C1 k ok     ');
    expect(text({ ...content, list: [{ label: '1', value: 1487, unit: 'N' }] })[0]!.slice(12)).toBe(
      '11487.0N',
    );
  });

  it('writes units in the letters that a display has', () => {
    expect((['degC', 'degF', 'ohm', 'us', 'mps2', 'kN'] as const).map(faceUnit)).toEqual([
      'C',
      'F',
      'Ohm',
      'us',
      'm/s',
      'kN',
    ]);
  });

  it('refuses a display that is too small, or more channels than rows', () => {
    expect(() => characterFace({ ...content, columns: 16, rows: 2 })).toThrow(
      /needs 20 x 4 characters; the display has 16 x 2/,
    );
    expect(() => characterFace({ ...content, list: [...content.list, content.list[0]!] })).toThrow(
      /4 rows and 5 channels/,
    );
  });
});
